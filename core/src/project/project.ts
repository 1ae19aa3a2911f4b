import { z } from 'zod';
import { type Format, markOf, readDocument, readJson } from '../document/document.ts';
import type { Fault, Reading } from '../document/fault.ts';
import { shown } from '../document/fault.ts';
import { type Collection, collectionOf, collections, type DocumentKind, documentKinds, kindMarked, kindNames } from './kinds.ts';

/** Maximum size of a project as one file, bytes: it is parsed before any of it is sent. */
export const LARGEST_PROJECT = 64 * 1024 * 1024;

/** Maximum number of documents of a kind in a project. */
const MOST = 10_000;

const lists = Object.fromEntries(collections.map((collection) => [collection, z.array(z.unknown()).max(MOST).default([])])) as Record<
  Collection,
  z.ZodDefault<z.ZodArray<z.ZodUnknown>>
>;

const schema = z.strictObject({
  format: z.literal('zygopod/project'),
  version: z.literal(1),
  name: z.string().trim().min(1).max(120).default('Project'),
  unit: z.enum(['px', 'm']).default('px'),
  names: z.record(z.string().max(100), z.string().max(200)).default({}),
  ...lists,
});

/** The format of a project; its members are documents of their own formats, and read by those. */
export const projectFormat: Format<z.infer<typeof schema>> = { format: 'zygopod/project', version: 1, migrations: [], schema };

/** The file of a document of a kind, in the newest version of its format. */
type FileOf<K extends DocumentKind> = (typeof documentKinds)[K]['format'] extends Format<infer T> ? T : never;

/** A game's project as one file: its unit, its names for parameters, and its documents by kind. */
export type Project = Omit<z.infer<typeof schema>, Collection> & {
  [K in DocumentKind as (typeof documentKinds)[K]['collection']]: FileOf<K>[];
};

/** A parsed document: its kind, its name, its file in the newest version, or its fault. */
export interface Member {
  kind: DocumentKind;
  /** Where it stands: `tunings.3`; '' for a file of its own. */
  path: string;
  name: string;
  reading: Reading<{ name: string }>;
}

/** The newest version of each format of a document, by its mark. */
export const newestVersions: Readonly<Record<string, number>> = Object.fromEntries(
  Object.values(documentKinds).map(({ format: { format, version } }) => [format, version]),
);

const nameOf = (value: unknown): string => {
  const name = typeof value === 'object' && value !== null ? (value as { name?: unknown }).name : undefined;
  return typeof name === 'string' ? name.slice(0, 120) : '';
};

function memberOf(kind: DocumentKind, path: string, value: unknown): Member {
  const read = documentKinds[kind].read(value);
  const within = (fault: Fault) => ({ ...fault, path: [path, fault.path].filter(Boolean).join('.') });
  const reading: Member['reading'] = read.ok ? { ok: true, value: read.value.file } : { ok: false, faults: read.faults.map(within) };
  return { kind, path, name: nameOf(value), reading };
}

/** The content of a file of any kind: a project's own values and all of its documents, or a single document. */
export interface Brought {
  project: Pick<Project, 'name' | 'unit' | 'names'> | null;
  members: Member[];
}

/** Reads a parsed JSON value as a file of any kind. A document in a project that has faults keeps no other from being read. */
export function readAny(value: unknown): Reading<Brought> {
  const mark = markOf(value);
  if (mark !== projectFormat.format) {
    const kind = kindMarked(mark);
    if (kind) return { ok: true, value: { project: null, members: [memberOf(kind, '', value)] } };
    return {
      ok: false,
      faults: [{ path: 'format', found: shown(mark), expected: `"zygopod/${kindNames[0]}", ${kindNames.slice(1).join(', ')} or project` }],
    };
  }
  const read = readDocument(projectFormat, value);
  if (!read.ok) return read;
  const { name, unit, names } = read.value;
  const members = kindNames.flatMap((kind) => {
    const list = collectionOf(kind);
    return read.value[list].map((one, i) => memberOf(kind, `${list}.${i}`, one));
  });
  return { ok: true, value: { project: { name, unit, names }, members } };
}

/** Reads the text of a file of any kind. */
export function parseAny(text: string): Reading<Brought> {
  const json = readJson(text);
  return json.ok ? readAny(json.value) : json;
}

/** Reads a parsed JSON value as a project, all of whose documents have to be good. */
export function readProject(value: unknown): Reading<Project> {
  if (markOf(value) !== projectFormat.format)
    return { ok: false, faults: [{ path: 'format', found: shown(markOf(value)), expected: `"${projectFormat.format}"` }] };
  const read = readAny(value);
  if (!read.ok) return read;
  const { project, members } = read.value;
  const faults = members.flatMap(({ reading }) => (reading.ok ? [] : reading.faults));
  if (faults.length > 0) return { ok: false, faults };
  const { name, unit, names } = project as NonNullable<typeof project>;
  const filesOf = (kind: DocumentKind) => members.flatMap((one) => (one.kind === kind && one.reading.ok ? [one.reading.value] : []));
  const files = Object.fromEntries(kindNames.map((kind) => [collectionOf(kind), filesOf(kind)])) as Pick<Project, Collection>;
  return { ok: true, value: { format: 'zygopod/project', version: 1, name, unit, names, ...files } };
}
