import { csvLine } from '../../formats/escaping.ts';
import { MET, type Sweep, UNKNOWN } from './sweep.ts';

/** A sweep as programs read it: a row of each metric for each value of the second axis; null where there is no value. */
export interface SweepReport {
  axes: { path: string; values: (number | boolean | string)[] }[];
  metrics: Record<string, (number | null)[][]>;
  /** True where all targets are met; absent without targets. */
  met?: (boolean | null)[][];
  holes: { at: number[]; why: string }[];
  seconds: number;
}

/** Rows of a plane. */
const rowsOf = <T>(sweep: Sweep, value: (cell: number) => T): T[][] =>
  Array.from({ length: sweep.height }, (_, y) => Array.from({ length: sweep.width }, (__, x) => value(y * sweep.width + x)));

export function sweepReport(sweep: Sweep, seconds: number): SweepReport {
  const { axes, targets } = sweep.definition;
  return {
    axes: axes.map(({ path, values }) => ({ path, values: [...values] })),
    metrics: Object.fromEntries(
      [...sweep.values].map(([key, values]) => [
        key,
        rowsOf(sweep, (cell) => {
          const value = values[cell] as number;
          return Number.isNaN(value) ? null : value;
        }),
      ]),
    ),
    ...(targets.length > 0 ? { met: rowsOf(sweep, (cell) => (sweep.met[cell] === UNKNOWN ? null : sweep.met[cell] === MET)) } : {}),
    holes: sweep.holes,
    seconds,
  };
}

/** A sweep as CSV (RFC 4180): a line for each cell, with its values on the axes, its metrics, and whether it meets the targets. */
export function* sweepCsv(sweep: Sweep): Generator<string> {
  const { axes, targets } = sweep.definition;
  yield csvLine([...axes.map(({ path }) => path), ...sweep.metrics, ...(targets.length > 0 ? ['met'] : [])]);
  for (let cell = 0; cell < sweep.cells; cell++) {
    const places = sweep.placesOf(cell);
    yield csvLine([
      ...axes.map(({ values }, i) => {
        const value = values[places[i] as number] ?? '';
        return typeof value === 'boolean' ? String(value) : value;
      }),
      ...sweep.metrics.map((key) => {
        const value = sweep.values.get(key)?.[cell] as number;
        return Number.isNaN(value) ? '' : value;
      }),
      ...(targets.length > 0 ? [sweep.met[cell] === UNKNOWN ? '' : String(sweep.met[cell] === MET)] : []),
    ]);
  }
}
