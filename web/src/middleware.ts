import { defineMiddleware } from 'astro:middleware';
import { randomUUID, timingSafeEqual } from 'node:crypto';
import { isKnownHost } from './server/hosts.ts';
import { log } from './server/log.ts';
import { Problem } from './server/problem.ts';

const COOKIE = 'zygopod-token';
const READING = new Set(['GET', 'HEAD', 'OPTIONS']);

function matches(given: string | undefined, token: string): boolean {
  const a = Buffer.from(given ?? '');
  const b = Buffer.from(token);
  return a.length === b.length && timingSafeEqual(a, b);
}

/** Every request: an id, the access token where one is set, the origin of writes, and headers that close what is not used. */
export const onRequest = defineMiddleware(async (context, next) => {
  const started = performance.now();
  const { request, url, cookies, locals } = context;
  locals.requestId = randomUUID();

  const answer = async (): Promise<Response> => {
    if (!isKnownHost(request.headers.get('host'), process.env['HOST']))
      return new Problem(421, 'This server does not answer to that host name').response();
    const token = process.env['ZYGOPOD_TOKEN'];
    if (token) {
      const asked = url.searchParams.get('token') ?? undefined;
      if (asked !== undefined && matches(asked, token)) {
        cookies.set(COOKIE, token, { httpOnly: true, sameSite: 'strict', path: '/' });
        url.searchParams.delete('token');
        return context.redirect(`${url.pathname}${url.search}`);
      }
      const bearer = /^Bearer (.+)$/.exec(request.headers.get('authorization') ?? '')?.[1];
      if (!matches(bearer ?? cookies.get(COOKIE)?.value, token))
        return new Problem(401, 'An access token is needed: open the address with ?token=…').response();
    }
    const origin = request.headers.get('origin');
    if (!READING.has(request.method) && origin !== null && origin !== `${url.protocol}//${request.headers.get('host')}`)
      return new Problem(403, 'Writes from another origin are refused').response();
    return next();
  };

  const response = await answer();
  response.headers.set('x-request-id', locals.requestId);
  response.headers.set('x-content-type-options', 'nosniff');
  response.headers.set('referrer-policy', 'same-origin');
  response.headers.set('cross-origin-opener-policy', 'same-origin');
  response.headers.set('x-frame-options', 'DENY');
  if (!response.headers.has('content-security-policy'))
    response.headers.set('content-security-policy', "default-src 'none'; frame-ancestors 'none'");
  log.info({
    request: locals.requestId,
    method: request.method,
    path: url.pathname,
    status: response.status,
    milliseconds: Math.round(performance.now() - started),
  });
  return response;
});
