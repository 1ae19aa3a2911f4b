import type { FramePattern } from '../../tape/frames.ts';
import { type Metrics, metricSpecOf } from '../metricSpecs.ts';
import { viewLag } from './camera.ts';
import { clickTour } from './clicks.ts';
import { facingTurn } from './directions.ts';
import type { Drill, DrillLayout, Ran, Run, Scene } from './drill.ts';
import { layoutOf } from './layout.ts';
import { hardStop, standingStart, turnRound } from './starts.ts';

const RATES = [30, 60, 144] as const;

/** The drills to run at each rate: those that a hand feels. */
const felt: readonly Drill[] = [standingStart, hardStop, turnRound, facingTurn, clickTour, viewLag];

/** Changes below these are the ruler's, not the feel's: 0.05 s, a quarter of the body; counts are left out. */
function floorOf(key: string, width: number): number {
  const { quantity } = metricSpecOf(key);
  return quantity === 'time' ? 0.05 : quantity === 'length' ? 0.25 * width : quantity === 'count' ? Infinity : 0.1;
}

/** The largest relative change of any metric among sets of them: largest less smallest, to the larger of the largest and a floor. */
function sensitivity(sets: readonly Metrics[], width: number): number {
  let most = 0;
  for (const key of Object.keys(sets[0] ?? {}) as (keyof Metrics)[]) {
    const values = sets.map((set) => set[key]).filter((value) => value !== undefined);
    if (values.length < sets.length) continue;
    const largest = Math.max(...values);
    most = Math.max(most, (largest - Math.min(...values)) / Math.max(Math.abs(largest), floorOf(key, width)));
  }
  return most;
}

/**
 * The metrics that a hand feels, at 30, 60 and 144 Hz; a tuning that steps per frame gets even frames of that length. rateSensitivity: the largest
 * relative change of any of these metrics between the rates.
 */
export const tickRates: Drill = {
  name: 'tick-rates',
  title: 'Tick rates',
  words: 'Start, stop, turns, clicks and view at 30, 60 and 144 ticks per second.',
  main: 'rateSensitivity',
  drawing: 'speed',
  gives: ['rateSensitivity'],
  unless: (parameters) => standingStart.unless(parameters),
  perform(layout: DrillLayout, run: Run) {
    const runs: Ran[] = [];
    const sets = RATES.map((hz) => {
      const parameters = { ...layout.parameters, clock: { ...layout.parameters.clock, hz } };
      const own: Run = (scene: Scene) => run({ parameters, frames: String(hz) as FramePattern, ...scene });
      const local = layoutOf(parameters, own, { wanted: null, prepared: layout.prepared });
      const found: Metrics = {};
      for (const drill of felt.filter((one) => one.unless(parameters) === null)) {
        const part = (drill.lay?.(local, own) ?? []).map((scene) => ('trace' in scene ? scene : own(scene)));
        if (drill === standingStart) runs.push(...part);
        Object.assign(found, drill.measure?.(part, local));
      }
      return found;
    });
    return { runs, metrics: { rateSensitivity: sensitivity(sets, layout.width) } };
  },
};
