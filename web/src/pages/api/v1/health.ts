import type { APIRoute } from 'astro';
import { databaseAnswers } from '../../../server/database.ts';

/** Whether the server can do its work: 200 when the database answers, else 503. */
export const GET: APIRoute = async () => {
  const database = await databaseAnswers();
  return new Response(JSON.stringify({ ok: database, database: database ? 'up' : 'down' }), {
    status: database ? 200 : 503,
    headers: { 'content-type': 'application/json', 'cache-control': 'no-store' },
  });
};
