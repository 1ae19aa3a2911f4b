import { describe, expect, it } from 'vitest';
import { keptOr } from './kept.ts';

describe('what is kept by a key', () => {
  it('is made once for all that ask for it at the same time, and again after a failure', async () => {
    let drawn = 0;
    let finish: (blob: Blob) => void = () => undefined;
    const draw = () => {
      drawn++;
      return new Promise<Blob>((resolve) => {
        finish = resolve;
      });
    };
    const requests = ['a', 'a', 'a'].map((key) => keptOr(key, draw));
    const other = keptOr('b', () => Promise.reject(new Error('no ground')));
    await expect(other).rejects.toThrow('no ground');
    expect(drawn).toBe(1);
    const blob = new Blob(['x']);
    finish(blob);
    expect(await Promise.all(requests)).toEqual([blob, blob, blob]);
    expect(await keptOr('b', async () => blob)).toBe(blob);
  });
});
