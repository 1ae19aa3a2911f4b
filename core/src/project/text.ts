import { catalogue } from '../tuning/catalogue/catalogue.ts';
import type { Group } from '../tuning/catalogue/specs.ts';

type Json = null | boolean | number | string | Json[] | { [key: string]: Json };

/** Keys of documents in the order in which they are written; those that are not here follow by the alphabet. */
const order = (
  'format version name note unit ground scheme size cell cells surfaces walls start goal frame hz ticks snapshot events names tunings grounds tapes targets ' +
  'at press release point stick swipe metric min max x y facing radius width height points closed solid speed of times plus'
).split(' ');
const place = new Map(order.map((key, i) => [key, i]));

/** The keys of an object in the order of a group of the catalogue, or else in that of documents. */
function keysOf(value: Record<string, Json>, group: Group | null): string[] {
  const own = group ? Object.keys(group) : [];
  const rank = (key: string) => {
    const inHead = place.get(key) ?? Infinity;
    if (!group) return inHead;
    // The head of a tuning comes before its groups.
    return own.includes(key) ? order.length + own.indexOf(key) : inHead;
  };
  return Object.keys(value).sort((a, b) => rank(a) - rank(b) || (a < b ? -1 : 1));
}

const isGroup = (entry: unknown): entry is Group =>
  typeof entry === 'object' && entry !== null && typeof (entry as Group)['kind'] !== 'string';

/** Letters that a list or an object may have to stand on one line. */
const LINE = 100;

function flat(value: Json): string {
  if (Array.isArray(value)) return `[${value.map(flat).join(', ')}]`;
  if (typeof value !== 'object' || value === null) return JSON.stringify(value);
  const members = keysOf(value, null).map((key) => `${JSON.stringify(key)}: ${flat(value[key] as Json)}`);
  return members.length > 0 ? `{ ${members.join(', ')} }` : '{}';
}

function written(value: Json, indent: string, group: Group | null, isOpen: boolean): string {
  if (typeof value !== 'object' || value === null) return JSON.stringify(value);
  const inner = `${indent}  `;
  if (!isOpen) {
    const line = flat(value);
    if (line.length <= LINE) return line;
  }
  if (Array.isArray(value)) {
    if (value.length === 0) return '[]';
    return `[\n${value.map((one) => inner + written(one, inner, null, false)).join(',\n')}\n${indent}]`;
  }
  const keys = keysOf(value, group);
  if (keys.length === 0) return '{}';
  const lines = keys.map((key) => {
    const entry = group?.[key];
    const next = isGroup(entry) ? entry : null;
    return `${inner}${JSON.stringify(key)}: ${written(value[key] as Json, inner, next, next !== null)}`;
  });
  return `{\n${lines.join(',\n')}\n${indent}}`;
}

/**
 * A document as the text of its file: keys in the catalogue's order, one number of a tuning a line, short lists on one, so that a change is a
 * small difference.
 */
export function documentText(file: object): string {
  const isTuning = (file as { format?: unknown }).format === 'zygopod/tuning';
  return `${written(file as Json, '', isTuning ? (catalogue as Group) : null, true)}\n`;
}

/** The content of a document, whatever the order of its keys: equal documents have equal texts. */
export function canonicalText(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonicalText).join(',')}]`;
  if (typeof value === 'object' && value !== null)
    return `{${Object.entries(value)
      .filter(([, member]) => member !== undefined)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, member]) => `${JSON.stringify(key)}:${canonicalText(member)}`)
      .join(',')}}`;
  return JSON.stringify(value) ?? 'null';
}

/** Names that some systems reserve for devices, whatever their extension. */
const DEVICES = /^(con|prn|aux|nul|com\d|lpt\d)$/;

/** `carrier-day-boots`: a name as the stem of a file's; letters and digits of any script stay. */
export function fileStem(name: string): string {
  const stem = [
    ...name
      .normalize('NFC')
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-+|-+$/g, ''),
  ]
    .slice(0, 60)
    .join('');
  return stem === '' ? 'unnamed' : DEVICES.test(stem) ? `${stem}-file` : stem;
}

/** A file name, `carrier-day-boots.csv`, with a number if it is used already. Some systems ignore case, so the comparison does. */
export function freeName(name: string, ending: string, isTaken: (lowerCase: string) => boolean): string {
  const stem = fileStem(name);
  for (let i = 1; ; i++) {
    const free = `${stem}${i > 1 ? `-${i}` : ''}${ending}`;
    if (!isTaken(free.toLowerCase())) return free;
  }
}
