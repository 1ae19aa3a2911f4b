import { z } from 'zod';
import { findProject } from '../../data/projects.ts';
import { changedSince, getResult, listResults, type MeasuredFrom, putResult, type ResultRow } from '../../sweeps/results.ts';
import { ownCore } from '../../sweeps/workers.ts';
import type { Operation, OperationRequest } from '../operation.ts';
import { done, json } from '../responses.ts';

/** Bytes of a result at most: 5,000 cells of twelve metrics in base 64. */
const LARGEST = 2_000_000;
/** Holes of a result at most: a cell has one. */
const MOST_HOLES = 5000;

const from = z
  .array(
    z.strictObject({
      id: z.uuid(),
      revision: z.int().min(0).meta({ description: '0: with changes that were in no revision' }),
    }),
  )
  .min(1)
  .max(7)
  .meta({ description: 'The tuning, and, where they are used, the target set, the ground and the tapes' });

const measured = z
  .strictObject({
    values: z.base64().meta({ description: 'Doubles (little-endian): the metrics of a cell, then those of the next, from coarse to fine' }),
    met: z.base64().meta({ description: 'A byte a cell: 0 not compared, 1 a target is missed, 2 all are met' }),
    holes: z.array(z.strictObject({ at: z.array(z.int()).min(1).max(2), why: z.string().max(1000) })).max(MOST_HOLES),
  })
  .meta({ id: 'MeasuredCells' });

const values = z
  .strictObject({
    revision: z.int().min(1).meta({ description: 'The sweep’s newest revision, which was measured' }),
    from,
    run: z.uuid().nullable().default(null).meta({ description: 'The run on the queue that measured it' }),
    measured: measured.nullable().default(null),
  })
  .refine(({ run, measured }) => (run === null) !== (measured === null), 'expected either a run or measured cells')
  .meta({ id: 'SweepResultValues' });

const head = z.strictObject({
  sweep: z.uuid(),
  revision: z.int(),
  core: z.string().meta({ description: 'Version of the core that measured it, with a mark of its sources' }),
  from,
  changed: z.array(z.string()).meta({ description: 'The documents that have changed since, by id, and core for another version of it' }),
  createdAt: z.iso.datetime(),
});
const result = head.extend({ run: z.uuid().nullable(), measured: measured.nullable() }).meta({ id: 'SweepResult' });
const heads = z.strictObject({ items: z.array(head.meta({ id: 'SweepResultHead' })) }).meta({ id: 'SweepResults' });

type Headed = Pick<ResultRow, 'sweep' | 'revision' | 'core' | 'from' | 'createdAt'>;

const headOf = ({ sweep, revision, core, from, createdAt }: Headed, changed: string[] = []) => ({
  sweep,
  revision,
  core,
  from: from.read() as MeasuredFrom[],
  changed,
  createdAt: createdAt.toISOString(),
});

async function answerOf(db: Awaited<ReturnType<OperationRequest['database']>>, row: ResultRow) {
  const changed = await changedSince(db, [row], ownCore());
  const { values, met, holes, run } = row;
  return {
    ...headOf(row, changed.get(row.sweep)),
    run,
    measured:
      values && met && holes ? { values: values.toString('base64'), met: met.toString('base64'), holes: holes.read() as object[] } : null,
  };
}

const address = '/sweeps/{id}/result';

const read: Operation = {
  method: 'GET',
  path: address,
  name: 'getSweepResult',
  words: 'Returns what was measured of a kept sweep, and what has changed since',
  answers: { 200: { words: 'The result', schema: result }, 204: { words: 'Nothing is kept with this sweep' } },
  run: async ({ id, database }: OperationRequest) => {
    const db = await database();
    const row = await getResult(db, id);
    return row ? json(await answerOf(db, row)) : done();
  },
};

const put: Operation = {
  method: 'PUT',
  path: address,
  name: 'putSweepResult',
  words: 'Keeps what was measured of a sweep’s newest revision, in place of an earlier result',
  body: values,
  largest: LARGEST,
  answers: {
    200: { words: 'The result', schema: result },
    409: { words: 'The sweep has a newer revision' },
  },
  run: async ({ id, body, database }: OperationRequest<object, z.infer<typeof values>>) => {
    const db = await database();
    const { measured } = body;
    const bytes = measured && {
      values: Buffer.from(measured.values, 'base64'),
      met: Buffer.from(measured.met, 'base64'),
      holes: measured.holes,
    };
    return json(await answerOf(db, await putResult(db, id, { ...body, measured: bytes }, ownCore())));
  },
};

const list: Operation = {
  method: 'GET',
  path: '/projects/{id}/sweep-results',
  name: 'listSweepResults',
  words: 'The results that are kept with a project’s sweeps, without their values',
  answers: { 200: { words: 'The results', schema: heads } },
  run: async ({ id, database }: OperationRequest) => {
    const db = await database();
    await findProject(db, id);
    const rows = await listResults(db, id);
    const changed = await changedSince(db, rows, ownCore());
    return json({ items: rows.map((row) => headOf(row, changed.get(row.sweep))) });
  },
};

export const sweepResultOperations = [read, put, list];
