import type { Ground } from '../ground/ground.ts';
import { columns } from '../motion/trace.ts';
import { World } from '../motion/world.ts';
import { Replay } from '../tape/replay.ts';
import type { Tape } from '../tape/tape.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';

/** Replays a tape and gives the hash of each hundredth state; the whole core of a run, for other engines to do the same. */
export function replayAll(parameters: Parameters, ground: Ground, tape: Tape): string[] {
  const { hz } = parameters.clock;
  const replay = new Replay(tape, hz);
  const world = new World(parameters, ground, replay.ticks);
  const hashes: string[] = [];
  for (let tick = 0; tick < replay.ticks; tick++) {
    world.tick(replay.next());
    if (tick % 100 === 99) hashes.push(world.hash());
  }
  return hashes;
}

/** Rows of a trace that share a key. */
const ROWS = 2000;

/** Keys of a whole trace, every bit of every column in it: FNV-1a over each few thousand rows (Fowler, Noll and Vo, 1991; 32 bits). */
export function traceKeys(parameters: Parameters, ground: Ground, tape: Tape): string[] {
  const replay = new Replay(tape, parameters.clock.hz);
  const world = new World(parameters, ground, ROWS);
  if (tape.snapshot) world.resume(tape.snapshot);
  const number = new Float64Array(1);
  const words = new Uint32Array(number.buffer);
  const keys: string[] = [];
  let key = 0x811c9dc5;
  for (let tick = 1; tick <= replay.ticks; tick++) {
    world.tick(replay.next());
    const row = world.trace.end - 1;
    for (const column of columns) {
      number[0] = world.trace.at(column, row);
      key = Math.imul(key ^ (words[0] as number), 0x01000193);
      key = Math.imul(key ^ (words[1] as number), 0x01000193);
    }
    if (tick % ROWS === 0 || tick === replay.ticks) keys.push((key >>> 0).toString(16));
  }
  return keys;
}

export { driveLaps } from '../pilot/laps.ts';
