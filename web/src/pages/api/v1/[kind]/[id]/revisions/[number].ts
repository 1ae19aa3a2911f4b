import { getDocument, getRevision } from '../../../../../../server/documents.ts';
import { endpoint, idOf, json, kindOf } from '../../../../../../server/http.ts';
import { Problem } from '../../../../../../server/problem.ts';

/** One revision with its file. It never changes. */
export const GET = endpoint(async (context, db) => {
  const { id } = await getDocument(db, kindOf(context), idOf(context));
  const number = context.params['number'] ?? '';
  if (!/^\d{1,9}$/.test(number)) throw new Problem(400, 'A revision has a number', { path: 'number', found: number.slice(0, 60) });
  const revision = await getRevision(db, id, Number(number));
  return json(revision, { etag: revision.hash });
});
