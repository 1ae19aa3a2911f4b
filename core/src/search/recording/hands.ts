import { cos, sin } from '../../math/functions.ts';
import type { Kinematics } from './kinematics.ts';
import { advance, type Mover, type State } from './mover.ts';
import type { Recording } from './recording.ts';

/** A wish of the hands: a direction (radians; none at rest) and whether it is a sprint. */
export interface Wish {
  angle: number | null;
  isSprint: boolean;
}

/** A change of the wish, at a time in s. */
export interface HandsChange extends Wish {
  time: number;
}

/** The velocity that a wish aims at. */
export function aimOf({ angle, isSprint }: Wish, mover: Mover, diagonal = 1): [number, number] {
  if (angle === null) return [0, 0];
  const isDiagonal = diagonal !== 1 && Math.abs(sin(2 * angle)) > 0.7;
  const speed = (isSprint ? mover.sprint : mover.walk) * (isDiagonal ? diagonal : 1);
  return [speed * cos(angle), speed * sin(angle)];
}

interface Hypothesis {
  state: State;
  cost: number;
  wish: number;
  /** The changes that led here, the last one first. */
  last: Change | null;
}
interface Change {
  time: number;
  wish: number;
  before: Change | null;
}

/** The longest step of a hypothesis, s. */
const STEP = 1 / 60 + 1e-6;
/** The price of a change of the hands, in squares of spreads, and the largest of a row. */
const PRICE = 14;
const MOST = 16;
/** Squares of spreads from which on a hypothesis is lost; it pays as many. */
const LOST = 40;
/** Hypotheses that are kept for each wish, and those that change their wish. */
const KEPT = 3;
const CHANGING = 5;
/** How far a hypothesis is behind the best one when it is given up. */
const GIVEN_UP = 60;
/** The share of a row’s deviation that a hypothesis takes over, so that a change that came a moment early isn’t counted against it for ever. */
const TAKEN_OVER = 0.12;
/** The share of the fastest travel of a step that a place may be off without noise. */
const SLACK = 0.12;

/**
 * The most likely changes of the hands behind a motion, for a mover: a beam search over wishes that change at most every 1/60 s, each hypothesis
 * moved as the mover would and compared with the places (as Viterbi’s algorithm, 1967, with a continuous state). `grain`: radians by which a
 * direction may be off the nearest wish.
 */
export function guessHands(
  { times, x, y }: Recording,
  { vx, vy, noise, step, isOutlier }: Kinematics,
  mover: Mover,
  wishes: readonly Wish[],
  diagonal: number,
  grain = 0,
): HandsChange[] {
  const aims = wishes.map((wish) => aimOf(wish, mover, diagonal));
  const top = Math.max(mover.walk, mover.sprint);
  const spread = Math.sqrt(noise ** 2 + (SLACK * top * Math.min(step, STEP)) ** 2 + (grain * top * step) ** 2);
  let alive: Hypothesis[] = wishes.map((_, wish) => ({
    state: [x[0] as number, y[0] as number, vx[0] as number, vy[0] as number, 0],
    cost: 0,
    wish,
    last: { time: times[0] as number, wish, before: null },
  }));
  const prune = (most: number) => {
    alive.sort((a, b) => a.cost - b.cost);
    const limit = (alive[0]?.cost ?? 0) + GIVEN_UP;
    const counts = new Uint8Array(wishes.length);
    alive = alive.filter(({ cost, wish }) => {
      const count = (counts[wish] as number) + 1;
      counts[wish] = count;
      return cost <= limit && count <= most;
    });
  };
  for (let row = 1; row < times.length; row++) {
    const [from, to] = [times[row - 1] as number, times[row] as number];
    const parts = Math.min(20, Math.ceil((to - from) / STEP));
    const dt = (to - from) / parts;
    for (let part = 0; part < parts; part++) {
      const time = from + part * dt;
      for (const one of alive.slice(0, CHANGING))
        for (let wish = 0; wish < wishes.length; wish++)
          if (wish !== one.wish)
            alive.push({ state: [...one.state], cost: one.cost + PRICE, wish, last: { time, wish, before: one.last } });
      for (const { state, wish } of alive) {
        const [tx, ty] = aims[wish] as [number, number];
        advance(state, tx, ty, mover, dt);
      }
      if (part < parts - 1) prune(KEPT + 2);
    }
    for (const one of isOutlier[row] ? [] : alive) {
      const [dx, dy] = [(x[row] as number) - one.state[0], (y[row] as number) - one.state[1]];
      const off = (dx * dx + dy * dy) / (spread * spread);
      one.cost += off > LOST ? LOST : Math.min(MOST, off);
      // A hypothesis that is lost goes on from the recorded place: from afar all wishes would look the same.
      const share = off > LOST ? 1 : TAKEN_OVER;
      one.state[0] += share * dx;
      one.state[1] += share * dy;
    }
    prune(KEPT);
  }
  const changes: HandsChange[] = [];
  for (let at = alive[0]?.last ?? null; at; at = at.before) changes.unshift({ time: at.time, ...(wishes[at.wish] as Wish) });
  return changes;
}
