import { z } from 'zod';
import { listenToRun } from '../../data/changes.ts';
import { oncePrepared } from '../../data/database.ts';
import { Problem } from '../../problem.ts';
import { readDefinition, type StoredDefinition } from '../../sweeps/definition.ts';
import { addRun, countRunning, findRun, listChunks, listWorkers, type Run, setState } from '../../sweeps/runs.ts';
import { dispatch, ownCore, resumeRuns } from '../../sweeps/workers.ts';
import { eventStream } from '../events.ts';
import type { Operation, OperationRequest } from '../operation.ts';
import { json } from '../responses.ts';

oncePrepared(resumeRuns);

/** Bytes of a body: a ground of many walls. */
const LARGEST = 17 * 1024 * 1024;
/** Sweeps that are measured at a time. */
const MOST_RUNNING = 20;
/** Chunks of an answer. */
const MOST_CHUNKS = 200;
/** Milliseconds between two messages on workers while nothing else changes. */
const BEAT = 3000;

const file = z.record(z.string(), z.unknown());

const body = z
  .strictObject({
    tuning: file.meta({ description: 'A tuning file' }),
    ground: file.nullable().default(null).meta({ description: 'The ground for tapes and laps' }),
    tapes: z.array(file).max(4).default([]).meta({ description: 'Tapes that metrics name by their numbers: peakSpeed@1' }),
    over: z.array(z.string().max(20_000)).min(1).max(2).meta({ description: 'One or two axes, such as pace.walkSpeed=60:320:64' }),
    metrics: z.array(z.string().max(80)).max(50).default([]).meta({ description: 'Keys of metrics' }),
    targets: z.array(file).max(200).default([]).meta({ description: 'Each cell is compared with these' }),
    metOnly: z.boolean().default(false).meta({ description: 'True: of targets, only whether all are met is kept' }),
  })
  .meta({ id: 'SweepRequest' });

const run = z
  .strictObject({
    id: z.uuid(),
    state: z.enum(['running', 'done', 'stopped']),
    core: z.string().meta({ description: 'Version of the core that measures it' }),
    cells: z.int(),
    done: z.int().meta({ description: 'Measured cells' }),
    chunkCells: z.int().meta({ description: 'Cells of a chunk: chunk n holds those from n × chunkCells on, counted from coarse to fine' }),
    chunks: z.int().meta({ description: 'Measured chunks' }),
    workers: z.int().meta({ description: 'Worker processes that measure it now' }),
    refusing: z.array(z.string()).meta({ description: 'Versions of workers that refuse it, because their core is another one' }),
    createdAt: z.iso.datetime(),
  })
  .meta({ id: 'SweepRun' });

async function answerOf(db: Awaited<ReturnType<OperationRequest['database']>>, one: Run): Promise<z.infer<typeof run>> {
  const workers = await listWorkers(db);
  return {
    id: one.id,
    state: one.state,
    core: one.core,
    cells: one.cells,
    done: one.cellsDone,
    chunkCells: one.chunkCells,
    chunks: one.chunksDone,
    workers: workers.filter((worker) => worker.run === one.id).length,
    refusing: [...new Set(workers.filter(({ core }) => core !== one.core).map(({ core }) => core))],
    createdAt: one.createdAt.toISOString(),
  };
}

async function found(db: Awaited<ReturnType<OperationRequest['database']>>, id: string): Promise<Run> {
  const one = await findRun(db, id);
  if (!one) throw new Problem(404, 'There is no such sweep');
  return one;
}

const start: Operation = {
  method: 'POST',
  path: '/sweep-runs',
  name: 'startSweep',
  words: 'Measures a tuning over one or two axes by all workers on the database; the same sweep is measured once',
  body,
  largest: LARGEST,
  answers: { 201: { words: 'The sweep, started', schema: run } },
  run: async ({ body: request, database }: OperationRequest<object, z.infer<typeof body>>) => {
    const definition = readDefinition(request as StoredDefinition);
    if ('faults' in definition) throw new Problem(422, definition.faults[0] ?? 'The sweep is not valid', { faults: definition.faults });
    const db = await database();
    if ((await countRunning(db)) >= MOST_RUNNING)
      throw new Problem(503, `${MOST_RUNNING} sweeps are being measured; stop one, or try again later`, { retryAfter: 30 });
    const one = await addRun(db, request as StoredDefinition, definition, ownCore());
    // Chunks of a known one may be sent twice: each counts once.
    if (one.state === 'running') await dispatch(db, one);
    return json(await answerOf(db, one), { status: 201, location: `/api/v1/sweep-runs/${one.id}` });
  },
};

