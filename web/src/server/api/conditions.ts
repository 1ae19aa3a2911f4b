import type { Seen } from '../data/documents.ts';
import { Problem } from '../problem.ts';

/** An entity tag: W/ in front for a weak one, then text in quotes (RFC 9110, 8.8.3). */
const TAG = /^(W\/)?"([\x21\x23-\x7e\x80-\xff]*)"$/;

interface Tag {
  isWeak: boolean;
  text: string;
}

/** The tags of an `If-Match` or `If-None-Match` header (RFC 9110, 13.1): `*`, or a list with commas. Null if there is no such header. */
export function entityTags(header: string | null): '*' | Tag[] | null {
  if (header === null || header.trim() === '') return null;
  if (header.trim() === '*') return '*';
  // A comma inside of quotes belongs to the tag.
  const parts = header.match(/(?:[^",]|"[^"]*")+/g) ?? [];
  return parts
    .map((part) => part.trim())
    .filter((part) => part !== '')
    .map((part) => {
      const match = TAG.exec(part);
      if (!match) throw new Problem(400, 'An entity tag is text in quotes', { found: part.slice(0, 60) });
      return { isWeak: match[1] !== undefined, text: match[2] as string };
    });
}

/** The versions in `If-Match`; `*` matches any existing one. 428 without the header. */
export function seenBy(headers: Headers): Seen {
  const tags = entityTags(headers.get('if-match'));
  if (tags === null) throw new Problem(428, 'Name the version that you know: If-Match: "n"');
  // A weak tag is never the same as another, by the strong comparison that If-Match asks for.
  const seen: Seen = (version) => version > 0 && (tags === '*' || tags.some(({ isWeak, text }) => !isWeak && text === String(version)));
  const version = tags.length === 1 && tags !== '*' ? Number(tags[0]?.text) : 0;
  return version > 0 && seen(version) ? Object.assign(seen, { only: version }) : seen;
}

/** The same for documents that may not exist yet: `If-None-Match: *` states that none is known. */
export function seenOrNone(headers: Headers): Seen {
  const none = entityTags(headers.get('if-none-match'));
  if (none === '*' && headers.get('if-match') === null) return Object.assign((version: number) => version === 0, { only: 0 });
  if (none === null && headers.get('if-match') === null)
    throw new Problem(428, 'Name the version that you know: If-Match: "n", or If-None-Match: * for none');
  return seenBy(headers);
}

/**
 * The same for an optional condition: without it any version matches. A tag may continue behind its version with a mark of the rest of the answer:
 * `"3-12.5"`.
 */
export function ifSeen(headers: Headers): Seen {
  const tags = entityTags(headers.get('if-match'));
  if (tags === null || tags === '*') return () => true;
  return (version) => tags.some(({ isWeak, text }) => !isWeak && text.split('-')[0] === String(version));
}

/** True if a reader has the answer already: one of the tags of `If-None-Match` is the answer's, by the weak comparison. */
export function isUnchanged(headers: Headers, etag: string | null): boolean {
  if (etag === null) return false;
  let tags: ReturnType<typeof entityTags>;
  try {
    tags = entityTags(headers.get('if-none-match'));
  } catch {
    return false;
  }
  return tags === '*' || (tags ?? []).some(({ text }) => `"${text}"` === etag);
}
