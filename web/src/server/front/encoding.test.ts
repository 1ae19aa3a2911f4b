import { describe, expect, it } from 'vitest';
import { encodingFor } from './encoding.ts';

describe('the encoding of a built file', () => {
  it.each([
    [undefined, null],
    ['', null],
    ['gzip, deflate, br, zstd', 'br'],
    ['gzip', 'gzip'],
    ['GZIP;q=0.5', 'gzip'],
    ['br;q=0, gzip;q=0.1', 'gzip'],
    ['br;q=0.2, gzip;q=0.8', 'gzip'],
    ['gzip;q=0.5, br;q=0.5', 'br'],
    ['*', 'br'],
    ['*;q=0', null],
    ['br;q=0, *', 'gzip'],
    ['identity', null],
    ['identity;q=1, br;q=0.5', null],
    ['deflate, zstd', null],
    ['br;q=x, gzip;q=', null],
    [';;,=;q', null],
  ])('of %j is %j', (header, encoding) => {
    expect(encodingFor(header)).toBe(encoding);
  });
});
