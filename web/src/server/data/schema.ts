import { kindNames } from '@zygopod/core';
import { sql } from 'drizzle-orm';
import {
  type AnyPgColumn,
  bigint,
  boolean,
  index,
  integer,
  pgEnum,
  pgSequence,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import { bytes, created, documentFile, file } from './columns.ts';

export const kind = pgEnum('kind', kindNames);

/** A project: the documents of one game, its unit, and its own names for parameters. */
export const projects = pgTable('projects', {
  id: uuid('id').primaryKey().defaultRandom(),
  name: text('name').notNull(),
  unit: text('unit').notNull().default('px'),
  /** The game's names for parameters, by path. */
  names: file('names').notNull().default(sql`'{}'::jsonb`),
  /** True if it holds the demo data. */
  isDemo: boolean('is_demo').notNull().default(false),
  /** Counts the changes of name, unit and names, and guards against overwriting. */
  version: integer('version').notNull().default(1),
  putAwayAt: timestamp('put_away_at', { withTimezone: true, precision: 3 }),
  createdAt: created,
});

/** Versions of a project's name, unit and names. Rows are only ever added. */
export const projectVersions = pgTable(
  'project_versions',
  {
    project: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    version: integer('version').notNull(),
    name: text('name').notNull(),
    unit: text('unit').notNull(),
    names: file('names').notNull(),
    createdAt: created,
  },
  (table) => [primaryKey({ columns: [table.project, table.version] })],
);

/** Requests that created something, by their key: repeated, each gets its first answer. */
export const requests = pgTable(
  'requests',
  {
    key: text('key').primaryKey(),
    /** SHA-256 of method, path and body: another request must not use the key. */
    request: text('request').notNull(),
    /** The answer; null while the request is in progress. */
    status: integer('status'),
    headers: file('headers'),
    body: text('body'),
    createdAt: created,
  },
  (table) => [index('requests_by_age').on(table.createdAt)],
);

/** A tuning, ground, tape or target set: its present name, and its newest revision. */
export const documents = pgTable(
  'documents',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    project: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    kind: kind('kind').notNull(),
    name: text('name').notNull(),
    /** The numbers of the newest revision in a line. */
    line: text('line').notNull().default(''),
    /** The numbers of a tuning's newest revision by path, for searches; null if they were not taken yet. */
    numbers: file('numbers'),
    /** Number of the newest revision. */
    head: integer('head').notNull(),
    /** Number of the newest draft that there has been: drafts count on from it, so that no version comes twice. */
    drafted: integer('drafted').notNull().default(0),
    /** The time of its archiving; null if it is in use. Lists leave archived ones out, and they can be restored. */
    putAwayAt: timestamp('put_away_at', { withTimezone: true, precision: 3 }),
    /** The ground that a tuning was last laid on. */
    ground: uuid('ground_id').references((): AnyPgColumn => documents.id, { onDelete: 'set null' }),
    /** The name of the demo file that this was loaded from. */
    demo: text('demo'),
    createdAt: created,
    updatedAt: timestamp('updated_at', { withTimezone: true, precision: 3 }).notNull().defaultNow(),
  },
  (table) => [
    index('documents_by_kind').on(table.kind, table.createdAt, table.id),
    index('documents_by_project').on(table.project, table.kind, table.updatedAt, table.id),
    uniqueIndex('documents_by_demo').on(table.demo),
    index('documents_by_ground').on(table.ground),
    // Optional: a database without the extension pg_trgm has none, and reads all names (see 0002).
    index('documents_by_name').using('gin', sql`${table.name} gin_trgm_ops`),
  ],
);

/** A saved state of a document; rows are only ever added, and called by a name. */
export const revisions = pgTable(
  'revisions',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    document: uuid('document_id')
      .notNull()
      .references(() => documents.id, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    /** Number of its base revision; null for the first. */
    parent: integer('parent'),
    note: text('note').notNull().default(''),
    /** Its given name; empty: only its number. */
    name: text('name').notNull().default(''),
    /** SHA-256 of the file's canonical text. */
    hash: text('hash').notNull(),
    file: documentFile('file').notNull(),
    createdAt: created,
  },
  (table) => [uniqueIndex('revisions_by_number').on(table.document, table.number)],
);

/** Work on a document that is not a revision yet; `version` counts the changes of all its drafts and guards against overwriting. */
export const drafts = pgTable('drafts', {
  document: uuid('document_id')
    .primaryKey()
    .references(() => documents.id, { onDelete: 'cascade' }),
  version: integer('version').notNull(),
  /** Number of the draft's base revision. */
  base: integer('base').notNull(),
  file: documentFile('file').notNull(),
  updatedAt: timestamp('updated_at', { withTimezone: true, precision: 3 }).notNull().defaultNow(),
});

