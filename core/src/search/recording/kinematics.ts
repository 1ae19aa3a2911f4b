import { median, type Recording } from './recording.ts';

/** Velocities at the rows of a recording, and how exact its places are. */
export interface Kinematics {
  vx: Float64Array;
  vy: Float64Array;
  speed: Float64Array;
  /** The spread of a place about its neighbours, unit. */
  noise: number;
  /** The step between rows, s. */
  step: number;
  /** Rows that are far from their neighbours. */
  isOutlier: Uint8Array;
}

/** From the median of absolute values to a standard deviation. */
const NORMAL = 1.4826;
/** The window of a slope, s, and the rows that it has at least. */
const WINDOW = 0.1;
const FEWEST = 5;
/** Spreads from which on a row is an outlier. */
const FAR = 6;

/** A place less the line through its two neighbours, divided by the spread that it has from noise of 1. */
function bends(times: Float64Array, values: Float64Array): Float64Array {
  return Float64Array.from(values, (value, i) => {
    if (i === 0 || i === values.length - 1) return 0;
    const share = ((times[i] as number) - (times[i - 1] as number)) / ((times[i + 1] as number) - (times[i - 1] as number));
    const line = (values[i - 1] as number) * (1 - share) + (values[i + 1] as number) * share;
    return (value - line) / Math.sqrt(1 + share ** 2 + (1 - share) ** 2);
  });
}

/** Velocities by lines of least squares through the rows near each row (Savitzky and Golay 1964, for uneven times), outliers left out. */
export function kinematicsOf({ times, x, y }: Recording): Kinematics {
  const count = times.length;
  const [bx, by] = [bends(times, x), bends(times, y)];
  const away = Float64Array.from(bx, (value, i) => Math.max(Math.abs(value), Math.abs(by[i] as number)));
  const noise = NORMAL * median([...bx.subarray(1, -1), ...by.subarray(1, -1)].map(Math.abs));
  const steps = Float64Array.from(times.subarray(1), (time, i) => time - (times[i] as number));
  const step = median(steps);
  const length = (i: number, j: number) =>
    Math.sqrt(((x[j] as number) - (x[i] as number)) ** 2 + ((y[j] as number) - (y[i] as number)) ** 2);
  const usual = median(Float64Array.from(steps, (_, i) => length(i, i + 1)));
  const limit = FAR * Math.max(noise, 0.3 * usual, 1e-9);
  // The middle one of three rows that bend is the outlier, the others bend because of it.
  const isOutlier = Uint8Array.from(away, (value, i) =>
    value > limit && value >= (away[i - 1] ?? 0) && value >= (away[i + 1] ?? 0) ? 1 : 0,
  );
  const [vx, vy] = [new Float64Array(count), new Float64Array(count)];
  for (let i = 0; i < count; i++) {
    let [from, to] = [i, i];
    const reaches = (at: number) => Math.abs((times[at] as number) - (times[i] as number)) <= WINDOW / 2 + 1e-9;
    while (from > 0 && (reaches(from - 1) || i - from < (FEWEST - 1) / 2)) from--;
    while (to < count - 1 && (reaches(to + 1) || to - i < (FEWEST - 1) / 2)) to++;
    let [n, st, sx, sy, stt, stx, sty] = [0, 0, 0, 0, 0, 0, 0];
    for (let j = from; j <= to; j++) {
      if (isOutlier[j]) continue;
      const t = (times[j] as number) - (times[i] as number);
      n++;
      st += t;
      sx += x[j] as number;
      sy += y[j] as number;
      stt += t * t;
      stx += t * (x[j] as number);
      sty += t * (y[j] as number);
    }
    const spread = n * stt - st * st;
    if (spread > 0) {
      vx[i] = (n * stx - st * sx) / spread;
      vy[i] = (n * sty - st * sy) / spread;
    }
  }
  const speed = Float64Array.from(vx, (value, i) => Math.sqrt(value ** 2 + (vy[i] as number) ** 2));
  return { vx, vy, speed, noise, step, isOutlier };
}

/** A level of speed that a recording keeps for a while. */
export interface Level {
  speed: number;
  /** Seconds at it. */
  seconds: number;
}

/** Shares of speed: two speeds that are the same, and a change over a window that is a cruise. */
const SAME = 0.08;
const STEADY = 0.06;
/** Seconds at a level that make it one. */
const LEAST = 0.2;
/** Seconds on both sides of a row over which a cruise is steady. */
const REACH = 0.08;

/** Rows at which the velocity is steady: as fast a little earlier and later, and in the same direction. */
export function cruising(recording: Recording, { vx, vy, speed, noise, step }: Kinematics): boolean[] {
  const { times } = recording;
  const top = Math.max(...speed);
  const reach = Math.max(REACH, 2 * step);
  // Velocities are uncertain by noise over the window.
  const slack = (4 * noise) / Math.max(WINDOW, 4 * step);
  let [from, to] = [0, 0];
  return [...speed].map((own, i) => {
    while ((times[i] as number) - (times[from] as number) > reach) from++;
    while (to < speed.length - 1 && (times[to + 1] as number) - (times[i] as number) <= reach) to++;
    const change = Math.sqrt(((vx[to] as number) - (vx[from] as number)) ** 2 + ((vy[to] as number) - (vy[from] as number)) ** 2);
    return own > 0.08 * top && change < Math.max(STEADY * own, slack);
  });
}

/** The levels of speed that cruises have, the slowest first, by the modes of their distribution. */
export function levelsOf(recording: Recording, kinematics: Kinematics): Level[] {
  const { speed, step } = kinematics;
  const isCruise = cruising(recording, kinematics);
  const speeds = [...speed].filter((_, i) => isCruise[i]).toSorted((a, b) => a - b);
  const levels: Level[] = [];
  let rest = speeds;
  while (rest.length * step > LEAST && levels.length < 6) {
    // The window of ± SAME with the most rows.
    let [best, most, from] = [0, 0, 0];
    for (let to = 0; to < rest.length; to++) {
      while ((rest[from] as number) < (rest[to] as number) * (1 - SAME)) from++;
      if (to - from + 1 > most) [most, best] = [to - from + 1, from];
    }
    const own = rest.slice(best, best + most);
    if (own.length * step < LEAST) break;
    levels.push({ speed: median(own), seconds: own.length * step });
    const [low, high] = [(own[0] as number) * (1 - SAME), (own.at(-1) as number) * (1 + SAME)];
    rest = rest.filter((value) => value < low || value > high);
  }
  return levels.toSorted((a, b) => a.speed - b.speed);
}
