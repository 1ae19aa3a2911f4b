import { deleteDocument, getDocument } from '../../../../../server/documents.ts';
import { endpoint, idOf, json, kindOf } from '../../../../../server/http.ts';

/** A document with the file of its newest revision; the ETag is that revision's number. */
export const GET = endpoint(async (context, db) => {
  const document = await getDocument(db, kindOf(context), idOf(context));
  return json(document, { etag: String(document.head) });
});

export const DELETE = endpoint(async (context, db) => {
  await deleteDocument(db, kindOf(context), idOf(context));
  return new Response(null, { status: 204 });
});
