import type { SaveState } from './state.ts';

type Refused = Extract<SaveState<unknown>, { at: 'refused' }>;

/** Bytes as megabytes or kilobytes, three digits at most. */
export function sizeWords(bytes: number): string {
  const [value, unit] = bytes >= 1e6 ? [bytes / 1e6, 'MB'] : [bytes / 1e3, 'kB'];
  return `${Number(value.toPrecision(3))} ${unit}`;
}

/** Describes a validation fault with its path. */
function faultWords(details: Refused['details']): string {
  const errors = details['errors'] as { path?: string; found?: string; expected?: string; message?: string }[] | undefined;
  const [first] = errors ?? [];
  if (!first) return '';
  const what = first.message ?? `found ${first.found}, expected ${first.expected}`;
  return ` ${first.path ? `${first.path}: ` : ''}${what}.`;
}

/** Explains why the server refuses a document, and what to do. */
export function refusalWords({ refusal, why, details }: Refused, subject: string): string {
  switch (refusal) {
    case 'archived':
      return `This ${subject} was archived. Restore it, or save your work as a copy.`;
    case 'gone':
      return `This ${subject} was deleted. Save your work as a copy.`;
    case 'unauthorised':
      return 'The server asks for an access token.';
    case 'forbidden':
      return `${why} Open the application at the address that ./zygopod up printed.`;
    case 'tooLarge': {
      const { found, most } = details as { found?: number; most?: number };
      const sizes = found && most ? `: ${sizeWords(found)}, at most ${sizeWords(most)}` : '';
      return `This ${subject} is too large to save${sizes}.`;
    }
    case 'invalid':
      return `The server can't take this ${subject}.${faultWords(details) || ` ${why}`}`;
    case 'failed':
      return 'The server failed, and is tried again.';
  }
}

/** Where unsent work is, in words. */
export const keptWords = (isKept: boolean): string =>
  isKept
    ? 'Your changes are kept in this browser.'
    : "This browser can't keep your changes: its storage is full. Leave this page open, or export your work.";
