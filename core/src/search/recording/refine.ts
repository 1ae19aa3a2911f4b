import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { exp, log } from '../../math/functions.ts';
import { aimOf, type HandsChange } from './hands.ts';
import { advance, type Mover, type State } from './mover.ts';
import { median, type Recording } from './recording.ts';

/** The numbers of a mover that a recording can tell. */
export type MoverNumber = 'walk' | 'sprint' | 'accelerate' | 'decelerate' | 'brake' | 'ease' | 'halfLife';

/** A mover and the hands that reproduce a recording, and how well. */
export interface Refined {
  mover: Mover;
  changes: HandsChange[];
  /** Deviations of the places, unit, and their weights (0 for outliers). */
  dx: Float64Array;
  dy: Float64Array;
  weights: Float64Array;
  /** The spread of the deviations, unit. */
  spread: number;
  /** The relative standard error of each number; absent for those that the motion doesn’t depend on. */
  errors: Partial<Record<MoverNumber, number>>;
  /** Schwarz’s criterion: N ln s² + k ln N. */
  criterion: number;
}

/** Seconds of a block: its rows share an unknown offset of the place, so that an error early on doesn’t count for ever. */
const BLOCK = 1;
/** Relative steps of numbers, and of times (s) and angles, for derivatives. */
const STEP = 1e-4;
const TIME_STEP = 1e-4;
const ANGLE_STEP = 1e-4;
const ITERATIONS = 14;
/** Tukey’s constant: deviations beyond so many spreads don’t count (Beaton and Tukey 1974). */
const TUKEY = 4.685;
/** From the median length of a deviation in the plane, over √2, to the standard deviation along an axis: √2 / √(2 ln 2). */
const NORMAL = 1.2011;
/** The share of a tick’s fastest travel that deviations have without any noise. */
const TICKED = 0.08;
/** The largest change of a logarithm, a time (s) and an angle in a step. */
const [MOST_LOG, MOST_TIME, MOST_ANGLE] = [0.4, 0.04, 0.3];
/** Changes nearer than this, s, are one. */
const TOGETHER = 2e-3;

/** The numbers of a model. */
const numbersOf = ({ model, sprint }: Mover): MoverNumber[] => [
  'walk',
  ...(sprint > 0 ? (['sprint'] as const) : []),
  ...(model === 'linear' ? (['accelerate', 'decelerate', 'brake', 'ease'] as const) : model === 'smooth' ? (['halfLife'] as const) : []),
];

/** Drives a mover with changes of the hands; returns the places at the rows, from (0, 0). */
function driven(
  times: Float64Array,
  mover: Mover,
  changes: readonly HandsChange[],
  diagonal: number,
  start: readonly [number, number],
): [Float64Array, Float64Array] {
  const [px, py] = [new Float64Array(times.length), new Float64Array(times.length)];
  const state: State = [0, 0, start[0], start[1], 0];
  let [now, next] = [times[0] as number, 1];
  let [tx, ty] = aimOf(changes[0] as HandsChange, mover, diagonal);
  for (let row = 1; row < times.length; row++) {
    const time = times[row] as number;
    for (; next < changes.length && (changes[next] as HandsChange).time < time; next++) {
      const change = changes[next] as HandsChange;
      if (change.time > now) {
        advance(state, tx, ty, mover, change.time - now);
        now = change.time;
      }
      [tx, ty] = aimOf(change, mover, diagonal);
    }
    advance(state, tx, ty, mover, time - now);
    now = time;
    px[row] = state[0];
    py[row] = state[1];
  }
  return [px, py];
}

interface RefineOptions {
  diagonal: number;
  start: readonly [number, number];
  /** True if directions are any: then they are fitted, too. */
  isFree: boolean;
  isOutlier: Uint8Array;
  noise: number;
}

/**
 * Fits a mover and the times of the hands’ changes to the places of a recording by least squares (Levenberg 1944, Marquardt 1963) with Tukey’s
 * weights. The places are compared in blocks with free offsets, which are eliminated (variable projection: Golub and Pereyra 1973).
 */
