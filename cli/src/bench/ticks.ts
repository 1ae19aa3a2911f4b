import { newTuning, Recorder, readGround, resolveTuning, World } from '@zygopod/core';

export interface Measure {
  name: string;
  perSecond: number;
  /** Against the bare loop: `1/12.3`. */
  ratio: string;
  reach: string;
}

const TICKS = 100_000;
const ROUNDS = 60;
/** The hands change every so many ticks, in both loops. */
const CHANGE = 128;

/** The yardstick: the same linear ramp in two dimensions, written out by hand. Returns where it came to, so that none of it is spared. */
function bareLoop(ticks: number): number {
  const dt = 1 / 60;
  let [x, y, vx, vy] = [0, 0, 0, 0];
  for (let tick = 0; tick < ticks; tick++) {
    const held = Math.floor(tick / CHANGE) % 4;
    const targetX = held === 0 ? 140 : held === 2 ? -140 : 0;
    const targetY = held === 1 ? 140 : held === 3 ? -140 : 0;
    const ex = targetX - vx;
    const ey = targetY - vy;
    const difference = Math.sqrt(ex * ex + ey * ey);
    const rate = vx * targetX + vy * targetY < 0 ? 1800 : 900;
    const share = difference > rate * dt ? (rate * dt) / difference : 1;
    vx += ex * share;
    vy += ey * share;
    x += vx * dt;
    y += vy * dt;
  }
  return x + y;
}

const ways = ['right', 'down', 'left', 'up'] as const;

/** Side of the square (unit) that holds one wall on the average, and the length of a wall. */
const SPREAD = 90;
const WALL = 60;

/** Walls in every direction, evenly spread by a fixed sequence (Knuth's multiplicative one), so that each run has the same. */
function scatter(walls: number, size: number): { points: [number, number][] }[] {
  let seed = 1;
  const next = () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed / 2 ** 32;
  };
  return Array.from({ length: walls }, () => {
    const [x, y, angle] = [next() * size, next() * size, next() * Math.PI];
    return {
      points: [
        [x, y],
        [x + Math.cos(angle) * WALL, y + Math.sin(angle) * WALL],
      ],
    };
  });
}

/** Starting places among walls: what a tick costs differs from place to place. */
const PLACES = 8;

/** Worlds in several places, each with its share of the ticks. */
function amongWalls(walls: number): (ticks: number) => number {
  const runs = Array.from({ length: PLACES }, (_, place) => drivenWorld(walls, (place + 0.5) / PLACES));
  return (ticks) => runs.reduce((sum, run) => sum + run(ticks / PLACES), 0);
}

/** A world of defaults, on open ground or among walls of one density, driven as the yardstick is; `place` is its start across. */
function drivenWorld(walls: number, place = 0.5): (ticks: number) => number {
  const size = walls === 0 ? 1e6 : Math.sqrt(walls) * SPREAD;
  const tuning = resolveTuning(newTuning('Bench'));
  const ground = readGround({
    format: 'zygopod/ground',
    version: 1,
    name: 'Bench',
    size: { width: size, height: size },
    start: { x: size * place, y: size / 2 },
    walls: scatter(walls, size),
  });
  if (!tuning.ok || !ground.ok) throw new Error('the bench has no world');
  const world = new World(tuning.value.parameters, ground.value);
  const recorder = new Recorder();
  return (ticks) => {
    for (let tick = 0; tick < ticks; tick++) {
      if (tick % CHANGE === 0) {
        const way = Math.floor(tick / CHANGE) % 4;
        recorder.push({ release: ways[(way + 3) % 4] as (typeof ways)[number] });
        recorder.push({ press: ways[way] as (typeof ways)[number] });
      }
      world.tick(recorder.next());
    }
    return world.body.x;
  };
}

/** Ticks a second of the best of several rounds; the rounds of both loops take turns, so that a slow moment hits both. */
export function measureTicks(): Measure[] {
  const loops = [
    { run: bareLoop, ticks: TICKS * 20 },
    { run: drivenWorld(0), ticks: TICKS },
    { run: amongWalls(500), ticks: TICKS / 2 },
    { run: amongWalls(50_000), ticks: TICKS / 2 },
  ];
  const best = loops.map(() => 0);
  for (let round = 0; round < ROUNDS; round++)
    loops.forEach(({ run, ticks }, i) => {
      best[i] = Math.max(best[i] as number, rate(run, ticks));
    });
  const [bare, open, few, many] = best as [number, number, number, number];
  const against = (perSecond: number) => `1/${(bare / perSecond).toFixed(1)}`;
  return [
    { name: 'bare loop', perSecond: bare, ratio: '1', reach: '' },
    { name: 'tick, open ground, full pipeline, traced', perSecond: open, ratio: against(open), reach: 'reach 1/15' },
    { name: 'tick among 500 walls', perSecond: few, ratio: against(few), reach: 'reach 1/40' },
    { name: 'tick among 50,000 walls', perSecond: many, ratio: `${(few / many).toFixed(2)} × 500`, reach: 'reach 1.5 ×' },
  ];
}

function rate(run: (ticks: number) => number, ticks: number): number {
  const begun = performance.now();
  const end = run(ticks);
  if (Number.isNaN(end)) throw new Error('a loop came to nothing');
  return (ticks / (performance.now() - begun)) * 1000;
}
