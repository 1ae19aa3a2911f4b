import { type Ground, groundWith } from '../ground/ground.ts';
import { World } from '../motion/world.ts';
import { Replay } from '../tape/replay.ts';
import { type TapeEvent, tapeOf } from '../tape/tape.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { FileValue } from '../tuning/schema.ts';
import { newTuning, resolveTuning, withValue } from '../tuning/tuning.ts';

/** Parameters that differ from the defaults in the given paths. */
export function parametersWith(values: Record<string, FileValue> = {}): Parameters {
  const file = Object.entries(values).reduce((tuning, [path, value]) => withValue(tuning, path, value), newTuning('Test'));
  const reading = resolveTuning(file);
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.value.parameters;
}

/** An empty ground with the start in its corner, where positions are small numbers; `drive` sets no edges by default. */
export function openGround(over: Partial<Ground> = {}): Ground {
  return groundWith({ name: 'Open', size: { width: 2000, height: 2000 }, start: { x: 0, y: 0 }, ...over });
}

/** Drives a fresh world by taped events (ticks at the tuning's own rate) and returns it with its trace. */
export function drive(values: Record<string, FileValue>, ticks: number, events: TapeEvent[], ground = openGround()): World {
  const world = new World(parametersWith({ 'bounds.policy': 'none', ...values }), ground, ticks);
  const { hz } = world.parameters.clock;
  const replay = new Replay(tapeOf({ name: 'Test', hz, ticks, events }), hz);
  for (let i = 0; i < ticks; i++) world.tick(replay.next());
  return world;
}
