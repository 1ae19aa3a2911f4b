import { writers } from '@zygopod/code/constants';
import { cases, handOffPathFault, readUnits } from '@zygopod/core';
import { z } from 'zod';
import { type HandOffRow, keepHandOff, listHandOffs, standingHandOffs } from '../../data/handOffs.ts';
import { RawJson } from '../../data/rawJson.ts';
import type { Operation, OperationRequest } from '../operation.ts';
import { json } from '../responses.ts';
import { text } from '../shapes.ts';

const value = z.union([z.number(), z.boolean(), text(200), z.array(z.union([z.number(), text(200), z.array(z.number()).max(8)])).max(64)]);

const handOff = z
  .strictObject({
    tuning: z.strictObject({ id: z.uuid(), revision: z.int().min(1), name: text(120) }),
    changedSince: z.boolean().meta({ description: 'True if it was handed over with unsaved changes' }),
    to: z.enum([...writers.map(({ id }) => id), 'source']).meta({ description: 'The language or format; source: the game’s own code' }),
    units: text(100)
      .refine((words) => typeof readUnits(words) !== 'string', 'expected units')
      .meta({ description: 'The game’s units', example: 'tiles:32,frame:60,degree' }),
    label: text(120).meta({ description: 'Purpose, such as a build number; may be empty' }),
    values: z
      .record(text(200), value)
      .refine((values) => Object.keys(values).length <= 500, 'expected at most 500 values')
      .meta({ description: 'The values handed over, by the game’s names' }),
    style: z.enum(cases).optional().meta({ description: 'The case of names; absent: the language’s usual case' }),
    all: z.boolean().optional().meta({ description: 'True to include parameters that the tuning doesn’t use' }),
    path: text(200)
      .refine((path) => handOffPathFault(path) === null, 'expected a place below the folder, such as src/motion.h')
      .optional()
      .meta({ description: 'Path in the project’s folder that each saved revision updates', example: 'src/motion.h' }),
  })
  .meta({ id: 'HandOff' });

const kept = handOff.extend({ id: z.uuid(), createdAt: z.iso.datetime() }).meta({ id: 'KeptHandOff' });

const answerOf = ({ id, createdAt, handOff: { text } }: HandOffRow) =>
  new RawJson(`{"id":${JSON.stringify(id)},"createdAt":${JSON.stringify(createdAt)},${text.trim().slice(1)}`);

const keep: Operation = {
  method: 'POST',
  path: '/handoffs',
  name: 'keepHandOff',
  words: 'Records that a tuning was handed over to its game, and in which form',
  body: handOff,
  answers: { 201: { words: 'The hand-off', schema: kept }, 404: { words: 'The tuning doesn’t exist' } },
  run: async ({ body, database }: OperationRequest<object, z.infer<typeof handOff>>) =>
    json(
      answerOf(
        await keepHandOff(await database(), {
          tuning: body.tuning.id,
          handOff: new RawJson(JSON.stringify(body)),
          path: body.path ?? null,
        }),
      ),
      {
        status: 201,
      },
    ),
};

const listQuery = z.object({
  tuning: z.uuid().meta({ description: 'The tuning' }),
  limit: z.coerce.number().int().min(1).max(200).default(50).meta({ description: 'Maximum number of hand-offs' }),
});

const list: Operation = {
  method: 'GET',
  path: '/handoffs',
  name: 'listHandOffs',
  words: 'Lists the hand-offs of a tuning, newest first',
  query: listQuery,
  answers: { 200: { words: 'The hand-offs', schema: z.strictObject({ items: z.array(kept) }) } },
  run: async ({ query, database }: OperationRequest<z.infer<typeof listQuery>>) =>
    json({ items: (await listHandOffs(await database(), query.tuning, query.limit)).map(answerOf) }),
};

const standing: Operation = {
  method: 'GET',
  path: '/projects/{id}/handoffs',
  name: 'standingHandOffs',
  words: 'Lists the newest hand-off for each path in a project’s folder',
  answers: { 200: { words: 'The hand-offs', schema: z.strictObject({ items: z.array(kept) }) } },
  run: async ({ id, database }: OperationRequest) => json({ items: (await standingHandOffs(await database(), id)).map(answerOf) }),
};

export const handOffOperations = [keep, list, standing];
