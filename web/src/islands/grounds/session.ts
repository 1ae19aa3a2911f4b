import { type Ground, type Parameters, readGround, resolveTuning } from '@zygopod/core';
import { createContext, useContext } from 'react';
import type { GroundOpening } from '../../server/data/openings.ts';
import { type Painter, runFrames } from '../chart/frames.ts';
import { Drive } from '../drive/drive.ts';
import { DeviceHub } from '../drive/hub.ts';
import { listenToKeyboard } from '../drive/keyboard.ts';
import { pollPads } from '../drive/pad.ts';
import { Surveyor } from '../drive/surveyor.ts';
import { begin } from '../work/opened.ts';
import { Saving } from '../work/saving.ts';
import { Steps } from '../work/steps.ts';

/** A ground under work, with a body that can be driven over it all the while. */
export interface GroundSession {
  steps: Steps<Ground>;
  saving: Saving<Ground>;
  drive: Drive;
  hub: DeviceHub;
  surveyor: Surveyor;
  painters: Set<Painter>;
  parameters: Parameters;
  start(): () => void;
  save(note: string): Promise<string | null>;
}

export const GroundContext = createContext<GroundSession | null>(null);

export function useGround(): GroundSession {
  const session = useContext(GroundContext);
  if (!session) throw new Error('outside of the Grounds screen');
  return session;
}

export function openGroundSession({ ground: opened, tuning }: GroundOpening): GroundSession {
  const read = resolveTuning(tuning.file);
  if (!read.ok) throw new Error(`the tuning does not resolve: ${JSON.stringify(read.faults)}`);
  const { parameters } = read.value;
  const unsent = readGround(Saving.unsent(opened.id, opened.draft?.base ?? opened.head, opened.draft?.version ?? 0));
  const { now, origin, state } = begin(opened, unsent.ok ? unsent.value : null);
  const steps = new Steps<Ground>(now);
  const saving = new Saving<Ground>('grounds', origin, state);
  const surveyor = new Surveyor();
  const drive = new Drive(parameters, now);
  const hub = new DeviceHub((event) => {
    drive.recorder.push(event);
    drive.wake();
  });
  const painters = new Set<Painter>();
  if (unsent.ok) saving.keep(now);

  const start = () => {
    // The walls are sorted in the worker, so that a drag over a large ground never holds the page.
    surveyor.onWalls = (ground, walls) => drive.changeGround(ground, walls);
    surveyor.ask(steps.$now.get(), parameters);
    const stops = [
      steps.$now.listen((file) => {
        saving.keep(file);
        surveyor.ask(file, parameters);
      }),
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
    steps.endGesture();
    return saving.saveRevision(steps.$now.get(), note);
  };

  return { steps, saving, drive, hub, surveyor, painters, parameters, start, save };
}
