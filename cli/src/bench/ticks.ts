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

/** A world of defaults on open ground, driven as the yardstick is. */
function openWorld(): (ticks: number) => number {
  const tuning = resolveTuning(newTuning('Bench'));
  const ground = readGround({
    format: 'zygopod/ground',
    version: 1,
    name: 'Open',
    size: { width: 1e6, height: 1e6 },
    start: { x: 5e5, y: 5e5 },
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
    return world.state.motion.x;
  };
}

/** Ticks a second of the best of several rounds; the rounds of both loops take turns, so that a slow moment hits both. */
export function measureTicks(): Measure[] {
  const open = openWorld();
  let bare = 0;
  let full = 0;
  for (let round = 0; round < ROUNDS; round++) {
    bare = Math.max(bare, rate(bareLoop, TICKS * 20));
    full = Math.max(full, rate(open, TICKS));
  }
  return [
    { name: 'bare loop', perSecond: bare, ratio: '1', reach: '' },
    { name: 'tick, open ground, full pipeline, traced', perSecond: full, ratio: `1/${(bare / full).toFixed(1)}`, reach: 'reach 1/15' },
  ];
}

function rate(run: (ticks: number) => number, ticks: number): number {
  const begun = performance.now();
  const end = run(ticks);
  if (Number.isNaN(end)) throw new Error('a loop came to nothing');
  return (ticks / (performance.now() - begun)) * 1000;
}
