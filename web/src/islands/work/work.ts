import { collectionOf } from '@zygopod/core';
import type { Opened, Opening, Subject } from '../../server/data/openings.ts';
import { type Painter, runFrames } from '../chart/frames.ts';
import type { Drive } from '../drive/drive.ts';
import { DeviceHub } from '../drive/hub.ts';
import { listenToKeyboard } from '../drive/keyboard.ts';
import { Mesher } from '../drive/mesher.ts';
import { pollPads } from '../drive/pad.ts';
import { Surveyor } from '../drive/surveyor.ts';
import { listenToServer } from './changes.ts';
import { Adopting } from './saving/adopting.ts';
import { browserCopies, takeKept } from './saving/atHand.ts';
import { begin } from './saving/opened.ts';
import { holdPage, newPageId } from './saving/pages.ts';
import { Saving } from './saving/saving.ts';
import type { Steps } from './steps.ts';
import { isUnfinished } from './unfinished.ts';
import { createUnsaved } from './unsaved.ts';

/** How a kind of document is worked on. */
export interface Trade<F extends object, S extends Steps<F>> {
  subject: Subject;
  /** A file that this browser kept, or null where it is none. */
  read(kept: unknown): F | null;
  /** Undo and redo over the file. */
  steps(now: F, before: F): S;
  /** The world in which the work is driven. */
  drive(steps: S): Drive;
  /** Keeps the world up with the file until the answers are called. */
  follow(work: Work<F, S>): (() => void)[];
  /** An empty file to begin another document with. */
  fresh(now: F): F;
}

/** A document under work on a screen, its parts wired together; at work until `start`'s answer is called. */
export interface Work<F extends object, S extends Steps<F> = Steps<F>> {
  trade: Trade<F, S>;
  opening: Opening;
  steps: S;
  saving: Saving<F>;
  adopting: Adopting<F>;
  drive: Drive;
  hub: DeviceHub;
  surveyor: Surveyor;
  painters: Set<Painter>;
  /** Conditions, besides a resting drive, for frames to show nothing new. */
  rests: Set<() => boolean>;
  start(): () => void;
  /** Saves a revision; null, or why it failed. */
  save(note: string): Promise<string | null>;
}

/** Identifies this page to others that look for stored copies. */
const page = newPageId();

/** Sets up work from the server's state and from stored copies. */
export function openWork<F extends object, S extends Steps<F>>(trade: Trade<F, S>, opening: Opening): Work<F, S> {
  const opened = opening[trade.subject] as unknown as Opened<F>;
  const { now, before, origin, state } = begin(opened);
  const steps = trade.steps(now, before);
  const saving = new Saving<F>(collectionOf(trade.subject), origin, state, browserCopies, page, () => createUnsaved(opening));
  const adopting = new Adopting<F>(trade.subject, { steps, saving, copies: browserCopies, read: trade.read });
  const kept = takeKept(opened.id);
  for (const copy of kept.left) adopting.take(copy);
  const drive = trade.drive(steps);
  const surveyor = new Surveyor();
  const mesher = new Mesher(drive);
  const painters = new Set<Painter>();
  const rests = new Set<() => boolean>();
  const hub = new DeviceHub((event) => drive.say(event));

  let isAdopting = false;
  /** Adopts somebody else's saved state if this page has no changes of its own. */
  const meetOthers = async () => {
    const found = await saving.look();
    const file = found === null ? null : trade.read(found);
    if (file === null) return;
    isAdopting = true;
    steps.$before.set(file);
    steps.replace(file, 'what was saved elsewhere');
    isAdopting = false;
  };

  const start = () => {
    const stops = [
      ...trade.follow(work),
      holdPage(page),
      adopting.follow(kept.others),
      steps.$now.listen((file) => {
        if (!isAdopting) saving.keep(file as F);
      }),
      listenToServer((change) => {
        if (change?.id === saving.id && change.is === 'away') return void saving.archived();
        const concerns = change === null || (change.id === saving.id && (change.is !== 'saved' || change.head > saving.$head.get()));
        if (concerns) void meetOthers();
      }),
      listenToKeyboard(window, hub),
      runFrames(
        (elapsed, at) => {
          pollPads(hub);
          drive.advance(elapsed);
          mesher.look();
          for (const paint of painters) paint(at);
        },
        { isStill: () => !drive.$running.get() && [...rests].every((isStill) => isStill()), poll: () => pollPads(hub) },
      ),
    ];
    const leaving = () => {
      steps.endGesture();
      void saving.flush();
      saving.leave();
    };
    const asking = (event: BeforeUnloadEvent) => {
      const isAtRisk = isUnfinished();
      if (!saving.leave() || isAtRisk) event.preventDefault();
    };
    const back = () => void saving.retry();
    window.addEventListener('pagehide', leaving);
    window.addEventListener('beforeunload', asking);
    window.addEventListener('online', back);
    return () => {
      window.removeEventListener('pagehide', leaving);
      window.removeEventListener('beforeunload', asking);
      window.removeEventListener('online', back);
      for (const stop of stops) stop();
      surveyor.stop();
      mesher.stop();
    };
  };

  const save = async (note: string) => {
    steps.endGesture();
    const file = steps.$now.get();
    const fault = await saving.saveRevision(file, note);
    if (fault === null) steps.$before.set(file);
    return fault;
  };

  const work: Work<F, S> = { trade, opening, steps, saving, adopting, drive, hub, surveyor, painters, rests, start, save };
  return work;
}

/** Returns the file shown for a document that isn't being edited: its draft, else its newest revision. */
export const currentOf = <F>({ draft, saved }: Opened<F>): F => draft?.file ?? saved;
