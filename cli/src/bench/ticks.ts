import { CHANGE, Driven } from './scenes.ts';

/** A figure of the bench, as a text, and its goal. */
export interface Figure {
  name: string;
  figure: string;
  reach: string;
}

const TICKS = 640 * CHANGE;
const ROUNDS = 40;

/** Baseline: the same linear ramp in two dimensions, written by hand. Returns the final place, so that nothing is optimised away. */
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

/** Starting places among walls: what a tick costs differs from place to place. */
const PLACES = 8;

/** Worlds in several places, each with its share of the ticks. */
function amongWalls(walls: number): (ticks: number) => number {
  const worlds = Array.from({ length: PLACES }, (_, place) => new Driven(walls, (place + 0.5) / PLACES));
  return (ticks) => worlds.reduce((sum, world) => sum + world.run(ticks / PLACES), 0);
}

/**
 * Ratios to the bare loop: of the best rounds, and the median of those round by round. All loops take turns, so that a slow moment hits them alike;
 * the least of the rounds' ratios would only show a slow moment of the bare loop.
 */
export function measureTicks(): Figure[] {
  const [open, batch] = [new Driven(0), new Driven(0)];
  const loops = [
    { run: bareLoop, ticks: TICKS * 10 },
    { run: (ticks: number) => open.run(ticks), ticks: TICKS },
    { run: (ticks: number) => batch.runInBatch(ticks), ticks: TICKS },
    { run: amongWalls(500), ticks: TICKS / 4 },
    { run: amongWalls(50_000), ticks: TICKS / 4 },
  ];
  for (const { run, ticks } of loops) run(ticks);
  const rounds = Array.from({ length: ROUNDS }, () => loops.map(({ run, ticks }) => rate(run, ticks)));
  const ratio = (of: number, against: number) => {
    const ratios = rounds.map((round) => (round[against] as number) / (round[of] as number)).sort((a, b) => a - b);
    const best = (loop: number) => Math.max(...rounds.map((round) => round[loop] as number));
    return { best: best(against) / best(of), median: ratios[ROUNDS >> 1] as number };
  };
  const figure = (loop: number, name: string, reach: string): Figure => {
    const { best, median } = ratio(loop, 0);
    return { name, figure: `1/${best.toFixed(1)} (median 1/${median.toFixed(1)})`, reach };
  };
  const bare = Math.max(...rounds.map((round) => round[0] as number));
  const many = ratio(4, 3);
  return [
    { name: 'bare loop', figure: `${(bare / 1e6).toFixed(0)} M/s`, reach: '' },
    figure(1, 'tick, open ground, full pipeline, traced', 'reach 1/12'),
    figure(2, 'the same in batch', 'reach 1/10'),
    figure(3, 'tick among 500 walls', 'reach 1/40'),
    {
      name: 'tick among 50,000 walls',
      figure: `${many.best.toFixed(2)} × 500 (median ${many.median.toFixed(2)})`,
      reach: 'reach 1.5 ×',
    },
  ];
}

function rate(run: (ticks: number) => number, ticks: number): number {
  const begun = performance.now();
  const end = run(ticks);
  if (Number.isNaN(end)) throw new Error('a loop came to nothing');
  return (ticks / (performance.now() - begun)) * 1000;
}
