import { jsonSchema } from '@zygopod/core';
import { z } from 'zod';
import { databaseCondition } from '../../data/database.ts';
import { exceptions } from '../../exceptions.ts';
import { queueState } from '../../sweeps/runs.ts';
import { openApi } from '../openApi.ts';
import type { Operation, OperationRequest } from '../operation.ts';
import { json } from '../responses.ts';
import { health } from '../shapes.ts';

const readHealth: Operation = {
  method: 'GET',
  path: '/health',
  name: 'getHealth',
  words: 'Reports whether the server works',
  answers: {
    200: { words: 'It works', schema: health },
    503: { words: 'The database doesn’t answer, or can’t be written to', schema: health },
  },
  run: async ({ database }: OperationRequest) => {
    const condition = await databaseCondition();
    const ok = condition === 'up';
    const queue = ok
      ? await database()
          .then(queueState)
          .catch(() => null)
      : null;
    return json({ ok, database: condition, exceptions: exceptions(), queue }, { status: ok ? 200 : 503 });
  },
};

const schema: Operation = {
  method: 'GET',
  path: '/schemas/{format}',
  name: 'getSchema',
  words: 'Returns the JSON Schema (2020-12) of a file format',
  answers: { 200: { words: 'The schema', schema: z.looseObject({ title: z.string() }), type: 'application/schema+json' } },
  run: async ({ kind }: OperationRequest) => json(jsonSchema(kind), { type: 'application/schema+json' }),
};

/** The operation that describes all operations. */
export const descriptionOf = (all: () => readonly Operation[]): Operation => ({
  method: 'GET',
  path: '/openapi.json',
  name: 'getDescription',
  words: 'Returns this description, OpenAPI 3.1',
  answers: { 200: { words: 'The description', schema: z.looseObject({ openapi: z.string() }) } },
  run: async () => json(openApi(all())),
});

export const serviceOperations = [readHealth, schema];
