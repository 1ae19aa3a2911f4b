import { atan2, PI } from '../../math/functions.ts';
import { guessHands, type Wish } from './hands.ts';
import { cruising, type Kinematics, kinematicsOf, levelsOf } from './kinematics.ts';
import type { Mover } from './mover.ts';
import type { Recording } from './recording.ts';
import { type Refined, refine } from './refine.ts';

/** A motion that was understood: the mover, its hands, and the directions that it goes in. */
export interface Understood extends Refined {
  recording: Recording;
  kinematics: Kinematics;
  directions: 4 | 8 | 'free';
  /** Speed on diagonals by that on straights. */
  diagonal: number;
}

/** Seconds of motion without which nothing can be told. */
const LEAST_MOTION = 0.4;
/** A sprint is faster than a walk by this factor at least. */
const FASTER = 1.12;
/** Spreads of a place in a window’s travel, and in all of the motion, from which on a motion is one. */
const CLEAR = 4;
const FAR = 10;
/** Degrees by which a heading may be off a direction, and the share of cruises that must not be. */
const OFF = 7;
const SHARE = 0.9;
/** The share below which directions are surely not eight: random ones have 0.31. */
const CHANCE = 0.42;
/** Directions that are tried where any is possible. */
const FREE = 36;
/** Radians by which a direction may be off those. */
const GRAIN = 0.05;

/** The directions that cruises go in (`any`: noise hides whether they are eight), and the speed on diagonals by that on straights. */
function directionsOf(
  { vx, vy, speed }: Kinematics,
  isCruise: readonly boolean[],
): { directions: 4 | 8 | 'free' | 'any'; diagonal: number } {
  const rows = [...isCruise.keys()].filter((i) => isCruise[i]);
  const degrees = (i: number) => (atan2(vy[i] as number, vx[i] as number) * 180) / PI;
  const near = (step: number) => rows.filter((i) => Math.abs(degrees(i) - step * Math.round(degrees(i) / step)) < OFF).length;
  if (rows.length === 0) return { directions: 8, diagonal: 1 };
  if (near(45) < SHARE * rows.length) return { directions: near(45) < CHANCE * rows.length ? 'free' : 'any', diagonal: 1 };
  const isStraight = (i: number) => Math.abs(degrees(i) - 90 * Math.round(degrees(i) / 90)) < 22;
  const [straight, slanted] = [rows.filter(isStraight), rows.filter((i) => !isStraight(i))];
  if (slanted.length < 0.02 * rows.length) return { directions: 4, diagonal: 1 };
  const top = (all: number[]) => all.map((i) => speed[i] as number).toSorted((a, b) => a - b)[Math.floor(0.5 * all.length)] as number;
  const ratio = straight.length > 3 ? top(slanted) / top(straight) : 1;
  return { directions: 8, diagonal: Math.abs(ratio - Math.SQRT2) < 0.1 ? Math.SQRT2 : 1 };
}

/** The wishes that hands can have. */
function wishesOf(directions: 4 | 8 | 'free', hasSprint: boolean): Wish[] {
  const count = directions === 'free' ? FREE : directions;
  const angles = Array.from({ length: count }, (_, i) => (i * 2 * PI) / count);
  const gaits = hasSprint ? [false, true] : [false];
  return [{ angle: null, isSprint: false }, ...gaits.flatMap((isSprint) => angles.map((angle) => ({ angle, isSprint })))];
}

/** Rates to begin with: the steepest changes of speed, up and down. */
function steepest({ times }: Recording, { speed, vx, vy, step }: Kinematics): { up: number; down: number } {
  const reach = Math.max(1, Math.round(0.06 / step));
  const [ups, downs]: [number[], number[]] = [[], []];
  for (let i = reach; i < speed.length - reach; i++) {
    const dt = (times[i + reach] as number) - (times[i - reach] as number);
    const change =
      Math.sqrt(
        ((vx[i + reach] as number) - (vx[i - reach] as number)) ** 2 + ((vy[i + reach] as number) - (vy[i - reach] as number)) ** 2,
      ) / dt;
    ((speed[i + reach] as number) > (speed[i - reach] as number) ? ups : downs).push(change);
  }
  const high = (values: number[]) => values.toSorted((a, b) => a - b)[Math.floor(0.93 * values.length)] ?? 1000;
  return { up: Math.max(1, high(ups)), down: Math.max(1, high(downs)) };
}

