/** Reasons why a responding database can't be written. */
export type Trouble = 'full' | 'readOnly';

/** SQLSTATEs: disk full, out of memory, a configured limit, an input or output error; a transaction or server that is read-only. */
const CODES: readonly (readonly [RegExp, Trouble])[] = [
  [/^(53100|53000|53400|58030)$/, 'full'],
  [/^25006$/, 'readOnly'],
];

/** PostgreSQL's message, without a SQLSTATE of its own, when it has no space for a new connection's file. */
const NO_FILE = /could not write init file/;

/** Milliseconds for which trouble is assumed without occurring again. */
const LASTS = 15_000;

let seen: { trouble: Trouble; at: number } | null = null;

/** The trouble behind an error of the driver, which is recorded; null for any other error. */
export function noteTrouble(error: unknown): Trouble | null {
  for (let e = error; e instanceof Error; e = e.cause) {
    const code = 'code' in e ? String(e.code) : '';
    const trouble = NO_FILE.test(e.message) ? 'full' : CODES.find(([pattern]) => pattern.test(code))?.[1];
    if (!trouble) continue;
    seen = { trouble, at: performance.now() };
    return trouble;
  }
  return null;
}

/** The trouble of writes within the last seconds; null if there was none. */
export const lastTrouble = (): Trouble | null => (seen && performance.now() - seen.at < LASTS ? seen.trouble : null);

/** A write succeeded: the trouble is over. */
export function endTrouble(): void {
  seen = null;
}
