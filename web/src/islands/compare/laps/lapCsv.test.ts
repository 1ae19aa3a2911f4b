import type { Lap } from '@zygopod/core';
import { expect, it } from 'vitest';
import { sequence } from '../../../../../core/src/testing/sequence.ts';
import { type LapRow, lapCsv, splitsOf } from './lapCsv.ts';

/** Reads comma-separated values by the rules of RFC 4180, one character after the other. */
function readCsv(text: string): string[][] {
  const rows: string[][] = [[]];
  let [cell, isQuoted] = ['', false];
  for (let i = 0; i < text.length; i++) {
    const c = text[i] as string;
    if (isQuoted && c === '"' && text[i + 1] === '"') cell += text[i++];
    else if (c === '"') isQuoted = !isQuoted;
    else if (!isQuoted && (c === ',' || c === '\r')) {
      rows.at(-1)?.push(cell);
      cell = '';
      if (c === '\r' && text[++i] === '\n' && i + 1 < text.length) rows.push([]);
    } else cell += c;
  }
  return rows;
}

it('laps as comma-separated values hold every number exactly, and splits that add up to the time', () => {
  const next = sequence(9);
  const rows = Array.from({ length: 20 }, (_, i): LapRow => {
    const gates = Array.from({ length: 3 }, (_, k) => k * 4 + next() * 4);
    const numbers = {
      touches: Math.floor(next() * 9),
      contactTime: next(),
      corrections: next() * 5,
      distance: next() * 2000,
      sprint: next(),
    };
    const lap: Lap = { finished: true, time: gates[2] as number, gates, ...numbers };
    return {
      name: ['Carrier, "day" boots', '=1+1', 'Ferry\nhand', 'Plain'][i % 4] as string,
      revision: `rev ${i}`,
      lap,
      path: next() * 2000,
    };
  });
  const [head, ...lines] = readCsv(lapCsv(rows, 3));
  expect(head?.slice(0, 6)).toEqual(['tuning', 'revision', 'time', 'split1', 'split2', 'split3']);
  expect(lines).toHaveLength(rows.length);
  for (const [i, line] of lines.entries()) {
    const { name, lap, path } = rows[i] as LapRow;
    const [tuning, revision, time, s1, s2, s3, touches, contact, corrections, distance, planned, sprint] = line;
    expect([tuning, revision]).toEqual([name.startsWith('=') ? `'${name}` : name, `rev ${i}`]);
    expect([time, touches, contact, corrections, distance, planned, sprint].map(Number)).toEqual([
      lap.time,
      lap.touches,
      lap.contactTime,
      lap.corrections,
      lap.distance,
      path,
      lap.sprint,
    ]);
    expect([s1, s2, s3].map(Number)).toEqual(splitsOf(lap));
    expect(Number(s1) + Number(s2) + Number(s3)).toBeCloseTo(lap.time, 9);
  }
});