/** Pairs of walk and sprint speed to begin with, the likeliest first; sprint 0: there is none. */
function speedsToTry(recording: Recording, kinematics: Kinematics): [walk: number, sprint: number][] {
  const levels = levelsOf(recording, kinematics);
  const whole = levels.reduce((sum, { seconds }) => sum + seconds, 0);
  const major = levels.filter(({ seconds }) => seconds > 0.06 * whole);
  const sorted = [...kinematics.speed].toSorted((a, b) => a - b);
  const top = sorted[Math.floor(0.97 * sorted.length)] as number;
  const fastest = major.at(-1)?.speed ?? top;
  const slower = major.filter(({ speed }) => speed * FASTER < fastest && speed > 0.3 * fastest).toSorted((a, b) => b.seconds - a.seconds);
  const pairs: [number, number][] = slower.map(({ speed }) => [speed, fastest]);
  const first: [number, number][] = [...pairs.slice(0, 2), [fastest, 0]];
  return [...first, [top / 1.7, top], [top, 0]];
}

/** A search on its way: the attempts that were made. */
export interface RecordingProgress {
  attempts: number;
}

/** Rates to begin with, as factors on the steepest change, and half-lives, s. */
const FACTORS = [1, 2.5] as const;
const HALF_LIVES = [0.035, 0.09, 0.2] as const;
/** Ticks a second that a game is taken to have where the rows don’t say, and the fewest. */
const TICKS = 60;
const FEWEST_TICKS = 25;
/** A ramp of V/a is about as quick as a half-life of this share of it. */
const QUICK = 0.35;
/** Factors on a rate with which the best one is tried again. */
const SHAKEN = [0.6, 1.6] as const;
/** Attempts at most, and rounds in which the hands are guessed again. */
const MOST = 21;
/** The criterion by which a model is worse, for each row, when it isn’t tried further. */
const HOPELESS = 0.5;
const MOST_ROUNDS = 3;
/** Steps of a refinement: at first, and of what is polished. */
const ITERATIONS = { first: 6, whole: 14 } as const;
/** A motion is reproduced when the deviations are no larger than the noise by this factor, or this share of a tick’s travel. */
const REPRODUCED = 1.15;
const TRAVEL = 0.12;
/** A richer model must be better than an instant one by so much of the criterion. */
const WORTH = 12;
/** The relative error of a rate, or of a half-life, from which on a motion shows none. */
const VAGUE = 0.3;
/** A sprint that is faster than the walk by no more than this factor is none. */
const SAME = 1.06;

/** True if a motion shows what its mover has more than an instant one: a ramp, and a sprint that is faster. */
function isShown({ mover: { model, walk, sprint }, errors }: Refined): boolean {
  const known = (key: keyof Refined['errors']) => (errors[key] ?? Number.POSITIVE_INFINITY) < VAGUE;
  const hasRamp = model === 'instant' || (model === 'smooth' ? known('halfLife') : known('accelerate') || known('decelerate'));
  return hasRamp && (sprint === 0 || Math.max(walk, sprint) > SAME * Math.min(walk, sprint));
}

/** The share of rows that a motion must reproduce. */
const MOST_ROWS = 0.94;

/** True if the deviations of a motion are those of the noise, in nearly all rows. */
export const isReproduced = ({ spread, weights }: Refined, { noise, step, speed }: Kinematics): boolean =>
  spread <= REPRODUCED * Math.max(noise, TRAVEL * Math.max(...speed) * Math.min(step, 1 / TICKS)) &&
  weights.filter((weight) => weight > 0).length > MOST_ROWS * weights.length;