const read: Operation = {
  method: 'GET',
  path: '/sweep-runs/{id}',
  name: 'readSweep',
  words: 'How far a sweep is',
  answers: { 200: { words: 'The sweep', schema: run }, 404: { words: 'There is no such sweep' } },
  run: async ({ id, database }: OperationRequest) => {
    const db = await database();
    return json(await answerOf(db, await found(db, id)));
  },
};

const stop: Operation = {
  method: 'POST',
  path: '/sweep-runs/{id}/stop',
  name: 'stopSweep',
  words: 'Stops a sweep; what is measured stays',
  answers: { 200: { words: 'The sweep', schema: run }, 404: { words: 'There is no such sweep' } },
  run: async ({ id, database }: OperationRequest) => {
    const db = await database();
    await found(db, id);
    return json(await answerOf(db, (await setState(db, id, 'stopped')) as Run));
  },
};

const resume: Operation = {
  method: 'POST',
  path: '/sweep-runs/{id}/resume',
  name: 'resumeSweep',
  words: 'Continues a sweep that was stopped',
  answers: {
    200: { words: 'The sweep', schema: run },
    404: { words: 'There is no such sweep' },
    409: { words: 'It is measured by another version of the core' },
  },
  run: async ({ id, database }: OperationRequest) => {
    const db = await database();
    const before = await found(db, id);
    if (before.core !== ownCore()) throw new Problem(409, `The sweep is measured by core ${before.core}; this server has ${ownCore()}`);
    const one = (await setState(db, id, 'running')) as Run;
    if (one.state === 'running') await dispatch(db, one);
    return json(await answerOf(db, one));
  },
};

const chunkQuery = z.object({
  after: z.coerce.number().int().min(0).default(0).meta({ description: 'The place of the last chunk that is known' }),
  limit: z.coerce.number().int().min(1).max(MOST_CHUNKS).default(50),
});

const chunk = z
  .strictObject({
    number: z.int().meta({ description: 'Number of the chunk, from 0' }),
    place: z.int().meta({ description: 'In which order it came, from 1' }),
    values: z
      .base64()
      .meta({ description: 'Doubles (little-endian): the metrics of a cell, then those of the next; NaN where there is none' }),
    met: z.base64().meta({ description: 'A byte a cell: 0 not compared, 1 a target is missed, 2 all are met' }),
    holes: z.array(z.strictObject({ at: z.array(z.int()), why: z.string() })).meta({ description: 'Cells without a valid tuning' }),
  })
  .meta({ id: 'SweepChunk' });

const chunks: Operation = {
  method: 'GET',
  path: '/sweep-runs/{id}/chunks',
  name: 'listSweepChunks',
  words: 'Measured chunks of a sweep in the order in which they came',
  query: chunkQuery,
  answers: {
    200: { words: 'The chunks', schema: z.strictObject({ items: z.array(chunk) }).meta({ id: 'SweepChunks' }) },
    404: { words: 'There is no such sweep' },
  },
  run: async ({ id, query, database }: OperationRequest<z.infer<typeof chunkQuery>>) => {
    const db = await database();
    await found(db, id);
    const rows = await listChunks(db, id, query.after, query.limit);
    const items = rows.map(({ number, place, values, met, holes }) => ({
      number,
      place,
      values: values.toString('base64'),
      met: met.toString('base64'),
      holes: JSON.parse(holes.text) as z.infer<typeof chunk>['holes'],
    }));
    return json({ items });
  },
};

const events: Operation = {
  method: 'GET',
  path: '/sweep-runs/{id}/events',
  name: 'followSweep',
  words: 'The sweep each time that it has changed (server-sent events)',
  answers: { 200: { words: 'A SweepRun each', type: 'text/event-stream', schema: run }, 404: { words: 'There is no such sweep' } },
  run: async ({ id, request, database }: OperationRequest) => {
    const db = await database();
    await found(db, id);
    return eventStream(request, (send) => {
      let [isBusy, isDue] = [false, false];
      // Changes while one is being read are one more.
      const report = async () => {
        isDue = true;
        if (isBusy) return;
        isBusy = true;
        while (isDue) {
          isDue = false;
          const one = await findRun(db, id).catch(() => null);
          if (one) send(null, await answerOf(db, one).catch(() => null));
        }
        isBusy = false;
      };
      const unlisten = listenToRun(id, () => void report());
      if (!unlisten) throw new Problem(503, 'Too many pages follow sweeps', { retryAfter: 5 });
      const beat = setInterval(() => void report(), BEAT);
      void report();
      return () => {
        clearInterval(beat);
        unlisten();
      };
    });
  },
};

export const sweepRunOperations = [start, read, stop, resume, chunks, events];
