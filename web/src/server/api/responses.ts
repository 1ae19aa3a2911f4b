import { jsonText } from '../data/rawJson.ts';
import type { Problem } from '../problem.ts';

/** The length of a text as it is sent: a short one is not worth compressing. */
const lengthOf = (text: string) => ({ 'content-length': String(Buffer.byteLength(text)) });

/** An answer with JSON, and, where it has one, its entity tag. */
export function json(body: unknown, init: { status?: number; etag?: string; location?: string; type?: string } = {}): Response {
  const text = jsonText(body);
  const headers = new Headers({ ...lengthOf(text), 'content-type': init.type ?? 'application/json', 'cache-control': 'private, no-cache' });
  if (init.etag !== undefined) headers.set('etag', `"${init.etag}"`);
  if (init.location !== undefined) headers.set('location', init.location);
  return new Response(text, { status: init.status ?? 200, headers });
}

/**
 * A response whose parts are generated as fast as the client reads them. The first part is generated before the response begins, so that its
 * failure is a problem; a later one cuts the response short.
 */
export async function streamed(parts: AsyncGenerator<string>, headers: Record<string, string>): Promise<Response> {
  const encoder = new TextEncoder();
  let first: IteratorResult<string> | null = await parts.next();
  const body = new ReadableStream<Uint8Array>({
    async pull(controller) {
      const part = first ?? (await parts.next());
      first = null;
      if (part.done) controller.close();
      else controller.enqueue(encoder.encode(part.value));
    },
    async cancel() {
      await parts.return(undefined);
    },
  });
  return new Response(body, { headers });
}

export const done = () => new Response(null, { status: 204 });

/** The answer that a problem gives. */
export function problemResponse({ status, message, members }: Problem): Response {
  const { allow, retryAfter, ...rest } = members;
  const text = jsonText({ type: 'about:blank', title: message, status, ...rest });
  const headers = new Headers({ ...lengthOf(text), 'content-type': 'application/problem+json', 'cache-control': 'no-store' });
  if (typeof allow === 'string') headers.set('allow', allow);
  // What is left of a body that nobody reads would be taken for the next request.
  if (status === 408 || status === 413) headers.set('connection', 'close');
  if (typeof retryAfter === 'number') headers.set('retry-after', String(retryAfter));
  return new Response(text, { status, headers });
}
