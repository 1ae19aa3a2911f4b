import { exp, log } from '../../math/functions.ts';
import { GRAIN, steepest, wishesOf } from './firstGuesses.ts';
import { guessHands, type HandsChange } from './hands.ts';
import type { Kinematics } from './kinematics.ts';
import type { Mover } from './mover.ts';
import type { Recording } from './recording.ts';
import { type MoverNumber, type Refined, refine } from './refine.ts';

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
const SHAKEN = [0.6, 1.6, 0.77, 1.3] as const;
/** Attempts at most, and rounds in which the hands are guessed again. */
export const MOST = 21;
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
/** The criterion by which a motion is worse when it is no rival any more. */
const UNLIKELY = 30;
/** A sprint that is faster than the walk by no more than this factor is none. */
const SAME = 1.06;

/** True if a motion shows what its mover has more than an instant one: a ramp, and a sprint that is faster. */
function isShown({ mover: { model, walk, sprint, accelerate, decelerate, halfLife, tick }, errors }: Refined): boolean {
  // What is over within a tick is no ramp.
  if (model === 'smooth' && halfLife < tick / 2) return false;
  if (model === 'linear' && walk < Math.min(accelerate, decelerate) * tick) return false;
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

/** A search for the mover and the hands behind a recording: the best so far. */
export class Search {
  readonly #recording: Recording;
  readonly #kinematics: Kinematics;
  readonly #diagonal: number;
  readonly #rates: { up: number; down: number };
  attempts = 0;
  best: Refined | null = null;
  /** True if the best one goes in any direction. */
  isFree = false;
  /** All motions that were polished. */
  readonly #polished: Refined[] = [];

  constructor(recording: Recording, kinematics: Kinematics, diagonal: number) {
    this.#recording = recording;
    this.#kinematics = kinematics;
    this.#diagonal = diagonal;
    this.#rates = steepest(recording, kinematics);
  }

  /** Guesses the hands for a mover, and refines both. */
  #round(mover: Mover, isFree: boolean, iterations: number): Refined {
    const wishes = wishesOf(isFree ? 'free' : 8, mover.sprint > 0);
    return this.#refined(
      mover,
      guessHands(this.#recording, this.#kinematics, mover, wishes, this.#diagonal, isFree ? GRAIN : 0),
      isFree,
      iterations,
    );
  }

  #refined(mover: Mover, hands: readonly HandsChange[], isFree: boolean, iterations: number): Refined {
    const { vx, vy, isOutlier, noise } = this.#kinematics;
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
    this.#polished.push(own);
    if (!this.best || isBetter(own, this.best)) [this.best, this.isFree] = [own, isFree];
  }

  /** The spread of each number over the motions of the best one’s model, weighed by exp(−½ Δ criterion): their likelihood (Schwarz 1978). */
  doubt(): Partial<Record<MoverNumber, number>> {
    const best = this.best as Refined;
    const alike = this.#polished.filter(
      ({ mover, criterion }) =>
        mover.model === best.mover.model && mover.sprint > 0 === best.mover.sprint > 0 && criterion < best.criterion + UNLIKELY,
    );
    const weights = alike.map(({ criterion }) => exp(Math.min(0, (best.criterion - criterion) / 2)));
    const whole = weights.reduce((sum, weight) => sum + weight, 0);
    return Object.fromEntries(
      (Object.keys(best.errors) as MoverNumber[]).map((key) => {
        const squares = alike.map(({ mover }, i) => (weights[i] as number) * log(mover[key] / best.mover[key]) ** 2);
        return [key, Math.sqrt(squares.reduce((sum, value) => sum + value, 0) / whole)];
      }),
    );
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

  /** Leaves out each change of the hands without which the motion is explained better: noise makes some up. */
  *simplify(): Generator<RecordingProgress> {
    for (let at = 1; at < (this.best as Refined).changes.length; at++) {
      const { mover, changes } = this.best as Refined;
      const own = this.#refined(mover, changes.toSpliced(at, 1), this.isFree, ITERATIONS.first);
      if (isBetter(own, this.best as Refined)) {
        this.best = own;
        this.#polished.push(own);
        at--;
      }
      if (at % 8 === 0) yield { attempts: ++this.attempts };
    }
  }

  /** Begins again with other rates: the hands that belong to the best ones may be near by. */
  *shake(): Generator<RecordingProgress> {
    const { model } = (this.best as Refined).mover;
    const keys = model === 'linear' ? (['accelerate', 'decelerate'] as const) : model === 'smooth' ? (['halfLife'] as const) : [];
    for (const key of keys)
      for (const factor of this.isFree ? SHAKEN.slice(0, 2) : SHAKEN) {
        const { mover } = this.best as Refined;
        this.#polish(this.#round({ ...mover, [key]: mover[key] * factor }, this.isFree, ITERATIONS.first), this.isFree);
        yield { attempts: ++this.attempts };
      }
  }
}
