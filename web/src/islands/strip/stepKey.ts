import type { KeyboardEvent } from 'react';

/** The ticks that a key steps through: comma one back, full stop one on, with Shift ten; null for other keys. */
export function stepOf({ code, shiftKey }: KeyboardEvent): number | null {
  const step = code === 'Comma' ? -1 : code === 'Period' ? 1 : null;
  return step === null ? null : step * (shiftKey ? 10 : 1);
}
