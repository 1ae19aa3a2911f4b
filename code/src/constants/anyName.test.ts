import { newTuning, plainUnits, readSource, readTuning } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { nastyNames } from '../../../core/src/testing/nastyNames.ts';
import { handOver } from './handOff.ts';
import { writers } from './writers.ts';

const names = nastyNames(400);

describe('a hand-off of a tuning with any name', () => {
  const numbersIn = (name: string, to: string) => {
    const read = readTuning(newTuning(name));
    if (!read.ok) return null;
    const { text, faults } = handOver(read.value, 'rev 1', { to, units: plainUnits, names: {}, style: null, all: true });
    expect(faults).toEqual([]);
    // Some languages name the whole, and with it what is in it.
    return readSource(text).found.map(({ name: own, value }) => `${own.split('.').at(-1)} ${value}`);
  };

  it.each(writers.map(({ id }) => id))('in %s has the same numbers under the same names', (to) => {
    const plain = numbersIn('Boots', to);
    expect(plain?.length).toBeGreaterThan(20);
    const tried = names.slice(0, 160).map((name) => numbersIn(name, to));
    expect(tried.filter((found) => found !== null).length).toBeGreaterThan(100);
    for (const found of tried) if (found) expect(found).toEqual(plain);
  });
});
