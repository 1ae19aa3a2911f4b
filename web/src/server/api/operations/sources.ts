import { handOffPathFault, keptSource, sourceNames } from '@zygopod/core';
import { z } from 'zod';
import { findProject } from '../../data/projects.ts';
import { RawJson } from '../../data/rawJson.ts';
import { chosenNames, deleteSource, getSource, linkedSources, putSource, rememberNames } from '../../data/sources.ts';
import { seenBy, seenOrNone } from '../conditions.ts';
import type { Operation, OperationRequest } from '../operation.ts';
import { done, json } from '../responses.ts';
import { text } from '../shapes.ts';

/** Bytes of a source with its names at most: each letter may be escaped. */
const LARGEST = 2_000_000;

const path = text(200)
  .refine((place) => handOffPathFault(place) === null, 'expected a place below the folder, such as src/player.lua')
  .nullable()
  .meta({ description: 'The file of the project’s folder that it is linked to; null: none', example: 'game/player.lua' });

const source = keptSource.meta({ id: 'Source' });

const values = z
  .strictObject({
    source,
    path: path.default(null),
    chosen: sourceNames.default({}).meta({ description: 'Parameters that were chosen by hand for names; remembered for the project' }),
  })
  .meta({ id: 'SourceValues' });

const kept = z
  .strictObject({
    document: z.uuid(),
    version: z.int().min(1),
    revision: z.int().min(1).meta({ description: 'The newest revision when it was kept' }),
    source,
    path,
    updatedAt: z.iso.datetime(),
  })
  .meta({ id: 'KeptSource' });

const address = '/tunings/{id}/source';

const read: Operation = {
  method: 'GET',
  path: address,
  name: 'getSource',
  words: 'Returns the game’s own code kept with a tuning; its ETag is the version to name when writing',
  answers: { 200: { words: 'The source', schema: kept, tagged: true }, 204: { words: 'None is kept with this tuning' } },
  run: async ({ id, database }: OperationRequest) => {
    const row = await getSource(await database(), id);
    if (!row) return done();
    return json(row, { etag: String(row.version) });
  },
};

const put: Operation = {
  method: 'PUT',
  path: address,
  name: 'putSource',
  words: 'Saves a source over the one that If-Match names, or the first one with If-None-Match: *. 409 with the current source',
  condition: 'seenOrNone',
  body: values,
  largest: LARGEST,
  answers: {
    200: { words: 'The source; it replaced an earlier one', schema: kept, tagged: true },
    201: { words: 'The first source of the tuning', schema: kept, tagged: true },
  },
  run: async ({ id, body, request, database }: OperationRequest<object, z.infer<typeof values>>) => {
    const seen = seenOrNone(request.headers);
    const { row, isFirst } = await putSource(
      await database(),
      id,
      { source: new RawJson(JSON.stringify(body.source)), path: body.path, chosen: body.chosen },
      seen,
    );
    return json(row, { etag: String(row.version), status: isFirst ? 201 : 200 });
  },
};

const remove: Operation = {
  method: 'DELETE',
  path: address,
  name: 'deleteSource',
  words: 'Forgets the source that If-Match names; the tuning stays',
  condition: 'seen',
  answers: { 204: { words: 'It is gone' } },
  run: async ({ id, request, database }: OperationRequest) => {
    await deleteSource(await database(), id, seenBy(request.headers));
    return done();
  },
};

const linked: Operation = {
  method: 'GET',
  path: '/projects/{id}/sources',
  name: 'linkedSources',
  words: 'The sources of a project’s tunings that are linked to files of its folder',
  answers: { 200: { words: 'The sources', schema: z.strictObject({ items: z.array(kept) }) } },
  run: async ({ id, database }: OperationRequest) => json({ items: await linkedSources(await database(), id) }),
};

const names: Operation = {
  method: 'GET',
  path: '/projects/{id}/source-names',
  name: 'sourceNames',
  words: 'The parameters chosen by hand for names in a project’s sources; null: none',
  answers: { 200: { words: 'The names', schema: z.strictObject({ names: sourceNames }) } },
  run: async ({ id, database }: OperationRequest) => {
    const db = await database();
    await findProject(db, id);
    return json({ names: await chosenNames(db, id) });
  },
};

const choose: Operation = {
  method: 'POST',
  path: '/projects/{id}/source-names',
  name: 'chooseSourceNames',
  words: 'Remembers which parameters are meant by names in a project’s sources and games; null: none. Other names stay as they are',
  body: z.strictObject({ names: sourceNames }).meta({ id: 'SourceNames' }),
  answers: { 200: { words: 'All names of the project', schema: z.strictObject({ names: sourceNames }) } },
  run: async ({ id, body, database }: OperationRequest<object, { names: z.infer<typeof sourceNames> }>) => {
    const db = await database();
    await findProject(db, id);
    await rememberNames(db, id, body.names);
    return json({ names: await chosenNames(db, id) });
  },
};

export const sourceOperations = [read, put, remove, linked, names, choose];
