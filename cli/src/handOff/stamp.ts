import { createHash } from 'node:crypto';

/** The last line of a file of code: a hash of all lines before it, which reveals a change by hand. */
const stampOf = (text: string, comment: string) =>
  `${comment} handed over as ${createHash('sha256').update(text).digest('hex').slice(0, 16)}\n`;

/** A text with its hash line; a format without comments has none. */
export const stamped = (text: string, comment: string | null): string => (comment === null ? text : text + stampOf(text, comment));

/** True if nobody has changed a file since it was handed over. */
export function isAsWritten(text: string, comment: string | null): boolean {
  if (comment === null) return false;
  const begin = text.lastIndexOf('\n', text.length - 2) + 1;
  return text.slice(begin) === stampOf(text.slice(0, begin), comment);
}

/** The lines of two texts that the other does not have. */
export function differing(before: string, now: string): string[] {
  const [old, fresh] = [before.split(/\r?\n/), now.split(/\r?\n/)];
  const [inOld, inFresh] = [new Set(old), new Set(fresh)];
  return [
    ...old.filter((line) => !inFresh.has(line)).map((line) => `- ${line}`),
    ...fresh.filter((line) => !inOld.has(line)).map((line) => `+ ${line}`),
  ].filter((line) => !line.includes('handed over as'));
}
