import { readTuning, type TuningFile } from '@zygopod/core';
import type { Opening } from '../../../server/data/openings.ts';
import { type Painter, runFrames } from '../../chart/frames.ts';
import { Drive } from '../../drive/drive.ts';
import { DeviceHub } from '../../drive/hub.ts';
import { listenToKeyboard } from '../../drive/keyboard.ts';
import { Mesher } from '../../drive/mesher.ts';
import { pollPads } from '../../drive/pad.ts';
import { Surveyor } from '../../drive/surveyor.ts';
import { begin } from '../../work/opened.ts';
import { Saving } from '../../work/saving.ts';
import type { BenchSession } from '../context.ts';
import { Editing } from './editing.ts';

/** A bench in use: its parts wired together, until `start`'s answer is called. */
interface OpenSession extends BenchSession {
  start(): () => void;
  save(note: string): Promise<string | null>;
}

/** Lays out a bench from what the server gave, and from changes that this browser could not send last time. */
export function openSession(opening: Opening): OpenSession {
  const unsent = readTuning(Saving.unsent(opening.id, opening.draft?.base ?? opening.head, opening.draft?.version ?? 0));
  const { now, before, origin, state } = begin(opening, unsent.ok ? unsent.value.file : null);
  const editing = new Editing(now, before);
  const saving = new Saving<TuningFile>('tunings', origin, state);
  const drive = new Drive(editing.$tuning.get().parameters, opening.ground.file);
  const painters = new Set<Painter>();
  const surveyor = new Surveyor();
  const mesher = new Mesher(drive);
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
        mesher.look();
        for (const paint of painters) paint(at);
      }),
    ];
    const leaving = () => void saving.flush();
    window.addEventListener('pagehide', leaving);
    return () => {
      window.removeEventListener('pagehide', leaving);
      for (const stop of stops) stop();
      surveyor.stop();
      mesher.stop();
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
