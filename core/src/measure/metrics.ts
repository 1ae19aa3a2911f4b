import { gaits } from '../motion/codes.ts';
import type { Column, Trace } from '../motion/trace.ts';
import { shareOfTick } from './crossing.ts';
import type { MetricName, Metrics } from './metricSpecs.ts';
import { measureSpan } from './span.ts';

/** Share of a change of speed that counts as all of it. */
const DONE = 0.99;
/** Speed below which a body rests, unit/s. */
const RESTS = 1e-6;

interface Change {
  seconds: number;
  distance: number;
}

/** The way of a trace from one row on to a share of the tick that ends with another. */
function wayTo(trace: Trace, from: number, to: number, share: number): number {
  let way = 0;
  for (let row = from + 1; row <= to; row++) {
    const step = Math.sqrt((trace.at('x', row) - trace.at('x', row - 1)) ** 2 + (trace.at('y', row) - trace.at('y', row - 1)) ** 2);
    way += row === to ? step * Math.min(1, share) : step;
  }
  return way;
}

function change(trace: Trace, from: number, to: number, share: number): Change {
  const before = trace.at('time', to - 1);
  return { seconds: before + (trace.at('time', to) - before) * share - trace.at('time', from), distance: wayTo(trace, from, to, share) };
}

/** The speed a tick before the one that ends with a row would begin, at a known rate (unit/s²); null where that is 0: not known. */
const earlier = (trace: Trace, to: number, rate: number): number | null =>
  rate === 0 ? null : trace.at('speed', to - 1) + rate * (trace.at('time', to) - trace.at('time', to - 1));

/** The rates (unit/s²) at which the speed is known to rise and to fall: what is over within its first tick does not show them. */
export interface SteadyRates {
  rise: number;
  fall: number;
}

/** The rises from rest, with the hands asking for it all the while, to 99 % of the speed that is aimed at. */
function rises(trace: Trace, rate: number | null): Change[] {
  const found: Change[] = [];
  const at = (column: Column, row: number) => trace.at(column, row);
  for (let row = trace.first; row + 1 < trace.end; row++) {
    if (at('speed', row) > RESTS || at('amount', row + 1) === 0) continue;
    for (let to = row + 1; to < trace.end && at('amount', to) > 0 && at('contacts', to) === 0; to++) {
      const goal = DONE * at('target', to);
      if (goal <= 0 || at('speed', to) < goal) continue;
      const before = to - 2 >= row ? at('speed', to - 2) : earlier(trace, to, -(rate ?? 0));
      found.push(change(trace, row, to, shareOfTick(before, at('speed', to - 1), at('speed', to), goal, at('target', to))));
      row = to;
      break;
    }
  }
  return found;
}

/** The stops from the speed aimed at, with nothing asked for, to rest: where a steady rate ends it inside of its tick, or to the last hundredth. */
function stops(trace: Trace, known: number | null): Change[] {
  const found: Change[] = [];
  const speed = (row: number) => trace.at('speed', row);
  for (let row = trace.first; row + 1 < trace.end; row++) {
    const from = speed(row);
    if (trace.at('amount', row) === 0 || trace.at('amount', row + 1) > 0 || from < DONE * trace.at('target', row) || from <= RESTS)
      continue;
    for (let to = row + 1; to < trace.end && trace.at('amount', to) === 0 && trace.at('contacts', to) === 0; to++) {
      const goal = (1 - DONE) * from;
      const [v0, v1] = [speed(to - 1), speed(to)];
      if (v1 > goal) continue;
      // A steady rate comes to rest where the line of the tick before meets zero; what fades is over at the last hundredth.
      const rate = to - 2 >= row ? speed(to - 2) - v0 : (earlier(trace, to, known ?? 0) ?? 2 * v0) - v0;
      const isSteady = rate > RESTS && (v1 <= RESTS ? rate >= v0 - RESTS : Math.abs(v0 - v1 - rate) < 1e-6 * rate);
      const before = to - 2 >= row ? speed(to - 2) : null;
      found.push(change(trace, row, to, isSteady ? v0 / rate : v0 > v1 ? shareOfTick(before, v0, v1, goal, 0) : 1));
      row = to;
      break;
    }
  }
  return found;
}

/** Ticks from the first that asks for motion to the first that moves, both counted; absent where nothing is asked for or moves. */
function latency(trace: Trace): number | undefined {
  for (let row = trace.first + 1; row < trace.end; row++) {
    if (trace.at('amount', row) === 0 || trace.at('speed', row - 1) > RESTS) continue;
    for (let to = row; to < trace.end; to++) if (trace.at('speed', to) > RESTS) return to - row + 1;
    return undefined;
  }
  return undefined;
}

const mean = (values: number[]): number | undefined => (values.length > 0 ? values.reduce((a, b) => a + b) / values.length : undefined);

/**
 * The metrics of a trace; those that it does not hold are absent. Rises and stops are the means of all that are in it, interpolated inside
 * their ticks; `rates`, where they are known, tell when one ends that is over within its first tick.
 */
export function traceMetrics(trace: Trace, rates: SteadyRates | null = null): Metrics {
  const span = measureSpan(trace, trace.at('time', trace.first), trace.at('time', trace.end - 1));
  const inGait = gaits.map(() => 0);
  for (let row = trace.first + 1; row < trace.end; row++) {
    const gait = trace.at('gait', row);
    inGait[gait] = (inGait[gait] ?? 0) + trace.at('time', row) - trace.at('time', row - 1);
  }
  const [up, down] = [rises(trace, rates?.rise ?? null), stops(trace, rates?.fall ?? null)];
  const metrics: Partial<Record<MetricName, number | undefined>> = {
    riseTime: mean(up.map(({ seconds }) => seconds)),
    riseDistance: mean(up.map(({ distance }) => distance)),
    stopTime: mean(down.map(({ seconds }) => seconds)),
    stopDistance: mean(down.map(({ distance }) => distance)),
    inputLatency: latency(trace),
    travelled: span.travelled,
    meanSpeed: span.meanSpeed,
    peakSpeed: span.peakSpeed,
    timeStanding: inGait[0],
    timeWalking: inGait[1],
    timeSprinting: inGait[2],
    timeSpent: inGait[3],
    contacts: span.contacts,
    contactTime: span.touched,
    turned: span.turned,
  };
  return Object.fromEntries(Object.entries(metrics).filter(([, value]) => value !== undefined));
}
