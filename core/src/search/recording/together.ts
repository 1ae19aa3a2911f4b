import { exp, log } from '../../math/functions.ts';
import type { RecordingReport } from './report.ts';

/** Speeds that differ by more than this factor are a walk and a sprint. */
const FASTER = 1.12;

const WALK = 'pace.walkSpeed';
const SPRINT = 'pace.sprintSpeed';

type Found = Pick<RecordingReport, 'set' | 'held' | 'unknown'>;

/** A recording with a single speed, which is the sprint beside another one that is slower. */
function asSprint({ set: { [WALK]: speed, ...set }, held: { [WALK]: range, ...held }, unknown }: Found): Found {
  return {
    set: { ...set, ...(speed === undefined ? {} : { [SPRINT]: speed }) },
    held: { ...held, ...(range ? { [SPRINT]: range } : {}) },
    unknown: unknown.filter((path) => path !== SPRINT),
  };
}

/** Weighs a number of several recordings by the inverse squares of their ranges, as logarithms. */
function weighed(ranges: readonly { low: number; high: number; evidence: string }[]): {
  value: number;
  low: number;
  high: number;
  evidence: string;
} {
  const parts = ranges.map(({ low, high }) => ({ at: log(low * high) / 2, weight: (2 / Math.max(1e-6, log(high / low))) ** 2 }));
  const whole = parts.reduce((sum, { weight }) => sum + weight, 0);
  const at = parts.reduce((sum, part) => sum + part.weight * part.at, 0) / whole;
  const reach = 1 / Math.sqrt(whole);
  return {
    value: exp(at),
    low: exp(at - reach),
    high: exp(at + reach),
    evidence: ranges.map(({ evidence }) => evidence).join('; '),
  };
}

/**
 * The numbers of one character from several recordings: each number weighed by its ranges, and walk and sprint from takes that have one speed each.
 */
export function together(reports: readonly Found[]): Found {
  const walks = reports.map(({ set }) => set[WALK]).filter((speed) => typeof speed === 'number');
  const slowest = Math.min(...walks);
  const found = reports.map((report) => {
    const speed = report.set[WALK];
    return typeof speed === 'number' && report.set[SPRINT] === undefined && speed > slowest * FASTER ? asSprint(report) : report;
  });
  const set: Found['set'] = Object.assign({}, ...found.map((one) => one.set).toReversed());
  const held: Found['held'] = {};
  for (const path of new Set(found.flatMap((one) => Object.keys(one.held)))) {
    const { value, ...range } = weighed(found.flatMap((one) => one.held[path] ?? []));
    held[path] = range;
    set[path] = Number(value.toPrecision(4));
  }
  return { set, held, unknown: (found[0]?.unknown ?? []).filter((path) => !Object.hasOwn(set, path)) };
}
