import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { exp, log } from '../../math/functions.ts';
import { Blocks, type Column } from './blocks.ts';
import { type Drive, Driver } from './drive.ts';
import type { HandsChange } from './hands.ts';
import type { Mover } from './mover.ts';
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

/** Relative steps of numbers, and of times (s) and angles, for derivatives. */
const STEP = 1e-4;
const WIDE_STEP = 4e-3;
const TIME_STEP = 1e-4;
const ANGLE_STEP = 1e-4;
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

interface RefineOptions {
  diagonal: number;
  start: readonly [number, number];
  /** True if directions are any: then they are fitted, too. */
  isFree: boolean;
  isOutlier: Uint8Array;
  noise: number;
  iterations: number;
}

/** A parameter of the fit: a number of the mover (by its logarithm), or the time or the angle of a change. */
type Parameter = { key: MoverNumber } | { at: number; of: 'time' | 'angle' };

const steps = { time: TIME_STEP, angle: ANGLE_STEP } as const;

/** A fit on its way: a mover with its hands, and the deviations of its places from those of a recording. */
class Refinement {
  readonly #recording: Recording;
  readonly #isFree: boolean;
  readonly #driver: Driver;
  readonly #blocks: Blocks;
  readonly #keys: readonly MoverNumber[];
  mover: Mover;
  changes: HandsChange[];
  weights: Float64Array;
  #drive: Drive;

  constructor(recording: Recording, mover: Mover, guessed: readonly HandsChange[], { diagonal, start, isFree, isOutlier }: RefineOptions) {
    this.#recording = recording;
    this.#isFree = isFree;
    this.#driver = new Driver(recording.times, diagonal, start);
    this.#blocks = new Blocks(recording.times);
    this.#keys = numbersOf(mover);
    this.mover = mover;
    this.changes = guessed.filter(({ time }, i) => i === 0 || time - (guessed[i - 1] as HandsChange).time > TOGETHER);
    this.weights = Float64Array.from(isOutlier, (out) => 1 - out);
    this.#drive = this.#driver.drive(mover, this.changes);
  }

  get parameters(): Parameter[] {
    const changes = [...this.changes.keys()];
    return [
      ...this.#keys.map((key) => ({ key })),
      ...changes.slice(1).map((at) => ({ at, of: 'time' as const })),
      ...changes.filter((at) => this.#isFree && this.changes[at]?.angle !== null).map((at) => ({ at, of: 'angle' as const })),
    ];
  }

  get blocks(): number {
    return this.#blocks.count;
  }

  /** The deviations of the places, less the offset of each block. */
  deviations({ px, py }: Drive = this.#drive): [Float64Array, Float64Array] {
    const { x, y } = this.#recording;
    const off = (places: Float64Array, driven: Float64Array) =>
      this.#blocks.centred(
        places.map((value, row) => value - (driven[row] as number)),
        this.weights,
      );
    return [off(x, px), off(y, py)];
  }

  squares([dx, dy]: readonly [Float64Array, Float64Array]): number {
    let sum = 0;
    for (const [row, weight] of this.weights.entries()) sum += weight * ((dx[row] as number) ** 2 + (dy[row] as number) ** 2);
    return sum;
  }

  /** The derivatives of the deviations by each parameter, by forward differences; those of numbers with a step of their own. */
  columns(own = STEP): Column[] {
    const column = (step: number, variation: Parameters<Blocks['column']>[0]) =>
      this.#blocks.column(variation, this.#drive, step, this.weights);
    return this.parameters.map((parameter) => {
      if ('key' in parameter) {
        const { key } = parameter;
        const { px, py } = this.#driver.drive({ ...this.mover, [key]: this.mover[key] * exp(own) }, this.changes);
        return column(own, { from: 1, to: px.length, px, py, dx: 0, dy: 0 });
      }
      const { at, of } = parameter;
      const change = this.changes[at] as HandsChange;
      const moved = { ...change, [of]: (change[of] as number) + steps[of] };
      return column(steps[of], this.#driver.vary(this.mover, this.changes.with(at, moved), at, this.#drive));
    });
  }

  /** The mover and hands after a step of all parameters, each limited. */
  stepped(step: readonly number[]): { mover: Mover; changes: HandsChange[] } {
    let mover = this.mover;
    const changes = this.changes.map((change) => ({ ...change }));
    const limited = (value: number, most: number) => Math.max(-most, Math.min(most, value));
    for (const [i, parameter] of this.parameters.entries()) {
      const by = step[i] as number;
      if ('key' in parameter) mover = { ...mover, [parameter.key]: mover[parameter.key] * exp(limited(by, MOST_LOG)) };
      else {
        const change = changes[parameter.at] as HandsChange;
        if (parameter.of === 'time') change.time += limited(by, MOST_TIME);
        else change.angle = (change.angle as number) + limited(by, MOST_ANGLE);
      }
    }
    for (const [i, change] of changes.entries())
      if (i > 0) change.time = Math.max(change.time, (changes[i - 1] as HandsChange).time + TOGETHER);
    return { mover, changes };
  }

  /** Takes a step if it makes the squares smaller than `cost`; returns the deviations then. */
  take(step: readonly number[], cost: number): [Float64Array, Float64Array] | null {
    const { mover, changes } = this.stepped(step);
    const drive = this.#driver.drive(mover, changes);
    const next = this.deviations(drive);
    if (!(this.squares(next) < cost)) return null;
    this.mover = mover;
    this.changes = changes;
    this.#drive = drive;
    return next;
  }

  /** The matrix JᵀWJ of some columns. */
  normal(columns: readonly Column[]): number[][] {
    const whole = columns.map(() => new Array<number>(columns.length).fill(0));
    for (const [i, one] of columns.entries())
      for (let j = 0; j <= i; j++) {
        const value = this.#blocks.product(one, columns[j] as Column, this.weights);
        (whole[i] as number[])[j] = value;
        (whole[j] as number[])[i] = value;
      }
    return whole;
  }
}

/** The solution of JᵀWJ·step = right side with more on the diagonal; null if that isn’t enough. Columns are scaled to the same length (Jacobi). */
class Normal {
  readonly #scale: number[];
  readonly #decomposition: CholeskyDecomposition;
  readonly isDefinite: boolean;

