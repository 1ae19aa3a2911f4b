import { bucketWalls, Replay, WallIndex, World } from '@zygopod/core';
import { benchGround, benchParameters, benchTape, Driven, replay } from './scenes.ts';

/** Measurements that need their own process: the first run, and allocations of ticks. Prints one JSON object. */

const MILLION = 1_000_000;

/** Bytes a tick over a million ticks, after as many that let the engine compile. Needs --expose-gc and room for no collection in between. */
function allocated(walls: number): number {
  const driven = new Driven(walls);
  driven.run(MILLION);
  (globalThis as unknown as { gc(): void }).gc();
  const before = process.memoryUsage().heapUsed;
  driven.run(MILLION);
  return (process.memoryUsage().heapUsed - before) / MILLION;
}

function milliseconds(work: () => unknown): number {
  const begun = performance.now();
  work();
  return performance.now() - begun;
}

/** The first replay of ten seconds in this process, on a ground with walls; then the best of many, and of ten minutes. */
function tapes(): Record<string, number> {
  const parameters = benchParameters();
  const ground = benchGround(500);
  const walls = new WallIndex(bucketWalls(ground));
  const [short, long] = [benchTape(10), benchTape(600)];
  const run = (tape: typeof short) => () => replay(new World(parameters, ground, tape.ticks, walls), new Replay(tape, 60));
  const cold = milliseconds(run(short));
  const best = (times: number, work: () => unknown) => Math.min(...Array.from({ length: times }, () => milliseconds(work)));
  const open = benchGround(0);
  const openWalls = new WallIndex(bucketWalls(open));
  const inTheOpen = (tape: typeof short) => () => replay(new World(parameters, open, tape.ticks, openWalls), new Replay(tape, 60));
  return {
    cold,
    warm: best(300, run(short)),
    warmOpen: best(300, inTheOpen(short)),
    tenMinutes: best(20, run(long)),
    tenMinutesOpen: best(20, inTheOpen(long)),
    newWorld: best(2000, () => new World(parameters, ground, 600, walls)),
  };
}

const what = process.argv[2];
process.stdout.write(JSON.stringify(what === 'memory' ? { open: allocated(0), walls: allocated(500) } : tapes()));
