/** Where the count is kept: the front and the built application load this file separately, in one process. */
const KEY = Symbol.for('zygopod.exceptions');
const counts = globalThis as unknown as Record<symbol, number | undefined>;

/** Exceptions since the start that only the front's last resort caught. */
export const exceptions = (): number => counts[KEY] ?? 0;

/** Counts another one, and returns the new count. */
export function countException(): number {
  const count = exceptions() + 1;
  counts[KEY] = count;
  return count;
}
