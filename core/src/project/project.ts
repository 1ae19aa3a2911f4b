import { z } from 'zod';
import { type Format, markOf, readDocument, readJson } from '../document/document.ts';
import type { Fault, Reading } from '../document/fault.ts';
import { shown } from '../document/fault.ts';
import { type Ground, groundFormat, readGround } from '../ground/ground.ts';
import { readTape, type Tape, tapeFormat } from '../tape/tape.ts';
import { readTargets, type TargetSet, targetsFormat } from '../targets/targets.ts';
import { type TuningFile, tuningFormat } from '../tuning/schema.ts';
import { readTuning } from '../tuning/tuning.ts';

/** What belongs to one game, as one file: its tunings, grounds, tapes and target sets, its unit, and its names for parameters. */
export interface Project {
  format: 'zygopod/project';
  version: 1;
  name: string;
  unit: 'px' | 'm';
  names: Record<string, string>;
  tunings: TuningFile[];
  grounds: Ground[];
  tapes: Tape[];
  targets: TargetSet[];
}

/** The lists of a project, each with the kind of document in it, in the order in which they are written. */
export const memberKinds = { tunings: 'tuning', grounds: 'ground', tapes: 'tape', targets: 'targets' } as const;
export type MemberKind = (typeof memberKinds)[keyof typeof memberKinds];

/** Documents of a kind in a project at the most. */
const MOST = 10_000;
const list = z.array(z.unknown()).max(MOST).default([]);

/** The format of a project; its members are documents of their own formats, and read by those. */
export const projectFormat: Format = {
  format: 'zygopod/project',
  version: 1,
  migrations: [],
  schema: z.strictObject({
    format: z.literal('zygopod/project'),
    version: z.literal(1),
    name: z.string().trim().min(1).max(120).default('Project'),
    unit: z.enum(['px', 'm']).default('px'),
    names: z.record(z.string().max(100), z.string().max(200)).default({}),
    tunings: list,
    grounds: list,
    tapes: list,
    targets: list,
  }),
};

/** A document as it was read: its kind, its name, its file in the newest version, or what is wrong with it. */
export interface Member {
  kind: MemberKind;
  /** Where it stands: `tunings.3`; '' for a file of its own. */
  path: string;
  name: string;
  reading: Reading<{ name: string }>;
}

const readers: Readonly<Record<MemberKind, (value: unknown) => Reading<{ name: string }>>> = {
  tuning: (value) => {
    const read = readTuning(value);
    return read.ok ? { ok: true, value: read.value.file as TuningFile & { name: string } } : read;
  },
  ground: readGround,
  tape: readTape,
  targets: readTargets as (value: unknown) => Reading<{ name: string }>,
};

/** The newest version of each format of a document, by its mark. */
export const newestVersions: Readonly<Record<string, number>> = Object.fromEntries(
  [tuningFormat, groundFormat, tapeFormat, targetsFormat].map(({ format, version }) => [format, version]),
);

const nameOf = (value: unknown): string => {
  const name = typeof value === 'object' && value !== null ? (value as { name?: unknown }).name : undefined;
  return typeof name === 'string' ? name.slice(0, 120) : '';
};

function memberOf(kind: MemberKind, path: string, value: unknown): Member {
  const reading = readers[kind](value);
  const within = (fault: Fault) => ({ ...fault, path: [path, fault.path].filter(Boolean).join('.') });
  return { kind, path, name: nameOf(value), reading: reading.ok ? reading : { ok: false, faults: reading.faults.map(within) } };
}

/** What a file of any kind brings: a project's own values and all of its documents, or the one document that it is. */
export interface Brought {
  project: Pick<Project, 'name' | 'unit' | 'names'> | null;
  members: Member[];
}

/** Reads a parsed JSON value as a file of any kind. A document in a project that has faults keeps no other from being read. */
export function readAny(value: unknown): Reading<Brought> {
  const mark = markOf(value);
  const kind = String(mark).replace(/^zygopod\//, '') as MemberKind;
  if (mark !== projectFormat.format) {
    if (typeof mark === 'string' && mark === `zygopod/${kind}` && Object.hasOwn(readers, kind))
      return { ok: true, value: { project: null, members: [memberOf(kind, '', value)] } };
    return {
      ok: false,
      faults: [{ path: 'format', found: shown(mark), expected: '"zygopod/tuning", ground, tape, targets or project' }],
    };
  }
  const read = readDocument(projectFormat, value) as Reading<Omit<Project, 'tunings'> & Record<keyof typeof memberKinds, unknown[]>>;
  if (!read.ok) return read;
  const { name, unit, names } = read.value;
  const members = Object.entries(memberKinds).flatMap(([list, kind]) =>
    read.value[list as keyof typeof memberKinds].map((one, i) => memberOf(kind, `${list}.${i}`, one)),
  );
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
  const of = (kind: MemberKind) => members.flatMap(({ kind: own, reading }) => (own === kind && reading.ok ? [reading.value] : []));
  return {
    ok: true,
    value: {
      format: 'zygopod/project',
      version: 1,
      ...(project as NonNullable<typeof project>),
      tunings: of('tuning') as unknown as TuningFile[],
      grounds: of('ground') as unknown as Ground[],
      tapes: of('tape') as unknown as Tape[],
      targets: of('targets') as unknown as TargetSet[],
    },
  };
}
