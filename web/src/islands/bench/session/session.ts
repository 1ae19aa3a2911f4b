import { readTuning } from '@zygopod/core';
import type { Opening } from '../../../server/openings.ts';
import { Surveyor } from '../../shared/surveyor.ts';
import type { BenchSession, Painter } from '../context.ts';
import { DeviceHub } from '../devices/hub.ts';
import { listenToKeyboard } from '../devices/keyboard.ts';
import { pollPads } from '../devices/pad.ts';
import { Drive } from './drive.ts';
import { Editing } from './editing.ts';
import { Saving } from './saving.ts';

/** A bench in use: its parts wired together, until `start`'s answer is called. */
export interface OpenSession extends BenchSession {
  start(): () => void;
  save(note: string): Promise<string | null>;
}

/** Lays out a bench from what the server gave, and from changes that this browser could not send last time. */
export function openSession(opening: Opening): OpenSession {
  const version = opening.draft?.version ?? 0;
  const unsent = readTuning(Saving.unsent(opening.id, version));
  const now = unsent.ok ? unsent.value.file : (opening.draft?.file ?? opening.saved);
  const editing = new Editing(now, opening.saved);
  const saving = new Saving({ id: opening.id, head: opening.head, draftVersion: version });
  const drive = new Drive(editing.$tuning.get().parameters, opening.ground.file);
  const painters = new Set<Painter>();
  const surveyor = new Surveyor();
  const hub = new DeviceHub((event) => {
    drive.recorder.push(event);
    drive.wake();
  });
  if (unsent.ok) saving.keep(now);

  const start = () => {
    const stops = [
      editing.$tuning.listen(({ parameters }) => {
        drive.world.setParameters(parameters);
        drive.refresh();
      }),
      editing.$now.listen((file) => saving.keep(file)),
      listenToKeyboard(window, hub),
      runFrames((elapsed, at) => {
        pollPads(hub);
        drive.advance(elapsed);
        for (const paint of painters) paint(at);
      }),
    ];
    const leaving = () => void saving.flush();
    window.addEventListener('pagehide', leaving);
    return () => {
      window.removeEventListener('pagehide', leaving);
      for (const stop of stops) stop();
      surveyor.stop();
    };
  };

  const save = async (note: string) => {
    editing.endGesture();
    const file = editing.$now.get();
    const fault = await saving.saveRevision(file, note);
    if (fault === null) editing.$before.set(file);
    return fault;
  };

  return { editing, saving, drive, hub, painters, surveyor, start, save };
}

/** How many frames the work figures are taken over. */
const WINDOW = 60;

/** Calls `frame` once a frame with the seconds gone by. The page's work a frame is told on the document, for whoever measures. */
function runFrames(frame: (elapsed: number, at: number) => void): () => void {
  let last = performance.now();
  let request = 0;
  let frames = 0;
  let work = 0;
  const run = (at: number) => {
    request = requestAnimationFrame(run);
    const begun = performance.now();
    frame(Math.max(0, (at - last) / 1000), at);
    last = at;
    work += performance.now() - begun;
    if (++frames % WINDOW === 0) {
      document.documentElement.dataset['frameWork'] = (work / WINDOW).toFixed(3);
      document.documentElement.dataset['frames'] = String(frames);
      work = 0;
    }
  };
  request = requestAnimationFrame(run);
  return () => cancelAnimationFrame(request);
}
