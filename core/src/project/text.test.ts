import { describe, expect, it } from 'vitest';
import { sequence } from '../testing/sequence.ts';
import { newTuning, readTuning, withValue } from '../tuning/tuning.ts';
import { mergeFiles } from './kinds.ts';
import { canonicalText, documentText, fileStem } from './text.ts';

describe('the text of a document', () => {
  it('has the head first, groups and numbers in the catalogue’s order, one a line', () => {
    const file = {
      stamina: { drain: 5, enabled: true },
      pace: { sprintSpeed: { times: 2, of: 'pace.walkSpeed' }, walkSpeed: 9 },
      name: 'Boots',
      unit: 'px',
      version: 2,
      format: 'zygopod/tuning',
    };
    expect(documentText(file)).toBe(`{
  "format": "zygopod/tuning",
  "version": 2,
  "name": "Boots",
  "unit": "px",
  "pace": {
    "walkSpeed": 9,
    "sprintSpeed": { "of": "pace.walkSpeed", "times": 2 }
  },
  "stamina": {
    "enabled": true,
    "drain": 5
  }
}
`);
  });

  it('is the same for the same document, in whatever order its keys came, and a change of a number changes a line', () => {
    const next = sequence(5);
    const shuffled = (value: unknown): unknown =>
      typeof value === 'object' && value !== null && !Array.isArray(value)
        ? Object.fromEntries(
            Object.entries(value)
              .map(([key, one]) => [key, shuffled(one)] as const)
              .sort(() => next() - 0.5),
          )
        : value;
    for (let i = 0; i < 50; i++) {
      const walk = Math.round(next() * 1e5) / 100;
      const file = withValue(withValue(newTuning('Any'), 'pace.walkSpeed', walk), 'ramp.accelerate', 700 + i);
      const text = documentText(file);
      expect(documentText(shuffled(file) as object)).toBe(text);
      expect(canonicalText(shuffled(file))).toBe(canonicalText(file));
      expect(readTuning(JSON.parse(text))).toMatchObject({ ok: true, value: { file } });
      const lines = documentText(withValue(file, 'pace.walkSpeed', walk + 1)).split('\n');
      expect(lines.filter((line, j) => line !== text.split('\n')[j])).toHaveLength(1);
    }
  });

  it('keeps events and points on lines of their own', () => {
    const tape = {
      format: 'zygopod/tape',
      version: 2,
      name: 'Lap',
      hz: 60,
      ticks: 9,
      events: Array.from({ length: 9 }, (_, at) => ({ press: 'right', at })),
    };
    expect(documentText(tape)).toContain('\n    { "at": 3, "press": "right" },\n');
    expect(
      documentText({
        walls: [
          {
            points: [
              [0, 0],
              [9, 9],
            ],
            closed: true,
          },
        ],
      }),
    ).toContain('"walls": [{ "points": [[0, 0], [9, 9]], "closed": true }]');
    expect(documentText({ events: [], surfaces: {} })).toBe('{\n  "surfaces": {},\n  "events": []\n}\n');
  });
});

describe('the stem of a file', () => {
  it('keeps letters of any script, and is never empty nor long', () => {
    expect(fileStem('Carrier, day boots')).toBe('carrier-day-boots');
    expect(fileStem('漢字 Ünïcode / ..')).toBe('漢字-ünïcode');
    expect(fileStem('../../etc')).toBe('etc');
    expect(fileStem('***')).toBe('unnamed');
    expect([...fileStem('é'.repeat(10_000))]).toHaveLength(60);
  });
});

describe('merging files', () => {
  it('takes each part that one side alone changed, and names those that both did', () => {
    const from = { format: 'zygopod/ground', name: 'Yard', cell: 32, walls: [1], goal: { x: 1 } };
    const merged = mergeFiles(
      'ground',
      [from],
      { ...from, cell: 16, name: 'Mine' },
      { ...from, name: 'Theirs', walls: [1, 2], goal: undefined },
    );
    expect(merged).toEqual({ file: { format: 'zygopod/ground', name: 'Mine', cell: 16, walls: [1, 2] }, conflicts: ['name'] });
  });

  it('takes what is as in an ancestor for not changed since, by the newer of them', () => {
    const [old, newer] = [
      { a: 1, b: 1, c: 1 },
      { a: 2, b: 2, c: 1 },
    ];
    // Mine grew from the newer one, theirs went on from it.
    expect(mergeFiles('ground', [old, newer], { ...newer, c: 5 }, { ...newer, a: 3 })).toEqual({
      file: { a: 3, b: 2, c: 5 },
      conflicts: [],
    });
    // Mine is still as the older one was.
    expect(mergeFiles('ground', [old, newer], { ...old, c: 5 }, newer)).toEqual({ file: { a: 2, b: 2, c: 5 }, conflicts: [] });
    expect(mergeFiles('ground', [old, newer], newer, old)).toEqual({ file: newer, conflicts: [] });
  });

  it('merges tunings by parameter, and their names', () => {
    const from = withValue(newTuning('Boots'), 'pace.walkSpeed', 100);
    const mine = withValue(from, 'pace.walkSpeed', 120);
    const theirs = { ...withValue(from, 'body.radius', 9), name: 'Shoes' };
    const { file, conflicts } = mergeFiles('tuning', [from], mine, theirs);
    expect([file, conflicts]).toEqual([{ ...withValue(mine, 'body.radius', 9), name: 'Shoes' }, []]);
    expect(mergeFiles('tuning', [from], mine, withValue(from, 'pace.walkSpeed', 90)).conflicts).toEqual(['pace.walkSpeed']);
  });
});
