import { largest } from '@zygopod/core';
import { database } from '../data/database.ts';
import { insideCourt, isLarge, judgeBody } from '../judge/court.ts';
import type { JudgedBody } from '../judge/judge.ts';
import type { Kind } from '../kinds.ts';
import { Problem } from '../problem.ts';
import { isUnchanged } from './conditions.ts';
import { problemOf } from './failures.ts';
import { Matcher } from './match.ts';
import { collections, type Operation, parameters } from './operation.ts';
import { operations } from './operations/index.ts';
import { problemResponse } from './responses.ts';

const matcher = new Matcher(operations);
const BASE = '/api/v1';

/** Answers a request to the API: a problem for whatever is wrong with it, or goes wrong. */
export async function answer(request: Request, url: URL, requestId: string): Promise<Response> {
  try {
    const response = await answerWell(request, url);
    return request.method === 'HEAD' ? new Response(null, response) : response;
  } catch (error) {
    return problemResponse(problemOf(error, requestId));
  }
}

async function answerWell(request: Request, url: URL): Promise<Response> {
  const match = matcher.find(pathOf(url));
  if (!match) throw new Problem(404, 'There is nothing here', { path: url.pathname });
  const { methods, values } = match;
  const allow = ['OPTIONS', ...(methods.has('GET') ? ['HEAD'] : []), ...methods.keys()].join(', ');
  if (request.method === 'OPTIONS') return new Response(null, { status: 204, headers: { allow } });
  const operation = methods.get(request.method === 'HEAD' ? 'GET' : request.method);
  if (!operation) throw new Problem(405, `This can be asked with ${allow}`, { allow });
  const { kind, id, number } = placeOf(values);
  const query = queryOf(operation, url);
  const response = await operation.run({
    request,
    // Where the document is found, without a slash at the end.
    url: new URL(url.pathname.replace(/\/+$/, ''), url),
    query,
    kind,
    id,
    number,
    database,
    file: () => fileOf(request, kind),
  });
  const isRead = operation.method === 'GET' && response.status === 200;
  if (!isRead || !isUnchanged(request.headers, response.headers.get('etag'))) return response;
  response.headers.delete('content-type');
  return new Response(null, { status: 304, headers: response.headers });
}

/** The path below the API's base; the server's health is told outside of its versions too. */
function pathOf({ pathname }: URL): string {
  if (pathname === '/api/health') return '/health';
  return pathname.startsWith(`${BASE}/`) ? pathname.slice(BASE.length) : '';
}

/** What the parameters in the path say. */
function placeOf(values: Record<string, string>): { kind: Kind; id: string; number: number } {
  const place = { kind: 'tuning' as Kind, id: '', number: 0 };
  if (values['kind'] !== undefined) {
    const kind = parameters.kind.safeParse(values['kind']);
    if (!kind.success) throw new Problem(404, `Unknown collection; there are ${parameters.kind.options.join(', ')}`);
    place.kind = collections[kind.data];
  }
  if (values['format'] !== undefined) {
    const format = parameters.format.safeParse(values['format']);
    if (!format.success) throw new Problem(404, `There are schemas of ${parameters.format.options.join(', ')}`);
    place.kind = format.data;
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
  const asked = query.safeParse(Object.fromEntries(url.searchParams));
  if (asked.success) return asked.data;
  const errors = asked.error.issues.map(({ path, message }) => ({ path: path.join('.'), message }));
  throw new Problem(400, 'The search cannot be read', { errors });
}

/** The file that the body holds, judged. */
async function fileOf(request: Request, kind: Kind): Promise<JudgedBody> {
  if (!/^application\/json\s*(;|$)/i.test(request.headers.get('content-type') ?? ''))
    throw new Problem(415, 'The body has to be application/json');
  const announced = Number(request.headers.get('content-length') ?? Infinity);
  const work = async () => judgeBody(await bytesOf(request, kind), kind);
  return isLarge(Math.min(announced, largest[kind])) ? insideCourt(work) : work();
}

/** The body's bytes, refused when more than the kind allows, even if no length was announced. */
async function bytesOf(request: Request, kind: Kind): Promise<Uint8Array<ArrayBuffer>> {
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of request.body ?? []) {
    size += chunk.length;
    if (size > largest[kind]) throw new Problem(413, `A ${kind} has at most ${largest[kind]} bytes`);
    chunks.push(chunk);
  }
  const bytes = new Uint8Array(size);
  let at = 0;
  for (const chunk of chunks) {
    bytes.set(chunk, at);
    at += chunk.length;
  }
  return bytes;
}
