import { deleteDocument, getDocument } from '../../../../../server/documents.ts';
import { endpoint, idOf, json, kindOf, seenVersion } from '../../../../../server/http.ts';

/** A document with the file of its newest revision; the ETag is that revision's number. */
export const GET = endpoint(async (context, db) => {
  const document = await getDocument(db, kindOf(context), idOf(context));
  return json(document, { etag: String(document.head) });
});

/** Removes a document whose newest revision If-Match names. */
export const DELETE = endpoint(async (context, db) => {
  await deleteDocument(db, kindOf(context), idOf(context), seenVersion(context.request));
  return new Response(null, { status: 204 });
});
