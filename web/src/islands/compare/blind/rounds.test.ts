import { describe, expect, it } from 'vitest';
import { type Choice, intervalWords, type Round, tallyOf, tallyWords } from './rounds.ts';

const a = { id: 'one', revision: 3, name: 'Brisk' };
const b = { id: 'two', revision: 1, name: 'Heavy' };
const round = (choice: Choice, swapped = false, over: Partial<Round> = {}): Round => ({
  who: '',
  choice,
  why: '',
  first: 'a',
  a: swapped ? b : a,
  b: swapped ? a : b,
  ground: 'ground',
  ...over,
});

describe('the tally of a blind trial', () => {
  it('counts for the revision, whichever side it was on', () => {
    const rounds = [round('a'), round('b'), round('b', true), round('a', true), round('a', true), round('none'), round('none', true)];
    expect(tallyOf(rounds, a, b)).toEqual({ a: 2, b: 3, none: 2 });
    expect(tallyOf(rounds, b, a)).toEqual({ a: 3, b: 2, none: 2 });
  });

  it('leaves out the rounds of other revisions', () => {
    expect(tallyOf([round('a', false, { a: { ...a, revision: 2 } }), round('b')], a, b)).toEqual({ a: 0, b: 1, none: 0 });
  });

  it('names the leader, and the probability of the lead by chance', () => {
    expect(tallyWords({ a: 7, b: 2, none: 4 }, ['brisk', 'heavy'])).toBe('7 of 9 for brisk, p 0.09');
    expect(tallyWords({ a: 0, b: 5, none: 0 }, ['brisk', 'heavy'])).toBe('5 of 5 for heavy, p 0.03');
    expect(tallyWords({ a: 2, b: 2, none: 0 }, ['brisk', 'heavy'])).toBe('2 of 4 for either');
    expect(tallyWords({ a: 0, b: 0, none: 3 }, ['brisk', 'heavy'])).toBe('');
    expect(intervalWords({ a: 7, b: 2, none: 0 })).toBe('95 % exact: 40 % to 97 % of the votes');
  });
});
