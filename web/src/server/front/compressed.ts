import type { IncomingMessage, ServerResponse } from 'node:http';
import { constants } from 'node:zlib';
import compression from 'compression';
import onHeaders from 'on-headers';

/** Bytes from which an answer is compressed. */
const LEAST = 1024;
/** Speed before size: an answer is compressed once, and read once. */
const QUALITY = 4;

/** Answers that are compressed: JSON of any kind, pages and tables; never streams of events, which would wait in the compressor. */
const COMPRESSED = /^(application\/([\w.-]+\+)?json|text\/(html|csv|plain|markdown))\b/i;

type Handle = (request: IncomingMessage, response: ServerResponse, next: () => void) => void;

const compress = compression({
  threshold: LEAST,
  filter: (_request, response) =>
    response.statusCode !== 304 && COMPRESSED.test(String((response as ServerResponse).getHeader('content-type') ?? '')),
  level: QUALITY,
  brotli: { params: { [constants.BROTLI_PARAM_QUALITY]: QUALITY } },
}) as unknown as Handle;

/** Suffix of an entity tag by the encoding of its response: `"3-br"`. */
const ENDING = /-(?:br|gzip|deflate)"/g;

/**
 * Compresses the answer by `answer` as the reader accepts it. Each encoding of an answer has an entity tag of its own (RFC 9110, 8.8.3.3); the
 * application knows none of them: conditions arrive without, and answers leave with their encoding.
 */
export function compressed(request: IncomingMessage, response: ServerResponse, answer: () => unknown): unknown {
  const known = request.headers['if-none-match'];
  for (const name of ['if-match', 'if-none-match'] as const) {
    const tags = request.headers[name];
    if (tags) request.headers[name] = tags.replace(ENDING, '"');
  }
  // Listeners are called in reverse order: this one after the compressor has chosen.
  onHeaders(response, () => {
    const tag = response.getHeader('etag');
    if (typeof tag !== 'string') return;
    const encoding = response.getHeader('content-encoding');
    if (typeof encoding === 'string') response.setHeader('etag', `${tag.slice(0, -1)}-${encoding}"`);
    else if (response.statusCode === 304) response.setHeader('etag', sameTag(tag, known));
  });
  let answered: unknown;
  compress(request, response, () => {
    answered = answer();
  });
  return answered;
}

/** The tag of an answer that the reader has already, as the reader knows it. */
function sameTag(tag: string, known = ''): string {
  const start = `${tag.slice(0, -1)}-`;
  return (
    known
      .split(',')
      .map((one) => one.trim())
      .find((one) => one.startsWith(start) && one.search(ENDING) === start.length - 1) ?? tag
  );
}
