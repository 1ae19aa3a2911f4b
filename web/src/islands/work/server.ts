/** Kinds of failure of a request, by what can be done about it. */
export type Refusal =
  /** The document was archived, or is gone for good. */
  | 'archived'
  | 'gone'
  /** An access token is needed, or writes from this address are refused. */
  | 'unauthorised'
  | 'forbidden'
  /** The request is too large or not valid. */
  | 'tooLarge'
  | 'invalid'
  /** The server has a fault. */
  | 'failed';

/** A request that was not done: why, in words, with the members of the server's problem (RFC 9457) and the milliseconds that it asks to wait. */
export interface Failure {
  /** Besides refusals: somebody else was first; there is no server, or it has no time; the page asks no more. */
  is: Refusal | 'conflict' | 'offline' | 'aborted';
  /** 0: there was no answer. */
  status: number;
  why: string;
  problem: Readonly<Record<string, unknown>>;
  retryAfter: number;
}

/** The server's response, or why there is none. */
export type Outcome<T = Record<string, unknown>> = { is: 'ok'; body: T } | Failure;

interface Asking {
  /** Goes as JSON. */
  body?: unknown;
  /** The version that was seen last (0: none): the request is done on top of that alone. */
  seen?: number | undefined;
  headers?: Readonly<Record<string, string>>;
  /** Milliseconds after which a server that says nothing is as good as away. */
  patience?: number;
  /** True if the request has to outlive its page. */
  outlives?: boolean;
  /** Ends the request. */
  signal?: AbortSignal;
}

/** Bytes that a request may carry which has to outlive its page: browsers refuse more than 64 KB. */
const OUTLIVES = 60_000;

/** Statuses of a server that is away, or has no time, for now. */
const AWAY = new Set([408, 425, 429, 502, 503, 504]);

function kindOf(status: number, problem: Readonly<Record<string, unknown>>): Failure['is'] {
  if (AWAY.has(status)) return 'offline';
  if (status === 409 || status === 412) return 'conflict';
  if (status === 404 || status === 410) return problem['putAwayAt'] ? 'archived' : 'gone';
  if (status === 401) return 'unauthorised';
  if (status === 403 || status === 421) return 'forbidden';
  if (status === 413) return 'tooLarge';
  return status >= 500 ? 'failed' : 'invalid';
}

const versionHeaders = (seen: number | undefined): Record<string, string> =>
  seen === undefined ? {} : seen === 0 ? { 'if-none-match': '*' } : { 'if-match': `"${seen}"` };

/** Sends a request to the application's server, once. */
export async function send<T = Record<string, unknown>>(
  method: string,
  path: string,
  { body, seen, headers, patience, outlives = false, signal }: Asking = {},
): Promise<Outcome<T>> {
  const text = body === undefined ? null : JSON.stringify(body);
  const signals = [...(patience === undefined ? [] : [AbortSignal.timeout(patience)]), ...(signal ? [signal] : [])];
  try {
    const response = await fetch(path, {
      method,
      headers: { ...(text === null ? {} : { 'content-type': 'application/json' }), ...versionHeaders(seen), ...headers },
      body: text,
      keepalive: outlives && text !== null && new Blob([text]).size < OUTLIVES,
      ...(signals.length > 0 ? { signal: AbortSignal.any(signals) } : {}),
    });
    const answered = (await response.json().catch(() => ({}))) as T & { title?: string };
    if (response.ok) return { is: 'ok', body: answered };
    const problem = answered as Record<string, unknown>;
    return {
      is: kindOf(response.status, problem),
      status: response.status,
      why: `${answered.title ?? `The server answered ${response.status}`}.`,
      problem,
      retryAfter: 1000 * (Number(response.headers.get('retry-after')) || 0),
    };
  } catch (error) {
    const isSlow = error instanceof DOMException && error.name === 'TimeoutError';
    const why = `The server ${isSlow ? 'does not answer' : 'cannot be reached'}.`;
    return { is: signal?.aborted ? 'aborted' : 'offline', status: 0, why, problem: {}, retryAfter: 0 };
  }
}

/** Time (ms) in which an identical creating request counts as a double click. */
const SAME = 800;

/** Pending requests that create something, and their keys until shortly after the response. */
const underWay = new Map<string, Promise<Outcome<unknown>>>();
const keys = new Map<string, string>();

const newKey = () => [...crypto.getRandomValues(new Uint32Array(4))].map((word) => word.toString(36)).join('-');

/**
 * Sends a request to the application's server. A POST with a body creates something, and carries an idempotency key: the same one sent twice at once,
 * or again after a lost answer, is done once.
 */
export function askServer<T = Record<string, unknown>>(method: string, path: string, asking: Asking = {}): Promise<Outcome<T>> {
  const { body, headers = {} } = asking;
  // Requests with their own key are distinguished by that key only.
  if (method !== 'POST' || body === undefined || headers['idempotency-key']) return send<T>(method, path, asking);
  const name = JSON.stringify([path, body]);
  const same = underWay.get(name);
  if (same) return same as Promise<Outcome<T>>;
  const key = keys.get(name) ?? newKey();
  keys.set(name, key);
  const pending = send<T>(method, path, { ...asking, headers: { ...headers, 'idempotency-key': key } }).then((answer) => {
    underWay.delete(name);
    // Without an answer nobody knows whether it was done: the next try is the same request.
    if (answer.is === 'ok') setTimeout(() => keys.delete(name), SAME);
    else if (answer.status > 0 && answer.status < 500) keys.delete(name);
    return answer;
  });
  underWay.set(name, pending);
  return pending;
}

/** Why something was not done; null if it was. */
export const whyOf = (answer: Outcome<unknown>): string | null => (answer.is === 'ok' ? null : answer.why);

/** Gives the server an access token, which it keeps as a cookie; whether that is the right one. */
export const signIn = async (token: string): Promise<boolean> =>
  (await fetch(`/favicon.svg?${new URLSearchParams({ token })}`).catch(() => null))?.ok ?? false;
