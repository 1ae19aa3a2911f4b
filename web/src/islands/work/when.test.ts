import { describe, expect, it } from 'vitest';
import { whenWords } from './when.ts';

/** A moment by the clock of this machine. */
const at = (year: number, month: number, day: number, hour = 0, minute = 0) => new Date(year, month - 1, day, hour, minute);

describe('a date', () => {
  it.each([
    [at(2026, 11, 28, 14, 2), at(2026, 11, 28, 23, 59), 'today 14:02'],
    [at(2026, 11, 27, 9, 15), at(2026, 11, 28, 0, 1), 'yesterday 09:15'],
    [at(2026, 11, 26, 23, 59), at(2026, 11, 28, 0, 1), '26 Nov 2026'],
    [at(2025, 12, 31, 23, 59), at(2026, 1, 1, 0, 0), 'yesterday 23:59'],
    [at(2024, 2, 29, 12), at(2024, 3, 1, 12), 'yesterday 12:00'],
    [at(2025, 11, 28, 14, 2), at(2026, 11, 28, 14, 2), '28 Nov 2025'],
    [at(2026, 11, 30), at(2026, 11, 28), '30 Nov 2026'],
  ])('%s seen on %s is %s', (time, now, words) => {
    expect(whenWords(time, { now })).toBe(words);
    expect(whenWords(time.toISOString(), { now })).toBe(words);
  });

  it('has its time of day on request', () => {
    expect(whenWords(at(2026, 11, 20, 7, 5), { now: at(2026, 11, 28), exact: true })).toBe('20 Nov 2026 07:05');
  });
});
