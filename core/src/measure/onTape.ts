import type { Ground } from '../ground/ground.ts';
import type { World } from '../motion/world.ts';
import { rerun } from '../replay/rerun.ts';
import type { Tape } from '../tape/tape.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { Prepared } from './drills/prepared.ts';
import type { Metrics } from './metricSpecs.ts';
import { traceMetrics } from './metrics.ts';

/** Drives a tape's hands on a tuning and a ground; returns the world, and its metrics as those of the tape with this number. */
export function driveTape(
  tape: Tape,
  number: number,
  parameters: Parameters,
  { ground, prepared }: { ground: Ground; prepared: Prepared },
): { world: World; metrics: Metrics } {
  const world = rerun(tape, parameters, ground, { known: prepared.on(ground), rooms: prepared.rooms ?? undefined });
  prepared.keep(world);
  const found = Object.entries(traceMetrics(world.trace, parameters));
  return { world, metrics: Object.fromEntries(found.map(([name, value]) => [`${name}@${number}`, value])) };
}
