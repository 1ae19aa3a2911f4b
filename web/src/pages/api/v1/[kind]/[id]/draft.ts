import { deleteDraft, getDocument, getDraft, putDraft } from '../../../../../server/documents.ts';
import { endpoint, fileBody, idOf, json, kindOf, seenVersion } from '../../../../../server/http.ts';
import { Problem } from '../../../../../server/problem.ts';

/** The draft of a document; its ETag is the version to name when writing. */
export const GET = endpoint(async (context, db) => {
  const { id } = await getDocument(db, kindOf(context), idOf(context));
  const draft = await getDraft(db, id);
  if (!draft) throw new Problem(404, 'There is no draft');
  return json(draft, { etag: String(draft.version) });
});

/** Keeps a draft. 409 with the draft that is there when it moved on since the writer saw it. */
export const PUT = endpoint(async (context, db) => {
  const kind = kindOf(context);
  const document = await getDocument(db, kind, idOf(context));
  const version = seenVersion(context.request);
  const { file, base } = await fileBody(context.request, kind);
  const draft = await putDraft(db, document.id, file, base ?? document.head, version);
  return json(draft, { etag: String(draft.version), status: version === 0 ? 201 : 200 });
});

/** Throws away the draft that If-Match names: the document is as last saved. */
export const DELETE = endpoint(async (context, db) => {
  const { id } = await getDocument(db, kindOf(context), idOf(context));
  await deleteDraft(db, id, seenVersion(context.request));
  return new Response(null, { status: 204 });
});
