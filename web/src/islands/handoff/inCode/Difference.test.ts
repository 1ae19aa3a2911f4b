import { describe, expect, it } from 'vitest';
import { partsOf } from './Difference.tsx';

describe('two lines beside each other', () => {
  it.each([
    ['drain = 12, regen = 8', 'drain = 10, regen = 8', ['drain = 1', '2', ', regen = 8']],
    ['aa', 'aaa', ['aa', '', '']],
    ['aaa', 'aa', ['aa', 'a', '']],
    ['x', 'y', ['', 'x', '']],
    ['', 'y', ['', '', '']],
  ] as const)('%j and %j part where they differ', (text, other, parts) => {
    expect(partsOf(text, other)).toEqual(parts);
    expect(partsOf(text, other).join('')).toBe(text);
  });
});
