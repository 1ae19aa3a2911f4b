import { csvLine, type Lap } from '@zygopod/core';

/** A finished lap as a row of a table. */
export interface LapRow {
  name: string;
  revision: string;
  lap: Lap;
  /** Length of the planned path, in the ground's unit. */
  path: number;
}

/** Seconds from gate to gate, the first from the start. */
export const splitsOf = ({ gates }: Pick<Lap, 'gates'>): number[] => gates.map((time, i) => time - (gates[i - 1] ?? 0));

/** Laps as comma-separated values (RFC 4180): a row each, with the splits of all crossings. */
export function lapCsv(rows: readonly LapRow[], crossings: number): string {
  const splits = Array.from({ length: crossings }, (_, i) => `split${i + 1}`);
  const head = ['tuning', 'revision', 'time', ...splits, 'touches', 'contactTime', 'corrections', 'distance', 'path', 'sprint'];
  const lines = rows.map(({ name, revision, lap, path }) => {
    const own = splitsOf(lap);
    return [
      name,
      revision,
      lap.time,
      ...splits.map((_, i) => own[i] ?? ''),
      lap.touches,
      lap.contactTime,
      lap.corrections,
      lap.distance,
      path,
      lap.sprint,
    ];
  });
  return [head, ...lines].map(csvLine).join('');
}
