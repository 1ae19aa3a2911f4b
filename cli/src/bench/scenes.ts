import { newTuning, Recorder, readGround, resolveTuning, type Tape, tapeOf, World } from '@zygopod/core';

/** The hands change every so many ticks. */
export const CHANGE = 128;

const directions = ['right', 'down', 'left', 'up'] as const;

/** Side of the square (unit) that holds one wall on the average, and the length of a wall. */
const SPREAD = 90;
const WALL = 60;

/** Numbers in [0, 1) from a fixed sequence (a linear congruential generator: Knuth and Lewis), so that each run has the same. */
export function sequence(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

/** A ground with this many walls in every direction, evenly spread; without walls a very large one. `place` is the start across. */
export function benchGround(walls: number, place = 0.5) {
  const size = walls === 0 ? 1e6 : Math.sqrt(walls) * SPREAD;
  const next = sequence(1);
  const ground = readGround({
    format: 'zygopod/ground',
    version: 1,
    name: 'Bench',
    size: { width: size, height: size },
    start: { x: size * place, y: size / 2 },
    walls: Array.from({ length: walls }, () => {
      const [x, y, angle] = [next() * size, next() * size, next() * Math.PI];
      return {
        points: [
          [x, y],
          [x + Math.cos(angle) * WALL, y + Math.sin(angle) * WALL],
        ],
      };
    }),
  });
  if (!ground.ok) throw new Error('the bench has no ground');
  return ground.value;
}

export function benchParameters() {
  const tuning = resolveTuning(newTuning('Bench'));
  if (!tuning.ok) throw new Error('the bench has no tuning');
  return tuning.value.parameters;
}

const events = directions.map((press, i) => [{ release: directions[(i + 3) % 4] as (typeof directions)[number] }, { press }] as const);

/** Drives a world in the four directions, over and over: tick by tick, or, in batch, from one change of the hands to the next. */
export class Driven {
  readonly #world: World;
  readonly #recorder = new Recorder(0);
  #tick = 0;

  constructor(walls: number, place = 0.5) {
    this.#world = new World(benchParameters(), benchGround(walls, place));
  }

  run(ticks: number): number {
    for (let i = 0; i < ticks; i++) {
      if (this.#tick++ % CHANGE === 0) this.#change();
      this.#world.tick(this.#recorder.next());
    }
    return this.#world.body.x;
  }

  /** @param ticks a multiple of CHANGE */
  runInBatch(ticks: number): number {
    for (let i = 0; i < ticks; i += CHANGE) {
      this.#change();
      this.#tick += CHANGE;
      this.#world.run(this.#recorder.next(), CHANGE);
    }
    return this.#world.body.x;
  }

  #change(): void {
    for (const event of events[Math.floor(this.#tick / CHANGE) % 4] as (typeof events)[number]) this.#recorder.push(event);
  }
}

/** A tape of the same hands. */
export function benchTape(seconds: number): Tape {
  const ticks = seconds * 60;
  return tapeOf({
    name: 'Bench',
    hz: 60,
    ticks,
    events: Array.from({ length: Math.ceil(ticks / CHANGE) }, (_, i) => {
      const [release, press] = events[i % 4] as (typeof events)[number];
      return [
        { at: i * CHANGE, ...release },
        { at: i * CHANGE, ...press },
      ];
    }).flat(),
  });
}

/** Replays a tape on a ground; gives where it came to. */
export function replay(world: World, hands: { next(): Parameters<World['tick']>[0]; ticks: number }): number {
  for (let tick = 0; tick < hands.ticks; tick++) world.tick(hands.next());
  return world.body.x;
}
