import { z } from 'zod';
import { archive, createDocument, getDocument, listDocuments, removeForever, restore } from '../../data/documents.ts';
import { keptOf } from '../../data/kept.ts';
import { findProject, firstProject } from '../../data/projects.ts';
import { seenBy } from '../conditions.ts';
import { after, cursorOf } from '../cursor.ts';
import type { Operation, OperationRequest } from '../operation.ts';
import { done, json } from '../responses.ts';
import { document, documentPage, documentWithFile } from '../shapes.ts';

/** Text that a name can hold. */
const part = z
  .string()
  .max(200)
  .refine((text) => text.isWellFormed() && !text.includes('\0'), 'expected text');

const inProject = z.object({ project: z.uuid().optional().meta({ description: 'The project; the demo’s if none is named' }) });

const listQuery = z.object({
  project: z.uuid().optional().meta({ description: 'Only documents of this project' }),
  limit: z.coerce.number().int().min(1).max(200).default(50).meta({ description: 'Documents per page' }),
  after,
  q: part.optional().meta({ description: 'Part of the name; case doesn’t matter' }),
  away: z
    .stringbool()
    .default(false)
    .meta({ description: 'List archived documents instead of those in use', override: { type: 'boolean' } }),
});

const list: Operation = {
  method: 'GET',
  path: '/{kind}',
  name: 'listDocuments',
  words: 'Lists the documents of a kind, newest first, by pages',
  query: listQuery,
  answers: { 200: { words: 'A page', schema: documentPage } },
  run: async ({ kind, query, database }: OperationRequest<z.infer<typeof listQuery>>) => {
    const { items, next } = await listDocuments(await database(), kind, query);
    return json({ items, next: next && cursorOf(next) });
  },
};

const create: Operation = {
  method: 'POST',
  path: '/{kind}',
  name: 'createDocument',
  words: 'Creates a document from a file',
  takesFile: true,
  query: inProject,
  answers: {
    201: { words: 'The document, with its first revision', schema: document, tagged: true },
    409: { words: 'The body’s id is already used by a document' },
  },
  run: async ({ kind, url, query, file, database }: OperationRequest<z.infer<typeof inProject>>) => {
    const body = await file();
    const db = await database();
    const project = query.project ? await findProject(db, query.project) : await firstProject(db);
    const created = await createDocument(db, kind, { id: body.id, project: project.id, ...keptOf(body), note: body.note });
    return json(created, { status: 201, etag: '1', location: `${url.pathname}/${created.id}` });
  },
};

const read: Operation = {
  method: 'GET',
  path: '/{kind}/{id}',
  name: 'getDocument',
  words: 'Returns a document with the file of its newest revision; the ETag is that revision’s number',
  answers: { 200: { words: 'The document', schema: documentWithFile, tagged: true } },
  run: async ({ kind, id, database }: OperationRequest) => {
    const found = await getDocument(await database(), kind, id);
    return json(found, { etag: String(found.head) });
  },
};

const away: Operation = {
  method: 'DELETE',
  path: '/{kind}/{id}',
  name: 'putAway',
  words: 'Archives the document whose newest revision If-Match names: it leaves the lists and can be restored',
  condition: 'seen',
  answers: { 204: { words: 'Archived' } },
  run: async ({ kind, id, request, database }: OperationRequest) => {
    await archive(await database(), kind, id, seenBy(request.headers));
    return done();
  },
};

const back: Operation = {
  method: 'POST',
  path: '/{kind}/{id}/back',
  name: 'bringBack',
  words: 'Restores an archived document with its history and draft. 409 if it is in use',
  answers: { 200: { words: 'The document', schema: document, tagged: true }, 409: { words: 'It is in use' } },
  run: async ({ kind, id, database }: OperationRequest) => {
    const found = await restore(await database(), kind, id);
    return json(found, { etag: String(found.head) });
  },
};

const forever: Operation = {
  method: 'DELETE',
  path: '/{kind}/{id}/forever',
  name: 'removeForever',
  words: 'Deletes an archived document and its history permanently. 409 if it is in use',
  condition: 'seen',
  answers: { 204: { words: 'Deleted' } },
  run: async ({ kind, id, request, database }: OperationRequest) => {
    await removeForever(await database(), kind, id, seenBy(request.headers));
    return done();
  },
};

export const documentOperations = [list, create, read, away, back, forever];
