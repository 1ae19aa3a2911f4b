import { type Ground, newGround, type Parameters, readGround, resolveTuning } from '@zygopod/core';
import { createContext, useContext } from 'react';
import type { Opening } from '../../server/data/openings.ts';
import { Drive } from '../drive/drive.ts';
import { Steps } from '../work/steps.ts';
import { currentOf, openWork, type Work } from '../work/work.ts';
import { type Drawing, newDrawing } from './tools.ts';

/** A ground under work, with a body that can be driven over it all the while. */
export interface GroundWork extends Work<Ground> {
  parameters: Parameters;
  drawing: Drawing;
}

export const GroundContext = createContext<GroundWork | null>(null);

export function useGround(): GroundWork {
  const work = useContext(GroundContext);
  if (!work) throw new Error('no ground is under work here');
  return work;
}

/** Opens a ground to be worked on, under the body of its tuning. */
export function openGroundWork(opening: Opening): GroundWork {
  const read = resolveTuning(currentOf(opening.tuning));
  if (!read.ok) throw new Error(`the tuning does not resolve: ${JSON.stringify(read.faults)}`);
  const { parameters } = read.value;
  const work = openWork<Ground, Steps<Ground>>(
    {
      subject: 'ground',
      read: (kept) => {
        const ground = readGround(kept);
        return ground.ok ? ground.value : null;
      },
      steps: (now, before) => new Steps(now, before),
      drive: (steps) => new Drive(parameters, steps.$now.get()),
      // The walls are sorted in the worker, so that a drag over a large ground never holds the page.
      follow: ({ steps, drive, surveyor }) => {
        surveyor.onWalls = (ground, walls) => drive.changeGround(ground, walls);
        surveyor.ask(steps.$now.get(), parameters);
        return [steps.$now.listen((file) => surveyor.ask(file as Ground, parameters))];
      },
      fresh: ({ unit }) => newGround('New ground', unit),
    },
    opening,
  );
  return { ...work, parameters, drawing: newDrawing(work.steps) };
}