/** A mover of another model that is about as quick. */
function alike(mover: Mover, model: Mover['model'], { up, down }: { up: number; down: number }): Mover {
  if (mover.model === 'smooth') {
    const rate = (QUICK * mover.walk) / mover.halfLife;
    return { ...mover, model, accelerate: rate, decelerate: rate, brake: 1.5 * rate, ease: rate };
  }
  if (mover.model === 'linear') return { ...mover, model, halfLife: (QUICK * mover.walk) / Math.sqrt(mover.accelerate * mover.decelerate) };
  return { ...mover, model, accelerate: up, decelerate: down, brake: 1.3 * down, ease: up, halfLife: HALF_LIVES[0] };
}

/** True if a motion explains a recording better than another one. */
function isBetter(one: Refined, other: Refined): boolean {
  if (isShown(one) !== isShown(other)) return isShown(one);
  const handicap = (own: Refined) => (own.mover.model === 'instant' ? 0 : WORTH);
  return one.criterion + handicap(one) < other.criterion + handicap(other);
}

/** The same, with the slower speed as the walk. */
function walkFirst(found: Refined): Refined {
  const { walk, sprint } = found.mover;
  if (sprint === 0 || walk <= sprint) return found;
  const { walk: walkError, sprint: sprintError, ...errors } = found.errors;
  return {
    ...found,
    mover: { ...found.mover, walk: sprint, sprint: walk },
    errors: {
      ...errors,
      ...(sprintError === undefined ? {} : { walk: sprintError }),
      ...(walkError === undefined ? {} : { sprint: walkError }),
    },
    changes: found.changes.map((change) => ({ ...change, isSprint: !change.isSprint })),
  };
}

/** The distance between the 5 % and the 95 % quantile of values. */
function reachOf(values: Float64Array): number {
  const sorted = values.toSorted();
  return (sorted[Math.floor(0.95 * sorted.length)] as number) - (sorted[Math.floor(0.05 * sorted.length)] as number);
}

/** A search for the mover and the hands behind a recording: the best so far. */
class Search {
  readonly #recording: Recording;
  readonly #kinematics: Kinematics;
  readonly #diagonal: number;
  readonly #rates: { up: number; down: number };
  attempts = 0;
  best: Refined | null = null;
  /** True if the best one goes in any direction. */
  isFree = false;

  constructor(recording: Recording, kinematics: Kinematics, diagonal: number) {
    this.#recording = recording;
    this.#kinematics = kinematics;
    this.#diagonal = diagonal;
    this.#rates = steepest(recording, kinematics);
  }

