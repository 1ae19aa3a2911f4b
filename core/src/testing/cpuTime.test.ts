import { expect, it } from 'vitest';
import { cpuTime } from './cpuTime.ts';

it('counts what is computed, and not what is waited for', async () => {
  const { milliseconds: idle } = await cpuTime(() => new Promise((over) => setTimeout(over, 200)));
  expect(idle).toBeLessThan(100);
  const { milliseconds: busy, result } = await cpuTime(() => {
    let sum = 0;
    for (let i = 0; i < 5e7; i++) sum += i % 7;
    return sum;
  });
  expect(busy).toBeGreaterThan(idle);
  expect(result).toBeGreaterThan(0);
});
