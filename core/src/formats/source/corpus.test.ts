import { describe, expect, it } from 'vitest';
import { fragmentsOf, type Mark } from '../../testing/sources/corpus.ts';
import { pastedTuning } from './pasted.ts';
import { type Placed, placeNumbers } from './placing.ts';
import { proposeUnits } from './proposeUnits.ts';
import { readSource } from './source.ts';

const fragments = (['compiled', 'scripts', 'data'] as const).flatMap(fragmentsOf);

const isAt = ({ found }: Placed, { end }: Mark) => found.literals.some((one) => one.at < end && end <= one.end);

describe('210 pieces of games in 60 languages and formats', () => {
  it('are read rightly at least 23 times of 25; hardly ever wrongly without a mark, and with hardly anything superfluous', () => {
    const counts = { all: 0, right: 0, wrong: 0, extra: 0 };
    const seen: string[] = [];
    for (const { title, code, marks } of fragments) {
      const placed = placeNumbers(readSource(code).found);
      for (const mark of marks) {
        const one = placed.find((other) => isAt(other, mark));
        if (one?.path == null && mark.isDoubtful) continue;
        counts.all++;
        if (one?.path === mark.path) counts.right++;
        else seen.push(`${title}: ${one?.found.name ?? 'nothing'} is ${one?.path}, and was ${mark.path}`);
        if (one?.path && one.path !== mark.path && !one.isGuess) counts.wrong++;
      }
      for (const one of placed)
        if (one.path && !marks.some((mark) => isAt(one, mark))) {
          counts.extra++;
          seen.push(`${title}: nobody asked for ${one.found.name} as ${one.path}`);
        }
    }
    expect(counts.all).toBeGreaterThan(590);
    expect(counts.right / counts.all, seen.join('\n')).toBeGreaterThanOrEqual(0.92);
    expect(counts.wrong / counts.all, seen.join('\n')).toBeLessThanOrEqual(0.003);
    expect(counts.extra / counts.all, seen.join('\n')).toBeLessThanOrEqual(0.01);
  });

  it('come to what they say, in the units that they say', () => {
    let expected = 0;
    for (const { title, code, marks } of fragments) {
      const source = readSource(code);
      const placed = placeNumbers(source.found);
      const { values } = pastedTuning(title, placed, proposeUnits(placed, source).terms);
      for (const { path, value } of marks)
        if (value !== undefined) {
          expected++;
          expect(values[path], `${title}: ${path}`).toBe(value);
        }
    }
    expect(expected).toBeGreaterThan(50);
  });
});
