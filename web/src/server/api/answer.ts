import { type DocumentKind, documentKinds, kindIn, readJson } from '@zygopod/core';
import type { z } from 'zod';
import { database } from '../data/database.ts';
import { insideCourt, isLarge, judgeBody } from '../judge/court.ts';
import type { JudgedBody } from '../judge/judge.ts';
import { Problem } from '../problem.ts';
import { bytesOf } from './body.ts';
import { isUnchanged } from './conditions.ts';
import { problemOf } from './failures.ts';
import { createsDocument, once } from './idempotency.ts';
import { Matcher } from './match.ts';
import { type Operation, parameters } from './operation.ts';
import { operations } from './operations/index.ts';
import { problemResponse } from './responses.ts';

const matcher = new Matcher(operations);
const BASE = '/api/v1';

/** Answers a request to the API: with a problem if it is invalid or fails. */
export async function answer(request: Request, url: URL, requestId: string): Promise<Response> {
  try {
    const response = await answerWell(request, url);
    if (request.method !== 'HEAD') return response;
    // Whoever writes the body, as a stream does, learns that nobody reads it.
    await response.body?.cancel();
    return new Response(null, response);
  } catch (error) {
    return problemResponse(problemOf(error, requestId));
  }
}

async function answerWell(request: Request, url: URL): Promise<Response> {
  const match = matcher.find(pathOf(url));
  if (!match) throw new Problem(404, 'Nothing exists at this address', { path: url.pathname });
  const { methods, values } = match;
  const allow = ['OPTIONS', ...(methods.has('GET') ? ['HEAD'] : []), ...methods.keys()].join(', ');
  if (request.method === 'OPTIONS') return new Response(null, { status: 204, headers: { allow } });
  const operation = methods.get(request.method === 'HEAD' ? 'GET' : request.method);
  if (!operation) throw new Problem(405, `The methods here are ${allow}`, { allow });
  const { kind, id, number } = placeOf(values);
  const query = queryOf(operation, url);
  const run = async () =>
    operation.run({
      request,
      body: operation.body ? await bodyOf(operation.body, request, operation.largest) : undefined,
      // Where the document is found, without a slash at the end.
      url: new URL(url.pathname.replace(/\/+$/, ''), url),
      query,
      kind,
      id,
      number,
      database,
      file: () => fileOf(request, kind),
    });
  const response = createsDocument(operation) ? await once(request, url, database, run) : await run();
  const isRead = operation.method === 'GET' && response.status === 200;
  if (!isRead || !isUnchanged(request.headers, response.headers.get('etag'))) return response;
  for (const name of ['content-type', 'content-length']) response.headers.delete(name);
  return new Response(null, { status: 304, headers: response.headers });
}

/** The path below the API's base; the server's health is also available outside of its versions. */
function pathOf({ pathname }: URL): string {
  if (pathname === '/api/health') return '/health';
  return pathname.startsWith(`${BASE}/`) ? pathname.slice(BASE.length) : '';
}

/** Reads the parameters in the path. */
function placeOf(values: Record<string, string>): { kind: DocumentKind; id: string; number: number } {
  const place = { kind: 'tuning' as DocumentKind, id: '', number: 0 };
  if (values['kind'] !== undefined) {
    const kind = parameters.kind.safeParse(values['kind']);
    if (!kind.success) throw new Problem(404, `Unknown collection; there are ${parameters.kind.options.join(', ')}`);
    place.kind = kindIn(kind.data);
  }
  if (values['format'] !== undefined) {
    const format = parameters.format.safeParse(values['format']);
    if (!format.success) throw new Problem(404, `There are schemas of ${parameters.format.options.join(', ')}`);
    // A project is a format, and no kind of document.
    place.kind = format.data as DocumentKind;
  }
  if (values['id'] !== undefined) {
    const id = parameters.id.safeParse(values['id']);
    if (!id.success) throw new Problem(400, 'An id is a UUID', { path: 'id', found: values['id'].slice(0, 60) });
    place.id = id.data;
  }
  if (values['number'] !== undefined) {
    const number = parameters.number.safeParse(values['number']);
    if (!number.success)
      throw new Problem(400, 'A revision has a number, from 1', { path: 'number', found: values['number'].slice(0, 60) });
    place.number = Number(number.data);
  }
  return place;
}

function queryOf({ query }: Operation, url: URL): Record<string, unknown> {
  if (!query) return {};
  const parsed = query.safeParse(Object.fromEntries(url.searchParams));
  if (parsed.success) return parsed.data;
  const errors = parsed.error.issues.map(({ path, message }) => ({ path: path.join('.'), message }));
  throw new Problem(400, 'The search cannot be read', { errors });
}

function needsJson(request: Request): void {
  if (!/^application\/json\s*(;|$)/i.test(request.headers.get('content-type') ?? ''))
    throw new Problem(415, 'The body has to be application/json');
}

/** Maximum size of a body without a file, bytes, by default. */
const SMALL = 64 * 1024;

/** A small body, compared with its schema. */
async function bodyOf(schema: z.ZodType, request: Request, most = SMALL): Promise<unknown> {
  needsJson(request);
  const bytes = await bytesOf(request, most, 'This');
  const read = readJson(new TextDecoder().decode(bytes));
  if (!read.ok) throw new Problem(400, 'The body isn’t JSON', { errors: read.faults });
  const body = schema.safeParse(read.value);
  if (body.success) return body.data;
  const errors = body.error.issues.map(({ path, message }) => ({ path: path.join('.'), message }));
  throw new Problem(422, 'The body cannot be taken', { errors });
}

/** The file that the body holds, judged. */
async function fileOf(request: Request, kind: DocumentKind): Promise<JudgedBody> {
  needsJson(request);
  // Only complete bodies take a place: a stalled one blocks nobody.
  const bytes = await bytesOf(request, documentKinds[kind].largest, `A ${kind}`);
  const work = () => judgeBody(bytes, kind);
  return isLarge(bytes.length) ? insideCourt(work) : work();
}
