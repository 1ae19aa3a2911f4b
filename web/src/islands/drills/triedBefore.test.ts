import { newTuning, withValue } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { TriedBefore } from './triedBefore.ts';

describe('what was tried before', () => {
  it('is not tried again, unless the tuning or the question is another, or it failed', async () => {
    const known = new TriedBefore();
    let tries = 0;
    const find = async () => ++tries;
    const [one, other] = [newTuning('One'), withValue(newTuning('One'), 'pace.walkSpeed', 77)];
    expect([await known.of(one, 'a', find), await known.of(structuredClone(one), 'a', find)]).toEqual([1, 1]);
    expect([await known.of(other, 'a', find), await known.of(one, 'b', find)]).toEqual([2, 3]);
    await expect(known.of(one, 'c', () => Promise.reject(new Error('away')))).rejects.toThrow('away');
    expect(await known.of(one, 'c', find)).toBe(4);
  });

  it('forgets the oldest of many', async () => {
    const known = new TriedBefore();
    let tries = 0;
    for (let i = 0; i <= 200; i++) await known.of(newTuning('One'), `${i}`, async () => ++tries);
    await known.of(newTuning('One'), '200', async () => ++tries);
    expect(tries).toBe(201);
    await known.of(newTuning('One'), '0', async () => ++tries);
    expect(tries).toBe(202);
  });
});
