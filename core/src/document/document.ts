import type { z } from 'zod';
import { type Fault, faultsOf, type Reading, shown } from './fault.ts';
import { jsonFault } from './jsonFault.ts';

/** A file format of Zygopod, whose files hold a `T`: its mark, its newest version, its schema, and the steps up from older versions. */
export interface Format<T extends object = object> {
  format: string;
  version: number;
  schema: z.ZodType<T>;
  /** Lists at the top of the file that may be long, with the schema of their items and how many there may be: read item by item, up to so many faults. */
  lists?: Readonly<Record<string, { item: z.ZodType; most: number }>>;
  /** `migrations[n]` turns version n + 1 into n + 2. */
  migrations: readonly ((old: Record<string, unknown>) => Record<string, unknown>)[];
}

const refuse = (path: string, found: string, expected: string): { ok: false; faults: Fault[] } => ({
  ok: false,
  faults: [{ path, found, expected }],
});

/** Reads a value as a document of `format`: mark, version, migration, then the schema. */
export function readDocument<T extends object>(format: Format<T>, value: unknown): Reading<T> {
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    return refuse('', shown(value), `an object with "format": "${format.format}"`);
  let document = value as Record<string, unknown>;
  if (document['format'] !== format.format) return refuse('format', shown(document['format']), `"${format.format}"`);
  const version = document['version'];
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    return refuse('version', shown(version), `a whole number from 1 to ${format.version}`);
  if (version > format.version)
    return refuse('version', String(version), `at most ${format.version}: this file was made by a newer Zygopod`);
  for (const migrate of format.migrations.slice(version - 1)) document = migrate(document);
  const { rest, lists, faults } = readLists(format, document);
  if (faults.length > 0) return { ok: false, faults };
  const parsed = format.schema.safeParse(rest);
  if (!parsed.success) return { ok: false, faults: faultsOf(parsed.error, document).slice(0, MOST_FAULTS) };
  return { ok: true, value: { ...parsed.data, ...lists } };
}

/** Maximum number of reported faults in one file. */
const MOST_FAULTS = 50;

/** Reads the long lists of a document separately, so that a file full of faults costs no more than the first of them; in the rest they are empty. */
function readLists(format: Format, document: Record<string, unknown>) {
  const rest = { ...document };
  const lists: Record<string, unknown[]> = {};
  const faults: Fault[] = [];
  for (const [name, { item, most }] of Object.entries(format.lists ?? {})) {
    const given = document[name];
    if (!Array.isArray(given)) continue;
    if (given.length > most) faults.push({ path: name, found: shown(given), expected: `a list length of at most ${most}` });
    const read: unknown[] = [];
    for (let i = 0; i < given.length && faults.length < MOST_FAULTS; i++) {
      const parsed = item.safeParse(given[i]);
      if (parsed.success) read.push(parsed.data);
      else faults.push(...faultsOf(parsed.error, document, [name, i]).slice(0, MOST_FAULTS - faults.length));
    }
    lists[name] = read;
    rest[name] = [];
  }
  return { rest, lists, faults };
}

/** Maximum nesting (lists in objects in lists …): no format comes near it, and deeper texts take long to read. */
const DEEPEST = 200;

/** True if lists and objects of a text are nested too deep; content in quotes does not count. */
function isTooDeep(text: string): boolean {
  let depth = 0;
  let isQuoted = false;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (isQuoted) {
      if (code === 92) i++;
      else if (code === 34) isQuoted = false;
    } else if (code === 34) isQuoted = true;
    else if (code === 91 || code === 123) {
      if (++depth > DEEPEST) return true;
    } else if (code === 93 || code === 125) depth--;
  }
  return false;
}

/** Parses JSON; a syntax error becomes a fault with its line and column. */
export function readJson(text: string): Reading<unknown> {
  if (isTooDeep(text)) return refuse('', `lists or objects nested more than ${DEEPEST} deep`, 'a UTF-8 JSON file');
  try {
    return { ok: true, value: JSON.parse(text.charCodeAt(0) === 0xfeff ? text.slice(1) : text) };
  } catch {
    const { line, column, found } = jsonFault(text.charCodeAt(0) === 0xfeff ? text.slice(1) : text);
    return refuse('', `invalid JSON at line ${line}, column ${column}: ${found}`, 'a UTF-8 JSON file');
  }
}

/** The format mark of a document; undefined if there is none. */
export function markOf(value: unknown): unknown {
  return typeof value === 'object' && value !== null ? (value as Record<string, unknown>)['format'] : undefined;
}
