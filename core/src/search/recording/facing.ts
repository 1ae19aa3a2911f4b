import { LN2, log, PI, wrapAngle } from '../../math/functions.ts';
import { median, type Recording } from './recording.ts';

/** The facing of a recording: its directions, and how it turns. */
export interface FacingFound {
  directions: '4' | '8' | '16' | 'free' | null;
  turn: 'instant' | 'rate' | 'smooth' | null;
  /** Degrees a second, of a steady turn; with its spread. */
  rate: number | null;
  /** Seconds, of a smooth turn. */
  halfLife: number | null;
  /** Turns that were seen. */
  turns: number;
}

/** Radians between two rows that are no turn, and from which on a turn is one. */
const STILL = 1e-4;
const TURN = 0.3;
/** Radians by which a facing may be off a direction. */
const OFF = 0.01;
/** The spread of the rates in a turn, as a share, below which it is steady. */
const STEADY = 0.12;

/** Finds the directions and the turning of a facing that was recorded; null for what it doesn’t show. */
export function facingOf({ times, facing }: Recording): FacingFound | null {
  if (!facing) return null;
  const change = Float64Array.from(facing, (value, i) => (i === 0 ? 0 : wrapAngle(value - (facing[i - 1] as number))));
  const rests = [...facing].filter((_, i) => i > 1 && Math.abs(change[i] as number) < STILL && Math.abs(change[i - 1] as number) < STILL);
  const fits = (count: number) => {
    const sector = (2 * PI) / count;
    return rests.every((value) => Math.abs(value - sector * Math.round(value / sector)) < OFF);
  };
  const distinct = new Set(rests.map((value) => Math.round(wrapAngle(value) / OFF)));
  const directions = distinct.size < 2 ? null : fits(4) ? '4' : fits(8) ? '8' : fits(16) ? '16' : 'free';
  /** Turns: runs of rows in which the facing changes in one direction. */
  const turns: { from: number; to: number; angle: number }[] = [];
  for (let i = 1; i < facing.length; ) {
    const sign = Math.sign(change[i] as number);
    let [to, angle] = [i, 0];
    while (to < facing.length && Math.abs(change[to] as number) > STILL && Math.sign(change[to] as number) === sign)
      angle += change[to++] as number;
    if (Math.abs(angle) > TURN) turns.push({ from: i, to, angle });
    i = Math.max(i + 1, to);
  }
  const nothing = { directions, turn: null, rate: null, halfLife: null, turns: turns.length } as const;
  if (turns.length === 0) return nothing;
  const long = turns.filter(({ from, to }) => to - from >= 4);
  if (long.length < 0.3 * turns.length) return { ...nothing, turn: 'instant' };
  // The first and the last row of a turn are parts of a tick.
  const rates = long.flatMap(({ from, to }) =>
    Array.from(
      { length: to - from - 2 },
      (_, k) => Math.abs(change[from + 1 + k] as number) / ((times[from + 1 + k] as number) - (times[from + k] as number)),
    ),
  );
  const rate = median(rates);
  const spread = median(rates.map((value) => Math.abs(value - rate))) / rate;
  if (spread < STEADY) return { ...nothing, turn: 'rate', rate: (rate * 180) / PI };
  // Of a smooth turn what is left falls by the same share in each row.
  const halves = long.flatMap(({ from, to, angle }) => {
    const found: number[] = [];
    let left = Math.abs(angle);
    for (let i = from; i < to - 1; i++) {
      const next = left - Math.abs(change[i] as number);
      if (next > 0.1 && next < 0.9 * Math.abs(angle) && left > next)
        found.push((((times[i] as number) - (times[i - 1] as number)) * LN2) / log(left / next));
      left = next;
    }
    return found;
  });
  return { ...nothing, turn: 'smooth', halfLife: halves.length > 0 ? median(halves) : null };
}
