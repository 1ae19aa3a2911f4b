import { gaits } from '../motion/codes.ts';
import type { Column, Trace } from '../motion/trace.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { meetingIn } from './crossing.ts';
import type { MetricName, Metrics } from './metricSpecs.ts';
import { measureSpan } from './span.ts';
import { type SpeedLaw, speedLaw } from './speedLaw.ts';

/** Share of a change of speed that counts as all of it. */
const DONE = 0.99;
/** Speed below which a body rests, unit/s. */
const RESTS = 1e-6;

interface Change {
  seconds: number;
  distance: number;
}

/** The distance that a tick covers, unit. */
const covered = (trace: Trace, row: number): number =>
  Math.sqrt((trace.at('x', row) - trace.at('x', row - 1)) ** 2 + (trace.at('y', row) - trace.at('y', row - 1)) ** 2);

/** Reads the changes of speed in a trace, inside their ticks by the law of its ramp. */
class Changes {
  readonly #trace: Trace;
  readonly #law: SpeedLaw;
  readonly #isExact: boolean;
  /** Fraction of the initial speed that counts as rest. */
  readonly #left: number;

  constructor(trace: Trace, parameters: Parameters) {
    this.#trace = trace;
    this.#law = speedLaw(parameters);
    this.#isExact = parameters.clock.integration === 'exact';
    this.#left = parameters.ramp.model === 'smooth' ? 1 - DONE : 0;
  }

  /** From the tick after row `from` to the moment, in the tick that ends with row `to`, when the speed crosses a goal on its approach to `aim`. */
  #change(from: number, to: number, goal: number, aim: number): Change {
    const trace = this.#trace;
    const [v0, v1] = [trace.at('speed', to - 1), trace.at('speed', to)];
    const dt = trace.at('time', to) - trace.at('time', to - 1);
    const before = to - 2 >= from ? trace.at('speed', to - 2) : null;
    const { share, distance: inside } = meetingIn({ before, v0, v1, limit: aim, dt }, goal, this.#law);
    // A body at rest has covered the whole distance of the tick.
    const rested = goal === 0 ? covered(trace, to) : null;
    let distance = rested ?? (this.#isExact ? inside : null) ?? share * covered(trace, to);
    for (let row = from + 1; row < to; row++) distance += covered(trace, row);
    return { seconds: trace.at('time', to - 1) + share * dt - trace.at('time', from), distance };
  }

  /** The rises from rest, with the hands asking for it all the while, to 99 % of the speed that is aimed at. */
  rises(): Change[] {
    const found: Change[] = [];
    const at = (column: Column, row: number) => this.#trace.at(column, row);
    const { first, end } = this.#trace;
    for (let row = first; row + 1 < end; row++) {
      if (at('speed', row) > RESTS || at('amount', row + 1) === 0) continue;
      for (let to = row + 1; to < end && at('amount', to) > 0 && at('contacts', to) === 0; to++) {
        const goal = DONE * at('target', to);
        if (goal <= 0 || at('speed', to) < goal) continue;
        found.push(this.#change(row, to, goal, at('target', to)));
        row = to;
        break;
      }
    }
    return found;
  }

  /** The stops from the speed aimed at, hands off, to rest: inside the tick if a steady rate ends there, else to the last hundredth. */
  stops(): Change[] {
    const found: Change[] = [];
    const at = (column: Column, row: number) => this.#trace.at(column, row);
    const { first, end } = this.#trace;
    for (let row = first; row + 1 < end; row++) {
      const from = at('speed', row);
      if (at('amount', row) === 0 || at('amount', row + 1) > 0 || from < DONE * at('target', row) || from <= RESTS) continue;
      for (let to = row + 1; to < end && at('amount', to) === 0 && at('contacts', to) === 0; to++) {
        if (at('speed', to) > Math.max(RESTS, this.#left * from)) continue;
        found.push(this.#change(row, to, this.#left * from, 0));
        row = to;
        break;
      }
    }
    return found;
  }
}

/** Ticks from the first that requests motion to the first that moves, both counted; absent if no motion is requested or happens. */
function latency(trace: Trace): number | undefined {
  for (let row = trace.first + 1; row < trace.end; row++) {
    if (trace.at('amount', row) === 0 || trace.at('speed', row - 1) > RESTS) continue;
    for (let to = row; to < trace.end; to++) if (trace.at('speed', to) > RESTS) return to - row + 1;
    return undefined;
  }
  return undefined;
}

const mean = (values: number[]): number | undefined => (values.length > 0 ? values.reduce((a, b) => a + b) / values.length : undefined);

/** The metrics that a trace may have. */
export const traceMetricNames = [
  ...(['riseTime', 'riseDistance', 'stopTime', 'stopDistance', 'inputLatency', 'travelled', 'meanSpeed', 'peakSpeed'] as const),
  ...(['timeStanding', 'timeWalking', 'timeSprinting', 'timeSpent', 'contacts', 'contactTime', 'turned'] as const),
] satisfies readonly MetricName[];

/**
 * The metrics of a trace, driven with `parameters`; those that it does not hold are absent. Rises and stops are the means of all that are in
 * it, read inside their ticks by the law of the ramp (`speedLaw`).
 */
export function traceMetrics(trace: Trace, parameters: Parameters): Metrics {
  const span = measureSpan(trace, trace.at('time', trace.first), trace.at('time', trace.end - 1));
  const inGait = gaits.map(() => 0);
  for (let row = trace.first + 1; row < trace.end; row++) {
    const gait = trace.at('gait', row);
    inGait[gait] = (inGait[gait] ?? 0) + trace.at('time', row) - trace.at('time', row - 1);
  }
  const changes = new Changes(trace, parameters);
  const [up, down] = [changes.rises(), changes.stops()];
  const metrics: Record<(typeof traceMetricNames)[number], number | undefined> = {
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
