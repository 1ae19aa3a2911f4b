import { findDocument } from '../../data/documents.ts';
import { deleteDraft, getDraft, putDraft } from '../../data/drafts.ts';
import { RawJson } from '../../data/rawJson.ts';
import { Problem } from '../../problem.ts';
import { seenBy, seenOrNone } from '../conditions.ts';
import type { Operation, OperationRequest } from '../operation.ts';
import { done, json } from '../responses.ts';
import { draft } from '../shapes.ts';

const path = '/{kind}/{id}/draft';

const read: Operation = {
  method: 'GET',
  path,
  name: 'getDraft',
  words: 'Returns the draft of a document; its ETag is the version to name when writing',
  answers: { 200: { words: 'The draft', schema: draft, tagged: true } },
  run: async ({ kind, id, database }: OperationRequest) => {
    const db = await database();
    await findDocument(db, kind, id);
    const found = await getDraft(db, id);
    if (!found) throw new Problem(404, 'There is no draft');
    return json(found, { etag: String(found.version) });
  },
};

const put: Operation = {
  method: 'PUT',
  path,
  name: 'putDraft',
  words: 'Saves a draft over the one that If-Match names, or the first one with If-None-Match: *. 409 with the current draft',
  condition: 'seenOrNone',
  takesFile: true,
  answers: {
    200: { words: 'The draft; it replaced an earlier one', schema: draft, tagged: true },
    201: { words: 'The first draft since a revision', schema: draft, tagged: true },
  },
  run: async ({ kind, id, request, file, database }: OperationRequest) => {
    const seen = seenOrNone(request.headers);
    const { text, base } = await file();
    const kept = await putDraft(await database(), kind, id, new RawJson(text), base, seen);
    return json(kept, { etag: String(kept.version), status: seen(0) ? 201 : 200 });
  },
};

const remove: Operation = {
  method: 'DELETE',
  path,
  name: 'deleteDraft',
  words: 'Discards the draft that If-Match names: the document is as last saved',
  condition: 'seen',
  answers: { 204: { words: 'Discarded' } },
  run: async ({ kind, id, request, database }: OperationRequest) => {
    await deleteDraft(await database(), kind, id, seenBy(request.headers));
    return done();
  },
};

export const draftOperations = [read, put, remove];