  constructor(matrix: readonly number[][], damping: number) {
    this.#scale = matrix.map((line, i) => 1 / Math.sqrt((line[i] as number) + 1e-9));
    const scaled = matrix.map((line, i) =>
      line.map((value, j) => value * ((this.#scale[i] as number) * (this.#scale[j] as number)) + (i === j ? damping : 0)),
    );
    this.#decomposition = new CholeskyDecomposition(new Matrix(scaled));
    this.isDefinite = this.#decomposition.isPositiveDefinite();
  }

  solve(right: readonly number[]): number[] {
    const scaled = right.map((value, i) => value * (this.#scale[i] as number));
    return this.#decomposition
      .solve(Matrix.columnVector(scaled))
      .to1DArray()
      .map((value, i) => value * (this.#scale[i] as number));
  }

  /** An element of the inverse’s diagonal. */
  inverse(at: number): number {
    return this.solve(this.#scale.map((_, i) => Number(i === at)))[at] as number;
  }
}

const lengthOf = ({ ax, ay }: Column): number => ax.reduce((sum, value, i) => sum + value ** 2 + (ay[i] as number) ** 2, 0);

/**
 * Fits a mover and the times of the hands’ changes to the places of a recording by least squares (Levenberg 1944, Marquardt 1963) with Tukey’s
 * weights. The places are compared in blocks with free offsets, which are eliminated (variable projection: Golub and Pereyra 1973).
 */
export function refine(recording: Recording, from: Mover, guessed: readonly HandsChange[], options: RefineOptions): Refined {
  const { isOutlier, noise, iterations } = options;
  const { times } = recording;
  const count = times.length;
  const fit = new Refinement(recording, from, guessed, options);
  // Ticks blur a change of the hands: that is no reason to leave its rows out.
  const least = TICKED * Math.max(from.walk, from.sprint) * Math.min(((times.at(-1) as number) - (times[0] as number)) / count, 1 / 60);
  let now = fit.deviations();
  let spread = 0;
  let damping = 1e-3;
  for (let iteration = 0; iteration < iterations; iteration++) {
    const sizes = now[0].map((value, row) => Math.sqrt((value ** 2 + (now[1][row] as number) ** 2) / 2));
    spread = Math.max(NORMAL * median(sizes), 0.3 * noise, least);
    fit.weights = sizes.map((size, row) => (isOutlier[row] || size > TUKEY * spread ? 0 : (1 - (size / (TUKEY * spread)) ** 2) ** 2));
    now = fit.deviations();
    const cost = fit.squares(now);
    const columns = fit.columns();
    const hessian = fit.normal(columns);
    const gradient = columns.map(({ begin, end, ax, ay }) => {
      let sum = 0;
      for (let row = begin; row < end; row++)
        sum +=
          (fit.weights[row] as number) *
          ((ax[row - begin] as number) * (now[0][row] as number) + (ay[row - begin] as number) * (now[1][row] as number));
      return sum;
    });
    let isBetter = false;
    for (let attempt = 0; attempt < 6 && !isBetter; attempt++) {
      const solved = new Normal(hessian, damping);
      const step = solved.isDefinite ? solved.solve(gradient).map((value) => -value) : null;
      const next = step ? fit.take(step, cost) : null;
      if (next) [now, isBetter] = [next, true];
      damping = next ? Math.max(1e-9, damping / 5) : damping * 6;
    }
    if (!isBetter || fit.squares(now) > cost * (1 - 1e-6)) break;
  }
  const { mover, changes, weights } = fit;
  // A place that jumps with a number, since it takes another branch, would make it look certain: a larger step shows that.
  const wide = fit.columns(WIDE_STEP);
  const columns = fit.columns().map((column, i) => (lengthOf(wide[i] as Column) < lengthOf(column) ? (wide[i] as Column) : column));
  const hessian = fit.normal(columns);
  const used = weights.reduce((sum, value) => sum + value, 0);
  const variance = fit.squares(now) / Math.max(1, 2 * used - columns.length - 2 * fit.blocks);
  const errors: Refined['errors'] = {};
  const solved = new Normal(hessian, 1e-9);
  // A number that moves nothing has no error.
  for (const [i, key] of numbersOf(mover).entries())
    if (solved.isDefinite && (hessian[i]?.[i] as number) > 1e-6) errors[key] = Math.sqrt(Math.max(0, variance * solved.inverse(i)));
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
    criterion: n * log(sum / n + (0.3 * least) ** 2) + (columns.length + fit.blocks * 2) * log(n),
  };
}
