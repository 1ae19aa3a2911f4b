import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { entityTags, isUnchanged, seenBy, seenOrNone } from './conditions.ts';

const match = (value: string) => new Headers({ 'if-match': value });

describe('entity tags', () => {
  it('are read back from any list of them, weak and strong, with commas inside and spaces around', () => {
    const text = fc.stringMatching(/^[!#-~]{0,12}$/);
    const tags = fc.array(fc.record({ isWeak: fc.boolean(), text }), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(tags, fc.constantFrom(',', ', ', ' ,\t'), (list, comma) => {
        const header = list.map((tag) => `${tag.isWeak ? 'W/' : ''}"${tag.text}"`).join(comma);
        expect(entityTags(header)).toEqual(list);
      }),
    );
  });

  it.each(['7', '"7', 'w/"7"', '"a" "b"', "'7'"])('are refused when they are none: %s', (header) => {
    expect(() => entityTags(header)).toThrow('An entity tag is text in quotes');
  });
});

describe('what a writer has seen', () => {
  it('is any of the versions that it names, strongly', () => {
    expect([1, 2, 3].filter(seenBy(match('"3", W/"2", "1"')))).toEqual([1, 3]);
    expect([0, 1, 2].filter(seenBy(match('*')))).toEqual([1, 2]);
    expect([0, 1, 2].filter(seenBy(match('"somebody’s"'.replace('’', ''))))).toEqual([]);
    expect(() => seenBy(new Headers())).toThrow(/If-Match/);
  });

  it('is none where it says that none may be there', () => {
    expect([0, 1].filter(seenOrNone(new Headers({ 'if-none-match': '*' })))).toEqual([0]);
    expect([0, 1].filter(seenOrNone(match('"1"')))).toEqual([1]);
    expect(() => seenOrNone(new Headers())).toThrow(/If-None-Match/);
    expect(() => seenOrNone(new Headers({ 'if-none-match': '"1"' }))).toThrow(/If-Match/);
  });
});

describe('what a reader has', () => {
  it.each([
    ['"7"', true],
    ['W/"7"', true],
    ['"1", "7"', true],
    ['*', true],
    ['"8"', false],
    ['7', false],
  ])('by %s is unchanged: %s', (header, is) => {
    expect(isUnchanged(new Headers({ 'if-none-match': header }), '"7"')).toBe(is);
  });
});
