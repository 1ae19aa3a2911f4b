import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { DEMO_PROJECT } from '../../../../server/demo.ts';
import { createDocument, listDocuments } from '../../../../server/documents.ts';
import { endpoint, fileBody, json, kindOf } from '../../../../server/http.ts';
import { Problem } from '../../../../server/problem.ts';
import { projects } from '../../../../server/schema.ts';

const query = z.object({ limit: z.coerce.number().int().min(1).max(200).default(50), after: z.uuid().optional() });

/** The documents of a kind, a page at a time. */
export const GET = endpoint(async (context, db) => {
  const kind = kindOf(context);
  const asked = query.safeParse(Object.fromEntries(context.url.searchParams));
  if (!asked.success)
    throw new Problem(400, 'limit is a whole number from 1 to 200, after the id of a document', {
      path: asked.error.issues[0]?.path.join('.'),
    });
  return json(await listDocuments(db, kind, asked.data.limit, asked.data.after));
});

/** A new document from a file. */
export const POST = endpoint(async (context, db) => {
  const kind = kindOf(context);
  const { file, note } = await fileBody(context.request, kind);
  const [project] = await db.select().from(projects).where(eq(projects.name, DEMO_PROJECT)).limit(1);
  if (!project) throw new Problem(404, 'There is no project to put it in');
  const document = await createDocument(db, kind, { project: project.id, file, note });
  return json(document, { status: 201, etag: '1', location: `${context.url.pathname.replace(/\/$/, '')}/${document.id}` });
});
