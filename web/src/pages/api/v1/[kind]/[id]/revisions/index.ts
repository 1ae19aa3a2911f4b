import { getDocument, listRevisions, saveRevision } from '../../../../../../server/documents.ts';
import { endpoint, fileBody, idOf, json, kindOf, seenVersion } from '../../../../../../server/http.ts';

/** The history of a document, newest first, without the files. */
export const GET = endpoint(async (context, db) => {
  const { id, head } = await getDocument(db, kindOf(context), idOf(context));
  return json({ items: await listRevisions(db, id) }, { etag: String(head) });
});

/**
 * Saves a revision on top of the one that If-Match names, and ends the draft that the body names. 409 with the newest one when somebody
 * was faster. A draft that the body does not name stays, and comes with the answer.
 */
export const POST = endpoint(async (context, db) => {
  const kind = kindOf(context);
  const { id } = await getDocument(db, kind, idOf(context));
  const parent = seenVersion(context.request);
  const { file, note, draft } = await fileBody(context.request, kind);
  const revision = await saveRevision(db, id, file, note, parent, draft);
  return json(revision, {
    status: 201,
    etag: String(revision.number),
    location: `${context.url.pathname.replace(/\/$/, '')}/${revision.number}`,
  });
});
