import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readJson } from './document.ts';
import { jsonFault } from './jsonFault.ts';

describe('where a text stops being JSON', () => {
  it.each([
    ['{"a":1,}', 1, 8, '"}"'],
    ['{"a":NaN}', 1, 6, '"NaN}"'],
    ['{\n  "a": 01\n}', 2, 8, '"01"'],
    ["{'a':1}", 1, 2, `"'a':1}"`],
    ['[1 2]', 1, 4, '"2]"'],
    ['{"a" 1}', 1, 6, '"1}"'],
    ['[1]\n x', 2, 2, '"x"'],
    ['{"a": [1,', 1, 10, 'the end of the file'],
    ['', 1, 1, 'the end of the file'],
    ['["a\tb"]', 1, 2, '"\\"a"'],
  ])('%s', (text, line, column, found) => {
    expect(jsonFault(text)).toEqual({ line, column, found });
  });

  it('is the end, and no sooner, for any JSON that is cut', () => {
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 3 }), fc.nat(3), fc.double({ min: 0, max: 1, noNaN: true }), (value, indent, share) => {
        const text = JSON.stringify([value], null, indent);
        const cut = text.slice(0, Math.floor(share * text.length));
        const { line, column } = jsonFault(cut);
        const at =
          cut
            .split('\n')
            .slice(0, line - 1)
            .join('\n').length +
          (line > 1 ? 1 : 0) +
          column -
          1;
        // Within a text or a number that is cut the fault is where that begins.
        expect(cut.slice(at)).toMatch(/^("|-?[\d.eE+-]*$|t|f|n|$)/);
      }),
    );
  });

  it('is none in what is JSON: the whole of it is read', () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.nat(2), (value, indent) => {
        const text = JSON.stringify(value, null, indent);
        expect(jsonFault(text).found).toBe('the end of the file');
      }),
    );
  });

  it('is found at any depth, up to where nobody would look', () => {
    expect(jsonFault('['.repeat(90_000))).toMatchObject({ column: 90_001, found: 'the end of the file' });
    expect(jsonFault('['.repeat(1_000_000))).toMatchObject({ column: 100_001, found: '"[[[[[[[[[[[["' });
  });

  it('is reported when a file is read', () => {
    expect(readJson('{"a":1,\n"b" 2}')).toEqual({
      ok: false,
      faults: [{ path: '', found: 'invalid JSON at line 2, column 5: "2}"', expected: 'a UTF-8 JSON file' }],
    });
  });
});
