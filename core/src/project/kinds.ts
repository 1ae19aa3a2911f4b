import type { Format } from '../document/document.ts';
import type { Reading } from '../document/fault.ts';
import { groundFormat, readGround } from '../ground/ground.ts';
import { readSweep, sweepFormat } from '../sweeps/sweepFile.ts';
import { readTape, tapeFormat } from '../tape/tape.ts';
import { readTargets, targetsFormat } from '../targets/targets.ts';
import { tuningFormat } from '../tuning/schema.ts';
import { readTuning } from '../tuning/tuning.ts';
import { groundLine, sweepLine, tapeLine, targetsLine, tuningLine, tuningNumbers } from './line.ts';
import { type MergeFiles, mergeByParts, mergeTunings } from './mergeFiles.ts';
import { freeName } from './text.ts';

/** A document that was read. */
interface ReadDocument {
  /** Its file in the newest version of its format. */
  file: { name: string };
  /** Its file as it is stored: a ground stays as it was written, because its schema fills in defaults. */
  stored: { name: string };
  /** Its numbers in a line. */
  line(): string;
  /** Its numbers by path, for those whose numbers are searched for. */
  numbers(): Record<string, number>;
}

/** A kind of document: everything known about it except the content of its files. */
interface KindRow {
  format: Format;
  /** Its collection in addresses, its list in a project, and its folder. */
  collection: string;
  /** The suffix of its files. */
  suffix: string;
  /** Its name within a sentence, and for several at the start of one. */
  label: string;
  plural: string;
  /** Maximum size of a file, bytes; a larger one is refused unread. */
  largest: number;
  read(value: unknown): Reading<ReadDocument>;
  merge: MergeFiles;
}

const KIB = 1024;

/** A reader of a kind's files, from the reader of its format and its line of main numbers. */
const reader =
  <T>(
    read: (value: unknown) => Reading<T>,
    of: (document: T, value: unknown) => Omit<ReadDocument, 'stored' | 'numbers'> & Partial<ReadDocument>,
  ): KindRow['read'] =>
  (value) => {
    const reading = read(value);
    if (!reading.ok) return reading;
    const document = of(reading.value, value);
    return { ok: true, value: { stored: document.file, numbers: () => ({}), ...document } };
  };

/** The kinds of document that a project holds, in the order in which they are listed and written. */
export const documentKinds = {
  tuning: {
    format: tuningFormat,
    collection: 'tunings',
    suffix: '.tuning.json',
    label: 'tuning',
    plural: 'Tunings',
    largest: 256 * KIB,
    read: reader(readTuning, (tuning) => ({
      file: tuning.file,
      line: () => tuningLine(tuning),
      numbers: () => tuningNumbers(tuning),
    })),
    merge: mergeTunings,
  },
  ground: {
    format: groundFormat,
    collection: 'grounds',
    suffix: '.ground.json',
    label: 'ground',
    plural: 'Grounds',
    largest: 16 * KIB * KIB,
    read: reader(readGround, (file, value) => ({ file, stored: value as { name: string }, line: () => groundLine(file) })),
    merge: mergeByParts,
  },
  tape: {
    format: tapeFormat,
    collection: 'tapes',
    suffix: '.tape.json',
    label: 'tape',
    plural: 'Tapes',
    largest: 32 * KIB * KIB,
    read: reader(readTape, (file) => ({ file, line: () => tapeLine(file) })),
    merge: mergeByParts,
  },
  targets: {
    format: targetsFormat,
    collection: 'targets',
    suffix: '.targets.json',
    label: 'target set',
    plural: 'Target sets',
    largest: 256 * KIB,
    read: reader(readTargets, (file) => ({ file, line: () => targetsLine(file) })),
    merge: mergeByParts,
  },
  sweep: {
    format: sweepFormat,
    collection: 'sweeps',
    suffix: '.sweep.json',
    label: 'sweep',
    plural: 'Sweeps',
    largest: 256 * KIB,
    read: reader(readSweep, (file) => ({ file, line: () => sweepLine(file) })),
    merge: mergeByParts,
  },
} as const satisfies Record<string, KindRow>;

export type DocumentKind = keyof typeof documentKinds;
/** The name of a kind's collection in addresses, of its list in a project, and of its folder. */
export type Collection = (typeof documentKinds)[DocumentKind]['collection'];

/** The kinds, and their collections, in order. */
export const kindNames = Object.keys(documentKinds) as [DocumentKind, ...DocumentKind[]];
export const collections = kindNames.map((kind) => documentKinds[kind].collection) as [Collection, ...Collection[]];

/** The collection that documents of a kind are in. */
export const collectionOf = <K extends DocumentKind>(kind: K): (typeof documentKinds)[K]['collection'] => documentKinds[kind].collection;

/** The kind of the documents in a collection. */
export const kindIn = (collection: Collection): DocumentKind =>
  kindNames.find((kind) => documentKinds[kind].collection === collection) as DocumentKind;

/** The kind whose format has this mark (`zygopod/tuning`); undefined if none has. */
export const kindMarked = (mark: unknown): DocumentKind | undefined => kindNames.find((kind) => documentKinds[kind].format.format === mark);

/** The name of a document's file: `carrier-day-boots.tuning.json`, with a number if it is used already. */
export const fileName = (kind: DocumentKind, name: string, isTaken: (lowerCase: string) => boolean = () => false): string =>
  freeName(name, documentKinds[kind].suffix, isTaken);

/** Merges two files of a kind, as the kind has it. */
export function mergeFiles<F extends object>(
  kind: DocumentKind,
  from: readonly F[],
  mine: F,
  theirs: F,
  sent: readonly F[] = [],
): { file: F; conflicts: string[] } {
  const { file, conflicts } = documentKinds[kind].merge(from, mine, theirs, sent);
  return { file: file as F, conflicts };
}
