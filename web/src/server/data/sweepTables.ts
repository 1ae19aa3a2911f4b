import { index, integer, pgTable, primaryKey, text, timestamp, uniqueIndex, uuid } from 'drizzle-orm/pg-core';
import { bytes, created, file } from './columns.ts';
import { documents } from './schema.ts';

/** Sweeps that are measured on the queue: the definition with all its files, and how far each is. */
export const sweepRuns = pgTable(
  'sweep_runs',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    definition: file('definition').notNull(),
    /** SHA-256 of the definition: the same one is measured once by each core. */
    hash: text('hash').notNull(),
    /** Version of the core that measures it: others refuse its chunks. */
    core: text('core').notNull(),
    cells: integer('cells').notNull(),
    /** Cells of a chunk, the last one excepted. */
    chunkCells: integer('chunk_cells').notNull(),
    state: text('state', { enum: ['running', 'done', 'stopped'] }).notNull(),
    /** Chunks and cells that are measured. */
    chunksDone: integer('chunks_done').notNull().default(0),
    cellsDone: integer('cells_done').notNull().default(0),
    createdAt: created,
    progressedAt: timestamp('progressed_at', { withTimezone: true, precision: 3 }).notNull().defaultNow(),
  },
  (table) => [index('sweep_runs_by_state').on(table.state, table.createdAt), uniqueIndex('sweep_runs_by_hash').on(table.hash, table.core)],
);

/** Measured chunks of a sweep: doubles of all metrics cell by cell, and where each cell stands with the targets. Rows are only ever added. */
export const sweepChunks = pgTable(
  'sweep_chunks',
  {
    run: uuid('run_id')
      .notNull()
      .references(() => sweepRuns.id, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    /** In which order the chunks came, from 1. */
    place: integer('place').notNull(),
    values: bytes('values').notNull(),
    met: bytes('met').notNull(),
    holes: file('holes').notNull(),
  },
  (table) => [primaryKey({ columns: [table.run, table.number] }), uniqueIndex('sweep_chunks_by_place').on(table.run, table.place)],
);

/** Worker processes that were heard of lately. */
export const sweepWorkers = pgTable('sweep_workers', {
  id: uuid('id').primaryKey(),
  host: text('host').notNull(),
  core: text('core').notNull(),
  /** The sweep that it measures a chunk of; null while it waits. */
  run: uuid('run_id'),
  seenAt: timestamp('seen_at', { withTimezone: true, precision: 3 }).notNull(),
});

/** Results of kept sweeps, apart from their definitions: measured by a run, or, small ones, by the page that saved them. */
export const sweepResults = pgTable('sweep_results', {
  sweep: uuid('sweep_id')
    .primaryKey()
    .references(() => documents.id, { onDelete: 'cascade' }),
  /** The revision of the sweep that was measured, and the version of the core that did. */
  revision: integer('revision').notNull(),
  core: text('core').notNull(),
  /** The documents that it was measured from, each with its revision (0: with changes that were in none). */
  from: file('measured_from').notNull(),
  run: uuid('run_id').references(() => sweepRuns.id, { onDelete: 'set null' }),
  /** Without a run: as in a chunk of all cells. */
  values: bytes('values'),
  met: bytes('met'),
  holes: file('holes'),
  createdAt: created,
});
