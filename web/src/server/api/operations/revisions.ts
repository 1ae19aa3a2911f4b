import { z } from 'zod';
import { findDocument } from '../../data/documents.ts';
import { keptOf } from '../../data/kept.ts';
import { getRevision, listRevisions, nameRevision, saveRevision } from '../../data/revisions.ts';
import { seenBy } from '../conditions.ts';
import type { Operation, OperationRequest } from '../operation.ts';
import { json } from '../responses.ts';
import { revision, revisionPage, revisionWithFile, saved, text } from '../shapes.ts';

const query = z.object({
  limit: z.coerce.number().int().min(1).max(1000).default(200).meta({ description: 'Revisions per page' }),
  before: z.coerce.number().int().min(1).max(2_147_483_647).optional().meta({ description: '`next` of the previous page' }),
});

const list: Operation = {
  method: 'GET',
  path: '/{kind}/{id}/revisions',
  name: 'listRevisions',
  words: 'Lists the history of a document without its files, newest first, by pages',
  query,
  answers: { 200: { words: 'A page', schema: revisionPage, tagged: true } },
  run: async ({ kind, id, query: page, database }: OperationRequest<z.infer<typeof query>>) => {
    const db = await database();
    const { head } = await findDocument(db, kind, id);
    return json(await listRevisions(db, id, page.limit, page.before), { etag: `${head}` });
  },
};

const save: Operation = {
  method: 'POST',
  path: '/{kind}/{id}/revisions',
  name: 'saveRevision',
  words:
    'Saves a revision on top of the one that If-Match names, and ends the draft whose ETag the body names. 409 with the newest revision if ' +
    'another one was saved first. A draft that isn’t named stays, and is returned',
  condition: 'seen',
  takesFile: true,
  answers: { 201: { words: 'The revision', schema: saved, tagged: true } },
  run: async ({ kind, id, url, request, file, database }: OperationRequest) => {
    const seen = seenBy(request.headers);
    const body = await file();
    const created = await saveRevision(await database(), kind, id, keptOf(body), body.note, seen, body.draft);
    return json(created, { status: 201, etag: String(created.number), location: `${url.pathname}/${created.number}` });
  },
};

const nameBody = z
  .strictObject({ name: text(60).meta({ description: 'Its name; empty to show only its number' }) })
  .meta({ id: 'RevisionName' });

const name: Operation = {
  method: 'PUT',
  path: '/{kind}/{id}/revisions/{number}/name',
  name: 'nameRevision',
  words: 'Names a revision. Nothing else in a revision ever changes',
  body: nameBody,
  answers: { 200: { words: 'The revision', schema: revision } },
  run: async ({ kind, id, number, body, database }: OperationRequest<object, z.infer<typeof nameBody>>) => {
    const named = await nameRevision(await database(), kind, id, number, body.name.trim());
    return json(named);
  },
};

const read: Operation = {
  method: 'GET',
  path: '/{kind}/{id}/revisions/{number}',
  name: 'getRevision',
  words: 'Returns one revision with its file. It never changes',
  answers: { 200: { words: 'The revision', schema: revisionWithFile, tagged: true } },
  run: async ({ kind, id, number, database }: OperationRequest) => {
    const db = await database();
    await findDocument(db, kind, id);
    const revision = await getRevision(db, id, number);
    return json(revision, { etag: revision.hash });
  },
};

export const revisionOperations = [list, save, read, name];
