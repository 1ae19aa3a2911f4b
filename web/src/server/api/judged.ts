import type { Reading } from '@zygopod/core';
import { Problem } from '../problem.ts';

/** Throws a problem with its faults if a file of the request is not valid. */
export function judged(reading: Reading<unknown>, what: string): void {
  if (!reading.ok)
    throw new Problem(422, `The ${what} is not valid`, {
      errors: reading.faults.slice(0, 20),
    });
}
