import { csvLine } from '@zygopod/core';
import { z } from 'zod';
import type { Database } from '../../data/connection.ts';
import type { Place } from '../../data/documents.ts';
import { keepTrial, listTrials, type TrialRow } from '../../data/trials.ts';
import { after, cursorOf, next } from '../cursor.ts';
import type { Operation, OperationRequest } from '../operation.ts';
import { json, streamed } from '../responses.ts';
import { text } from '../shapes.ts';

const side = z.strictObject({ id: z.uuid(), revision: z.int().min(1), name: text(120) });

const round = z
  .strictObject({
    who: text(80).meta({ description: 'A free name' }),
    choice: z.enum(['a', 'b', 'none']).meta({ description: 'Which felt better; none: no difference' }),
    why: text(400).meta({ description: 'Reason in the person’s own words' }),
    first: z.enum(['a', 'b']).meta({ description: 'Which of the two was shown as One' }),
    a: side,
    b: side,
    ground: z.uuid(),
  })
  .meta({ id: 'TrialRound' });

const kept = round
  .extend({
    id: z.uuid(),
    createdAt: z.iso.datetime(),
    ground: z.uuid().nullable().meta({ description: 'The ground; null once it is deleted' }),
  })
  .meta({ id: 'KeptTrialRound' });

const answerOf = ({ id, who, choice, why, first, ground, createdAt, ...row }: TrialRow) => ({
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

/** Rounds on a page, unless fewer are requested. */
const MOST = 1000;

const listQuery = pairQuery.extend({
  limit: z.coerce.number().int().min(1).max(MOST).default(MOST).meta({ description: 'Rounds per page' }),
  after,
});

const pairOf = ({ a, b }: z.infer<typeof pairQuery>) => (a && b ? ([a, b] as const) : undefined);

const keep: Operation = {
  method: 'POST',
  path: '/trials',
  name: 'keepTrial',
  words: 'Saves a round of a blind trial between two revisions',
  body: round,
  answers: { 201: { words: 'The round', schema: kept }, 404: { words: 'A tuning or the ground doesn’t exist' } },
  run: async ({ body, database }: OperationRequest<object, z.infer<typeof round>>) => {
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
    return json(answerOf(row), { status: 201 });
  },
};

const list: Operation = {
  method: 'GET',
  path: '/trials',
  name: 'listTrials',
  words: 'Lists the rounds of blind trials between two tunings, or all rounds, newest first, by pages',
  query: listQuery,
  answers: { 200: { words: 'A page', schema: z.strictObject({ items: z.array(kept), next }) } },
  run: async ({ query, database }: OperationRequest<z.infer<typeof listQuery>>) => {
    const page = await listTrials(await database(), { ...query, pair: pairOf(query) });
    return json({ items: page.items.map(answerOf), next: page.next && cursorOf(page.next) });
  },
};

const better = ({ choice, nameA, nameB }: TrialRow) => (choice === 'a' ? nameA : choice === 'b' ? nameB : 'no difference');

/** All rounds as lines of comma-separated values (RFC 4180), read a page at a time. */
async function* csvOf(db: Database, pair: readonly [string, string] | undefined): AsyncGenerator<string> {
  yield csvLine(['when', 'who', 'better', 'why', 'first', 'a', 'revision of a', 'b', 'revision of b', 'ground']);
  for (let after: Place | null | undefined; after !== null; ) {
    const page = await listTrials(db, { pair, limit: MOST, after });
    for (const row of page.items)
      yield csvLine([
        row.createdAt.toISOString(),
        row.who,
        better(row),
        row.why,
        row.first === 'a' ? row.nameA : row.nameB,
        row.nameA,
        row.revisionA,
        row.nameB,
        row.revisionB,
        row.ground ?? '',
      ]);
    after = page.next;
  }
}

const csv: Operation = {
  method: 'GET',
  path: '/trials.csv',
  name: 'exportTrials',
  words: 'Returns the same rounds as CSV',
  query: pairQuery,
  answers: { 200: { words: 'The rounds', schema: z.string(), type: 'text/csv' } },
  run: async ({ query, database }: OperationRequest<z.infer<typeof pairQuery>>) =>
    streamed(csvOf(await database(), pairOf(query)), {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': 'attachment; filename="blind-trials.csv"',
    }),
};

export const trialOperations = [keep, list, csv];