  /** Guesses the hands for a mover, and refines both. */
  #round(mover: Mover, isFree: boolean, iterations: number): Refined {
    const { vx, vy, isOutlier, noise } = this.#kinematics;
    const wishes = wishesOf(isFree ? 'free' : 8, mover.sprint > 0);
    const hands = guessHands(this.#recording, this.#kinematics, mover, wishes, this.#diagonal, isFree ? GRAIN : 0);
    const start = [vx[0] as number, vy[0] as number] as const;
    return walkFirst(refine(this.#recording, mover, hands, { diagonal: this.#diagonal, start, isFree, isOutlier, noise, iterations }));
  }

  /** Guesses the hands again with the refined mover, for as long as that is better; keeps the result if it is the best. */
  #polish(found: Refined, isFree: boolean): void {
    let own = found;
    for (let i = 0; i < MOST_ROUNDS; i++) {
      const next = this.#round(own.mover, isFree, ITERATIONS.whole);
      if (!isBetter(next, own)) break;
      own = next;
    }
    if (!this.best || isBetter(own, this.best)) [this.best, this.isFree] = [own, isFree];
  }

  /** Tries all models with a pair of speeds. */
  *tryOut([walk, sprint]: readonly [number, number], isFree: boolean): Generator<RecordingProgress> {
    const { step } = this.#kinematics;
    const { up, down } = this.#rates;
    const tick = step < 1 / FEWEST_TICKS ? step : 1 / TICKS;
    const base: Mover = {
      model: 'instant',
      walk,
      sprint,
      accelerate: up,
      decelerate: down,
      brake: 1.3 * down,
      ease: up,
      halfLife: 0.06,
      tick,
    };
    const linear = (factor: number): Mover => ({
      ...base,
      model: 'linear',
      accelerate: factor * up,
      decelerate: factor * down,
      brake: factor * base.brake,
      ease: factor * up,
    });
    /** The best of each model. */
    const found = new Map<Mover['model'], Refined>();
    for (const mover of [base, ...FACTORS.map(linear), ...HALF_LIVES.map((halfLife): Mover => ({ ...base, model: 'smooth', halfLife }))]) {
      const own = this.#round(mover, isFree, ITERATIONS.first);
      const other = found.get(mover.model);
      if (!other || isBetter(own, other)) found.set(mover.model, own);
      yield { attempts: ++this.attempts };
    }
    const least = Math.min(...[...found.values()].map(({ criterion }) => criterion));
    for (const one of found.values()) {
      if (one.criterion > least + HOPELESS * this.#recording.times.length) continue;
      this.#polish(one, isFree);
      yield { attempts: this.attempts };
    }
  }

  /** Tries the other models with the speeds of the best one: they may be what those lacked. */
  *cross(): Generator<RecordingProgress> {
    const { mover } = this.best as Refined;
    for (const model of (['instant', 'linear', 'smooth'] as const).filter((other) => other !== mover.model)) {
      this.#polish(this.#round(alike(mover, model, this.#rates), this.isFree, ITERATIONS.first), this.isFree);
      yield { attempts: ++this.attempts };
    }
  }

  /** Begins again with other rates: the hands that belong to the best ones may be near by. */
  *shake(): Generator<RecordingProgress> {
    const { model } = (this.best as Refined).mover;
    const keys = model === 'linear' ? (['accelerate', 'decelerate'] as const) : model === 'smooth' ? (['halfLife'] as const) : [];
    for (const key of keys)
      for (const factor of SHAKEN) {
        const { mover } = this.best as Refined;
        this.#polish(this.#round({ ...mover, [key]: mover[key] * factor }, this.isFree, ITERATIONS.first), this.isFree);
        yield { attempts: ++this.attempts };
      }
  }
}

/** Understands a recording: speeds, the ramp and its rates, directions, and the hands; or returns why it can’t tell, in words. */
export function* understand(recording: Recording): Generator<RecordingProgress, Understood | string> {
  const kinematics = kinematicsOf(recording);
  const { noise, step, speed } = kinematics;
  const tries = speedsToTry(recording, kinematics);
  const top = Math.max(...tries.flat());
  const moving = speed.filter((value) => value > 0.3 * top).length * step;
  const isFar = Math.max(reachOf(recording.x), reachOf(recording.y)) > FAR * noise;
  if (!(top > 0) || !isFar || moving < LEAST_MOTION || top * Math.max(0.1, 4 * step) < CLEAR * noise)
    return 'found no motion that stands out from the noise, expected starts, cruises and stops';
  const { directions, diagonal } = directionsOf(kinematics, cruising(recording, kinematics));
  const search = new Search(recording, kinematics, diagonal);
  for (const isFree of directions === 'free' ? [true] : directions === 'any' ? [false, true] : [false])
    for (const pair of tries) {
      yield* search.tryOut(pair, isFree);
      if ((search.best && isReproduced(search.best, kinematics)) || search.attempts >= MOST) break;
    }
  yield* search.cross();
  yield* search.shake();
  const best = search.best as Refined;
  return { ...best, recording, kinematics, directions: search.isFree ? 'free' : directions === 4 ? 4 : 8, diagonal };
}
