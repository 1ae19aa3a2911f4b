import fc from 'fast-check';
import { expect, it } from 'vitest';
import { jsonText, RawJson } from './rawJson.ts';

it('is what JSON.stringify gives, with raw JSON wherever it lies', () => {
  fc.assert(
    fc.property(fc.jsonValue(), fc.jsonValue(), (value, raw) => {
      const held = {
        at: new Date(0),
        gone: undefined,
        list: [value, new RawJson(JSON.stringify(raw))],
        file: new RawJson(JSON.stringify(raw)),
      };
      expect(jsonText(held)).toBe(JSON.stringify({ at: new Date(0), list: [value, raw], file: raw }));
    }),
  );
});