/** One round of a blind trial: which of two revisions felt better to somebody who did not know which is which. Rows are only ever added. */
export const trials = pgTable(
  'trials',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    who: text('who').notNull(),
    choice: text('choice').notNull(),
    why: text('why').notNull(),
    /** Which of the two was the first. */
    first: text('first').notNull(),
    tuningA: uuid('tuning_a')
      .notNull()
      .references(() => documents.id, { onDelete: 'cascade' }),
    revisionA: integer('revision_a').notNull(),
    nameA: text('name_a').notNull(),
    tuningB: uuid('tuning_b')
      .notNull()
      .references(() => documents.id, { onDelete: 'cascade' }),
    revisionB: integer('revision_b').notNull(),
    nameB: text('name_b').notNull(),
    /** Null once the ground is deleted: the vote stays. */
    ground: uuid('ground_id').references(() => documents.id, { onDelete: 'set null' }),
    createdAt: created,
  },
  (table) => [
    index('trials_by_tunings').on(table.tuningA, table.tuningB, table.createdAt),
    index('trials_by_second').on(table.tuningB),
    index('trials_by_ground').on(table.ground),
  ],
);

/** The results of a tuning's revision in the drills: measurements, targets, core version. Rows are only ever added. */
export const reports = pgTable(
  'reports',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    tuning: uuid('tuning_id')
      .notNull()
      .references(() => documents.id, { onDelete: 'cascade' }),
    revision: integer('revision').notNull(),
    report: file('report').notNull(),
    createdAt: created,
  },
  (table) => [index('reports_by_tuning').on(table.tuning, table.createdAt)],
);

/** A revision of a tuning that was handed over to its game: in which language, units and names, and with which values. Rows are only ever added. */
export const handOffs = pgTable(
  'hand_offs',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    tuning: uuid('tuning_id')
      .notNull()
      .references(() => documents.id, { onDelete: 'cascade' }),
    handOff: file('hand_off').notNull(),
    /** Where in the project's folder it is written by each saved revision; null if it was for once. */
    path: text('path'),
    createdAt: created,
  },
  (table) => [index('hand_offs_by_tuning').on(table.tuning, table.createdAt)],
);

/** Versions of sources: none is used twice, also after a deletion. */
export const sourceVersions = pgSequence('source_versions');

/** The game's own text that a tuning's numbers were read from. */
export const sources = pgTable(
  'sources',
  {
    document: uuid('document_id')
      .primaryKey()
      .references(() => documents.id, { onDelete: 'cascade' }),
    /** Guards against overwriting. */
    version: integer('version').notNull(),
    /** The newest revision when it was kept. */
    revision: integer('revision').notNull(),
    source: file('source').notNull(),
    /** Its place in the project's folder; null if it isn't linked. */
    path: text('path'),
    updatedAt: timestamp('updated_at', { withTimezone: true, precision: 3 }).notNull().defaultNow(),
  },
  (table) => [index('sources_by_path').on(table.path)],
);

/** The parameters that somebody chose for names in a game's sources; null: none. */
export const sourceNames = pgTable(
  'source_names',
  {
    project: uuid('project_id')
      .notNull()
      .references(() => projects.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    parameter: text('parameter'),
  },
  (table) => [primaryKey({ columns: [table.project, table.name] })],
);

/** Games that are or were linked: what each said of itself, and the first tick that isn't kept yet. */
export const links = pgTable(
  'links',
  {
    id: uuid('id').primaryKey(),
    hello: file('hello').notNull(),
    /** Values of the parameters by the ticks from which they are in force. */
    sets: file('sets').notNull().default(sql`'[]'`),
    next: bigint('next', { mode: 'number' }).notNull(),
    seenAt: timestamp('seen_at', { withTimezone: true, precision: 3 }).notNull(),
    createdAt: created,
  },
  (table) => [index('links_by_age').on(table.seenAt)],
);

/** Rows of linked games: doubles one after the other, in the columns of hello, and the hands of their ticks. Rows are only ever added, and the oldest deleted. */
export const linkRows = pgTable(
  'link_rows',
  {
    link: uuid('link_id')
      .notNull()
      .references(() => links.id, { onDelete: 'cascade' }),
    first: bigint('first', { mode: 'number' }).notNull(),
    last: bigint('last', { mode: 'number' }).notNull(),
    rows: bytes('rows').notNull(),
    hands: file('hands').notNull(),
  },
  (table) => [primaryKey({ columns: [table.link, table.first] })],
);
