import { timingSafeEqual } from 'node:crypto';
import type { IncomingHttpHeaders } from 'node:http';
import { isKnownHost } from './hosts.ts';

/** The cookie that holds the access token. */
const COOKIE = 'zygopod-token';

const READING = new Set(['GET', 'HEAD', 'OPTIONS']);
/** Methods that no program here may see, because they hand a request's own headers back, or connect elsewhere. */
const CLOSED = new Set(['TRACE', 'TRACK', 'CONNECT']);

/** Maximum size of a body, bytes: the largest tape, and a little for the rest of the request. */
export const LARGEST_BODY = 32 * 1024 * 1024;

/** The gate's view of a request. */
export interface Arrival {
  method: string;
  url: string;
  headers: IncomingHttpHeaders;
}

/** Conditions of access: the host that the server listens on, and the access token if one is set. */
export interface House {
  host: string | undefined;
  token: string | undefined;
}

/** Passed; sent elsewhere, with the token as a cookie from there on; or refused. */
export type Passage =
  | { kind: 'in' }
  | { kind: 'redirect'; to: string; cookie: string }
  | { kind: 'refused'; status: number; title: string; headers?: Record<string, string> };

const refused = (status: number, title: string, headers?: Record<string, string>): Passage => ({
  kind: 'refused',
  status,
  title,
  ...(headers ? { headers } : {}),
});

function isToken(given: string | undefined, token: string): boolean {
  const [a, b] = [Buffer.from(given ?? ''), Buffer.from(token)];
  return a.length === b.length && timingSafeEqual(a, b);
}

function cookieOf(headers: IncomingHttpHeaders): string | undefined {
  for (const pair of (headers.cookie ?? '').split(';')) {
    const at = pair.indexOf('=');
    if (pair.slice(0, at).trim() !== COOKIE) continue;
    try {
      return decodeURIComponent(pair.slice(at + 1).trim());
    } catch {
      return undefined;
    }
  }
  return undefined;
}

/** The host of addresses that are parsed here; only their path and query matter. */
const HERE = 'http://here';

/** The address of a request, or null where it isn't a well-encoded path on this host. */
function addressOf(url: string): URL | null {
  try {
    // A path that begins with two slashes, or with a slash and a backslash, would be read as another host's.
    if (!/^\/(?![/\\])/.test(url) || decodeURIComponent(url).includes('\0')) return null;
    return new URL(url, HERE);
  } catch {
    return null;
  }
}

/** Paths of the framework's own endpoints, none of which the application uses. */
const isInternal = ({ pathname }: URL) => pathname.startsWith('/_') && !pathname.startsWith('/_astro/');

/** Judges every request before anything else sees it, files of the application included. */
export function passage(arrival: Arrival, house: House): Passage {
  const { method, url, headers } = arrival;
  if (!isKnownHost(headers.host ?? null, house.host)) return refused(421, 'This server does not answer to that host name');
  if (CLOSED.has(method) || !(READING.has(method) || url.startsWith('/api/')))
    return refused(405, `Pages are only read`, { allow: 'GET, HEAD, OPTIONS' });
  const address = addressOf(url);
  if (!address) return refused(400, 'The address is not a path, or not well encoded');
  const unknown = isInternal(address) ? refused(404, 'Nothing exists at this address') : null;
  return (
    (house.token === undefined ? null : tokenPassage(arrival, address, house.token)) ?? unknown ?? writePassage(arrival) ?? { kind: 'in' }
  );
}

/** Requires the token; one in the address is stored as a cookie and removed from the address. */
function tokenPassage({ headers }: Arrival, url: URL, token: string): Passage | null {
  const given = url.searchParams.get('token');
  if (given !== null && isToken(given, token)) {
    url.searchParams.delete('token');
    return {
      kind: 'redirect',
      to: `${url.pathname}${url.search}`,
      cookie: `${COOKIE}=${encodeURIComponent(token)}; HttpOnly; SameSite=Strict; Path=/`,
    };
  }
  const bearer = /^Bearer +(.+)$/i.exec(headers.authorization ?? '')?.[1];
  if (isToken(bearer ?? cookieOf(headers), token)) return null;
  return refused(401, 'An access token is needed: open the address with ?token=…', { 'www-authenticate': 'Bearer' });
}

/** A write comes from a page of this server, or from a program: that sends JSON, and no cookie. */
function writePassage({ method, headers }: Arrival): Passage | null {
  if (READING.has(method)) return null;
  const { origin, host } = headers;
  const site = headers['sec-fetch-site'];
  if (origin !== undefined ? origin !== `http://${host}` : headers.cookie !== undefined)
    return refused(403, 'Writes from another origin, or with a cookie and of no origin, are refused');
  if (site !== undefined && site !== 'same-origin' && site !== 'none') return refused(403, 'Writes from another site are refused');
  if (Number(headers['content-length'] ?? 0) > LARGEST_BODY) return refused(413, `A body has at most ${LARGEST_BODY} bytes`);
  const hasBody = headers['content-length'] !== undefined ? headers['content-length'] !== '0' : headers['transfer-encoding'] !== undefined;
  if (hasBody && !/^application\/json\s*(;|$)/i.test(headers['content-type'] ?? ''))
    return refused(415, 'The body has to be application/json');
  return null;
}
