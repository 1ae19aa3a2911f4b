import { type Fault, type Reading, readGround, readTape, readTuning } from '@zygopod/core';
import type { APIContext, APIRoute } from 'astro';
import { z } from 'zod';
import type { Database } from './connection.ts';
import { database } from './database.ts';
import { log } from './log.ts';
import { Problem } from './problem.ts';
import type { Kind } from './schema.ts';

/** Errors of the driver and of the operating system that mean that the database cannot be reached now. */
const UNREACHABLE = /^(08|57|53300|55P03|25P03|ECONN|ENOTFOUND|ETIMEDOUT|EPIPE|ENOENT)/;

function isUnreachable(error: unknown): boolean {
  for (let e = error; e instanceof Error; e = e.cause) {
    if ('code' in e && UNREACHABLE.test(String(e.code))) return true;
    if (/connection (terminated|timeout|error)|timeout exceeded when trying to connect|query read timeout|not queryable/i.test(e.message))
      return true;
  }
  return false;
}

/** What the database refuses because of what was sent: text that it cannot hold, numbers that are too large, a document that is gone by now. */
function refusal(error: unknown): Problem | null {
  for (let e = error; e instanceof Error; e = e.cause) {
    const code = 'code' in e ? String(e.code) : '';
    if (code === '23503') return new Problem(404, 'The document was removed meanwhile');
    if (code.startsWith('22')) return new Problem(422, 'The document holds text or numbers that cannot be kept');
  }
  return null;
}

/** An endpoint: runs with the database, and turns whatever is thrown into problem+json without a stack. */
export function endpoint(work: (context: APIContext, db: Database) => Promise<Response>): APIRoute {
  return async (context) => {
    try {
      return await work(context, await database());
    } catch (error) {
      if (error instanceof Problem) return error.response();
      const refused = refusal(error);
      if (refused) return refused.response();
      if (isUnreachable(error)) return new Problem(503, 'The database cannot be reached; what was sent was not saved').response();
      log.error({ request: context.locals.requestId, error: error instanceof Error ? error.stack : String(error) }, 'an endpoint failed');
      return new Problem(500, 'The server failed; the fault is in its log', { request: context.locals.requestId }).response();
    }
  };
}

export function json(body: unknown, init: { status?: number; etag?: string; location?: string } = {}): Response {
  const headers = new Headers({ 'content-type': 'application/json', 'cache-control': 'no-store' });
  if (init.etag !== undefined) headers.set('etag', `"${init.etag}"`);
  if (init.location !== undefined) headers.set('location', init.location);
  return new Response(JSON.stringify(body), { status: init.status ?? 200, headers });
}

const collections: Record<string, Kind> = { tunings: 'tuning', grounds: 'ground', tapes: 'tape' };

/** The kind that a collection's name in the path stands for. */
export function kindOf(context: APIContext): Kind {
  const name = context.params['kind'] ?? '';
  const kind = Object.hasOwn(collections, name) ? collections[name] : undefined;
  if (!kind) throw new Problem(404, `Unknown collection; there are ${Object.keys(collections).join(', ')}`);
  return kind;
}

/** The id in the path; anything but a UUID is nobody's id. */
export function idOf(context: APIContext): string {
  const id = z.uuid().safeParse(context.params['id']);
  if (!id.success) throw new Problem(400, 'An id is a UUID', { path: 'id', found: String(context.params['id']).slice(0, 60) });
  return id.data;
}

const LARGEST: Record<Kind, number> = { tuning: 256 * 1024, ground: 16 * 1024 * 1024, tape: 32 * 1024 * 1024 };

/** The body's JSON, refused when larger than the kind allows, even if no length was announced. */
async function bodyJson(request: Request, kind: Kind): Promise<unknown> {
  if (!/^application\/json\b/.test(request.headers.get('content-type') ?? ''))
    throw new Problem(415, 'The body has to be application/json');
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of request.body ?? []) {
    size += chunk.length;
    if (size > LARGEST[kind]) throw new Problem(413, `A ${kind} has at most ${LARGEST[kind]} bytes`);
    chunks.push(chunk);
  }
  try {
    return JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(Buffer.concat(chunks)));
  } catch {
    throw new Problem(400, 'The body is no UTF-8 JSON');
  }
}

/** The ETag of a draft, with or without its quotes. */
const draftTag = z
  .string()
  .regex(/^"?\d{1,9}"?$/)
  .transform((tag) => Number(tag.replaceAll('"', '')));

const bodySchema = z.strictObject({
  file: z.unknown(),
  note: z.string().max(2000).default(''),
  base: z.int().min(1).optional(),
  draft: draftTag.optional(),
});

/** Reads a file of a kind; gives it in its newest version. A ground stays as it was written: its schema would fill in defaults. */
const readers: Record<Kind, (value: unknown) => Reading<unknown>> = {
  tuning: (value) => mapped(readTuning(value), ({ file }) => file),
  ground: (value) => mapped(readGround(value), () => value),
  tape: readTape,
};

function mapped<T>(reading: Reading<T>, file: (read: T) => unknown): Reading<unknown> {
  return reading.ok ? { ok: true, value: file(reading.value) } : reading;
}

function invalid(faults: Fault[]): Problem {
  return new Problem(422, 'The document is not valid', { errors: faults.slice(0, 50) });
}

/** What comes with a file: a note, the revision that it was made from, the version of the draft that it ends (0: none). */
interface FileBody {
  file: { name: string };
  note: string;
  base: number | undefined;
  draft: number;
}

/** A body that holds a file of `kind`, validated. */
export async function fileBody(request: Request, kind: Kind): Promise<FileBody> {
  const body = bodySchema.safeParse(await bodyJson(request, kind));
  if (!body.success)
    throw new Problem(400, 'The body has to be { file, note?, base?, draft? }', {
      errors: body.error.issues.map((issue) => ({ path: issue.path.join('.'), message: issue.message })),
    });
  const reading = readers[kind](body.data.file);
  if (!reading.ok) throw invalid(reading.faults);
  return { file: reading.value as { name: string }, note: body.data.note, base: body.data.base, draft: body.data.draft ?? 0 };
}

/** The version that a writer last saw: `If-Match: "7"`, or 0 for `If-None-Match: *`. */
export function seenVersion(request: Request): number {
  if (request.headers.get('if-none-match') === '*') return 0;
  const match = /^"(\d{1,9})"$/.exec(request.headers.get('if-match') ?? '');
  if (!match) throw new Problem(428, 'Say which version was seen last: If-Match: "n", or If-None-Match: * for none');
  return Number(match[1]);
}
