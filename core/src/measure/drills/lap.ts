import type { Ground } from '../../ground/ground.ts';
import { driveLaps } from '../../pilot/laps.ts';
import { rerun } from '../../replay/rerun.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import type { Metrics } from '../metricSpecs.ts';
import type { Drill } from './drill.ts';

const gives = ['lapTime', 'lapTouches', 'lapContactTime', 'lapCorrections', 'lapPath', 'lapSprint'] as const;

/** Splits that are measured at most. */
const MOST_SPLITS = 50;

/**
 * The lap of a course, where a ground has one: the pilot drives it with the tuning as it is. lapTime: from leaving the start to the finish.
 * lapSplit(n): from gate n − 1 (or the start) to gate n. lapPath: distance ÷ planned path. lapSprint: fraction of the time in the sprint.
 */
export const lap: Drill = {
  name: 'lap',
  title: 'Lap',
  words: 'The pilot drives the course of the ground.',
  main: 'lapTime',
  drawing: 'path',
  gives,
  unless: () => 'needs a ground with a course',
};

/** True for the metrics of a lap: they need a ground with a course. */
export const isLapMetric = (metric: string): boolean => metric === 'lapSplit' || (gives as readonly string[]).includes(metric);

/** True for the keys of a lap’s metrics but its time: they jump with the least change, and say little beside it. */
export const isLapDetail = (key: string): boolean => key !== 'lapTime' && isLapMetric(key.replace(/\(\d+\)$/, ''));

/** The same on a ground with a course. */
export function lapOn(ground: Ground, parameters: Parameters): Drill {
  return {
    ...lap,
    unless: () => null,
    perform: () => {
      const { laps, tape } = driveLaps(parameters, ground);
      const [driven] = laps;
      const world = rerun(tape, parameters, ground);
      const runs = [{ ground, tape, parameters, world, trace: world.trace }];
      if (!driven?.finished) return { runs, metrics: {}, cutShort: `not finished: ${driven?.why}` };
      const splits = driven.gates
        .slice(0, MOST_SPLITS)
        .map((time, i): [string, number] => [`lapSplit(${i + 1})`, time - (driven.gates[i - 1] ?? 0)]);
      const metrics: Metrics = {
        lapTime: driven.time,
        lapTouches: driven.touches,
        lapContactTime: driven.contactTime,
        lapCorrections: driven.corrections,
        lapPath: driven.path > 0 ? driven.distance / driven.path : undefined,
        lapSprint: driven.sprint,
        ...Object.fromEntries(splits),
      };
      return { runs, metrics };
    },
  };
}
