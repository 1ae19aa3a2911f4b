import { csvLine } from '@zygopod/core';
import { z } from 'zod';
import { keepTrial, listTrials, type TrialRow } from '../../data/trials.ts';
import type { Asked, Operation } from '../operation.ts';
import { json } from '../responses.ts';
import { text } from '../shapes.ts';

const side = z.strictObject({ id: z.uuid(), revision: z.int().min(1), name: text(120) });

const round = z
  .strictObject({
    who: text(80).meta({ description: 'A free name' }),
    choice: z.enum(['a', 'b', 'none']).meta({ description: 'Which felt better; none: no difference' }),
    why: text(400).meta({ description: 'A word why' }),
    first: z.enum(['a', 'b']).meta({ description: 'Which of the two was called One' }),
    a: side,
    b: side,
    ground: z.uuid(),
  })
  .meta({ id: 'TrialRound' });

const kept = round.extend({ id: z.uuid(), createdAt: z.iso.datetime() }).meta({ id: 'KeptTrialRound' });

const toldOf = ({ id, who, choice, why, first, ground, createdAt, ...row }: TrialRow) => ({
  id,
  who,
  choice,
  why,
  first,
  a: { id: row.tuningA, revision: row.revisionA, name: row.nameA },
  b: { id: row.tuningB, revision: row.revisionB, name: row.nameB },
  ground,
  createdAt,
});

const pairQuery = z.object({
  a: z.uuid().optional().meta({ description: 'One of the two tunings' }),
  b: z.uuid().optional().meta({ description: 'The other one' }),
});

const keep: Operation = {
  method: 'POST',
  path: '/trials',
  name: 'keepTrial',
  words: 'Keeps a round of a blind trial between two revisions',
  body: round,
  answers: { 201: { words: 'The round', schema: kept } },
  run: async ({ body, database }: Asked<object, z.infer<typeof round>>) => {
    const { a, b, ...rest } = body;
    const row = await keepTrial(await database(), {
      ...rest,
      tuningA: a.id,
      revisionA: a.revision,
      nameA: a.name,
      tuningB: b.id,
      revisionB: b.revision,
      nameB: b.name,
    });
    return json(toldOf(row), { status: 201 });
  },
};

const list: Operation = {
  method: 'GET',
  path: '/trials',
  name: 'listTrials',
  words: 'The rounds of blind trials between two tunings, or all of them, newest first, at most a thousand',
  query: pairQuery,
  answers: { 200: { words: 'The rounds', schema: z.strictObject({ items: z.array(kept) }) } },
  run: async ({ query, database }: Asked<z.infer<typeof pairQuery>>) =>
    json({ items: (await listTrials(await database(), query.a, query.b)).map(toldOf) }),
};

/** The rounds as lines of comma-separated values (RFC 4180). */
function csvOf(rows: readonly TrialRow[]): string {
  const head = ['when', 'who', 'better', 'why', 'first', 'a', 'revision of a', 'b', 'revision of b', 'ground'];
  const better = ({ choice, nameA, nameB }: TrialRow) => (choice === 'a' ? nameA : choice === 'b' ? nameB : 'no difference');
  const lines = rows.map((row) => [
    row.createdAt.toISOString(),
    row.who,
    better(row),
    row.why,
    row.first === 'a' ? row.nameA : row.nameB,
    row.nameA,
    row.revisionA,
    row.nameB,
    row.revisionB,
    row.ground,
  ]);
  return [head, ...lines].map(csvLine).join('');
}

const csv: Operation = {
  method: 'GET',
  path: '/trials.csv',
  name: 'exportTrials',
  words: 'The same rounds as comma-separated values',
  query: pairQuery,
  answers: { 200: { words: 'The rounds', schema: z.string(), type: 'text/csv' } },
  run: async ({ query, database }: Asked<z.infer<typeof pairQuery>>) =>
    new Response(csvOf(await listTrials(await database(), query.a, query.b)), {
      headers: { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': 'attachment; filename="blind-trials.csv"' },
    }),
};

export const trialOperations = [keep, list, csv];