export function refine({ times, x, y }: Recording, from: Mover, guessed: readonly HandsChange[], options: RefineOptions): Refined {
  const { diagonal, start, isFree, isOutlier, noise } = options;
  const keys = numbersOf(from);
  const count = times.length;
  const block = Int32Array.from(times, (time) => Math.floor((time - (times[0] as number)) / BLOCK));
  const blocks = (block.at(-1) ?? 0) + 1;
  let mover = from;
  let changes = guessed.filter(({ time }, i) => i === 0 || time - (guessed[i - 1] as HandsChange).time > TOGETHER);
  let weights = Float64Array.from(isOutlier, (out) => 1 - out);

  // Ticks blur a change of the hands: that is no reason to leave its rows out.
  const least = TICKED * Math.max(from.walk, from.sprint) * Math.min(((times.at(-1) as number) - (times[0] as number)) / count, 1 / 60);

  /** Takes the weighted mean of each block away. */
  const centred = (values: Float64Array): Float64Array => {
    const [sums, totals] = [new Float64Array(blocks), new Float64Array(blocks)];
    for (let row = 0; row < count; row++) {
      const at = block[row] as number;
      sums[at] = (sums[at] as number) + (weights[row] as number) * (values[row] as number);
      totals[at] = (totals[at] as number) + (weights[row] as number);
    }
    return values.map(
      (value, row) => value - (sums[block[row] as number] as number) / Math.max(1e-9, totals[block[row] as number] as number),
    );
  };
  const deviations = (one: Mover, hands: readonly HandsChange[]): [Float64Array, Float64Array] => {
    const [px, py] = driven(times, one, hands, diagonal, start);
    return [centred(px.map((value, row) => (x[row] as number) - value)), centred(py.map((value, row) => (y[row] as number) - value))];
  };
  const squares = ([dx, dy]: readonly [Float64Array, Float64Array]): number =>
    dx.reduce((sum, value, row) => sum + (weights[row] as number) * (value ** 2 + (dy[row] as number) ** 2), 0);
  /** Each parameter with the mover and hands that a step of it leads to. */
  const parameters = () => {
    const numbers = keys.map((key) => ({
      moved: (by: number) => ({ one: { ...mover, [key]: mover[key] * exp(by) }, hands: changes }),
      step: STEP,
      most: MOST_LOG,
    }));
    const moved = changes.slice(1).map((change, i) => ({
      moved: (by: number) => ({ one: mover, hands: changes.with(i + 1, { ...change, time: change.time + by }) }),
      step: TIME_STEP,
      most: MOST_TIME,
    }));
    const turned = !isFree
      ? []
      : changes.flatMap((change, i) =>
          change.angle === null
            ? []
            : [
                {
                  moved: (by: number) => ({ one: mover, hands: changes.with(i, { ...change, angle: (change.angle as number) + by }) }),
                  step: ANGLE_STEP,
                  most: MOST_ANGLE,
                },
              ],
        );
    return [...numbers, ...moved, ...turned];
  };
  const jacobian = (all: ReturnType<typeof parameters>) =>
    all.map(({ moved, step }) => {
      const [above, below] = [moved(step), moved(-step)];
      const [ax, ay] = deviations(above.one, above.hands);
      const [bx, by] = deviations(below.one, below.hands);
      return [
        ax.map((value, row) => (value - (bx[row] as number)) / (2 * step)),
        ay.map((value, row) => (value - (by[row] as number)) / (2 * step)),
      ] as const;
    });
  const normal = (columns: ReturnType<typeof jacobian>) =>
    columns.map(([ax, ay], i) =>
      columns.map(([bx, by], j) => {
        if (j > i) return 0;
        let sum = 0;
        for (let row = 0; row < count; row++)
          sum += (weights[row] as number) * ((ax[row] as number) * (bx[row] as number) + (ay[row] as number) * (by[row] as number));
        return sum;
      }),
    );
  const whole = (lower: number[][]) =>
    lower.map((line, i) => line.map((_, j) => (j > i ? (lower[j]?.[i] as number) : (line[j] as number))));

  let now = deviations(mover, changes);
  let spread = 0;
  let damping = 1e-3;
  for (let iteration = 0; iteration < ITERATIONS; iteration++) {
    const sizes = now[0].map((value, row) => Math.sqrt((value ** 2 + (now[1][row] as number) ** 2) / 2));
    spread = Math.max(NORMAL * median(sizes), 0.3 * noise, least);
    weights = sizes.map((size, row) => (isOutlier[row] || size > TUKEY * spread ? 0 : (1 - (size / (TUKEY * spread)) ** 2) ** 2));
    now = deviations(mover, changes);
    const cost = squares(now);
    const all = parameters();
    const columns = jacobian(all);
    const hessian = whole(normal(columns));
    const gradient = columns.map(([ax, ay]) => {
      let sum = 0;
      for (let row = 0; row < count; row++)
        sum += (weights[row] as number) * ((ax[row] as number) * (now[0][row] as number) + (ay[row] as number) * (now[1][row] as number));
      return sum;
    });
    let isBetter = false;
    for (let attempt = 0; attempt < 6 && !isBetter; attempt++) {
      const damped = hessian.map((line, i) => line.map((value, j) => (i === j ? value * (1 + damping) + 1e-9 : value)));
      const solved = new CholeskyDecomposition(new Matrix(damped));
      if (!solved.isPositiveDefinite()) {
        damping *= 10;
        continue;
      }
      const step = solved
        .solve(Matrix.columnVector(gradient))
        .to1DArray()
        .map((value) => -value);
      let [one, hands] = [mover, changes];
      for (const [i, value] of step.entries()) {
        const by = Math.max(-(all[i]?.most as number), Math.min(all[i]?.most as number, value));
        if (i < keys.length) one = { ...one, [keys[i] as string]: one[keys[i] as MoverNumber] * exp(by) };
        else if (i < keys.length + changes.length - 1) {
          const at = i - keys.length + 1;
          hands = hands.with(at, { ...(hands[at] as HandsChange), time: (hands[at] as HandsChange).time + by });
        } else {
          const turning = changes.map((change, k) => ({ change, k })).filter(({ change }) => change.angle !== null);
          const { k } = turning[i - keys.length - changes.length + 1] as { k: number };
          hands = hands.with(k, { ...(hands[k] as HandsChange), angle: ((hands[k] as HandsChange).angle as number) + by });
        }
      }
      hands = hands.map((change, i) =>
        i === 0 ? change : { ...change, time: Math.max(change.time, (hands[i - 1] as HandsChange).time + TOGETHER) },
      );
      const next = deviations(one, hands);
      if (squares(next) < cost) {
        [mover, changes, now, isBetter] = [one, hands, next, true];
        damping = Math.max(1e-9, damping / 5);
      } else damping *= 6;
    }
    if (!isBetter || squares(now) > cost * (1 - 1e-6)) break;
  }
  const all = parameters();
  const columns = jacobian(all);
  const hessian = whole(normal(columns));
  const used = weights.reduce((sum, value) => sum + value, 0);
  const variance = squares(now) / Math.max(1, 2 * used - all.length - 2 * blocks);
  const errors: Refined['errors'] = {};
  const damped = hessian.map((line, i) => line.map((value, j) => (i === j ? value * (1 + 1e-9) + 1e-9 : value)));
  const solved = new CholeskyDecomposition(new Matrix(damped));
  if (solved.isPositiveDefinite())
    for (const [i, key] of keys.entries()) {
      if ((hessian[i]?.[i] as number) < 1e-6) continue;
      const unit = Matrix.zeros(all.length, 1);
      unit.set(i, 0, 1);
      errors[key] = Math.sqrt(Math.max(0, variance * solved.solve(unit).get(i, 0)));
    }
  const capped = (size: number) => Math.min(size, 3 * Math.max(spread, noise)) ** 2;
  const sum = now[0].reduce(
    (total, value, row) => total + (isOutlier[row] ? 0 : capped(Math.abs(value)) + capped(Math.abs(now[1][row] as number))),
    0,
  );
  const n = 2 * count;
  return {
    mover,
    changes,
    dx: now[0],
    dy: now[1],
    weights,
    spread,
    errors,
    criterion: n * log(sum / n + (0.3 * least) ** 2) + (all.length + blocks * 2) * log(n),
  };
}
