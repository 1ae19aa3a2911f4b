import { expect, it } from 'vitest';
import type { TapeEvent } from '../tape/tape.ts';
import { drive } from '../testing/drive.ts';
import { sequence } from '../testing/sequence.ts';
import type { FileValue } from '../tuning/schema.ts';

/** How much of the speed keys and stick ask for together. */
const deflection = (values: Record<string, FileValue>, events: TapeEvent[]) =>
  drive({ 'input.devices': 'sum', ...values }, 1, events).body.intentAmount;

it('two devices add up if so set, never beyond what one of them alone gives', () => {
  const next = sequence(83);
  for (let i = 0; i < 300; i++) {
    const stick: TapeEvent[] = [{ at: 0, stick: [next() * 2 - 1, next() * 2 - 1] }];
    const keys = (['up', 'down', 'left', 'right'] as const).filter(() => next() < 0.4).map((press): TapeEvent => ({ at: 0, press }));
    const values = { 'input.normaliseDiagonals': next() < 0.5 };
    const most = Math.max(1, deflection(values, keys), deflection(values, stick));
    expect(deflection(values, [...keys, ...stick])).toBeLessThanOrEqual(most + 1e-12);
  }
  const half: TapeEvent = { at: 0, stick: [0.5, 0] };
  expect(deflection({}, [half])).toBeLessThan(0.5);
  expect(deflection({}, [{ at: 0, press: 'right' }, half])).toBe(1);
});
