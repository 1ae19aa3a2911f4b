/** Why a request wasn't done, by what can be done about it. */
export type Refusal =
  /** The document was archived, or is gone for good. */
  | 'archived'
  | 'gone'
  /** An access token is needed; or writes from this address aren't taken. */
  | 'unauthorised'
  | 'forbidden'
  /** The file is too large, or not valid. */
  | 'tooLarge'
  | 'invalid'
  /** The server has a fault. */
  | 'failed';

export type Answer =
  | { ok: true; body: Record<string, unknown> }
  | { ok: false; status: number; why: string; body: Record<string, unknown>; retryAfter: number };

/** Bytes that a request may carry which has to outlive its page: browsers refuse more than 64 KB. */
const OUTLIVES = 60_000;

/** Milliseconds after which a server that says nothing is as good as away. */
const PATIENCE = 20_000;

/** Asks the server; `version` is the one that was seen last (0: none). */
export async function request(method: string, path: string, body?: unknown, version?: number): Promise<Answer> {
  const headers: Record<string, string> = {};
  if (body !== undefined) headers['content-type'] = 'application/json';
  if (version === 0) headers['if-none-match'] = '*';
  else if (version !== undefined) headers['if-match'] = `"${version}"`;
  const text = body === undefined ? null : JSON.stringify(body);
  const small = text !== null && new Blob([text]).size < OUTLIVES;
  try {
    const signal = AbortSignal.timeout(PATIENCE);
    const response = await fetch(path, { method, headers, body: text, keepalive: method === 'PUT' && small, signal });
    const content = (await response.json().catch(() => ({}))) as Record<string, unknown>;
    if (response.ok) return { ok: true, body: content };
    const retryAfter = 1000 * (Number(response.headers.get('retry-after')) || 0);
    return {
      ok: false,
      status: response.status,
      why: `${content['title'] ?? `The server answered ${response.status}`}.`,
      body: content,
      retryAfter,
    };
  } catch (error) {
    const isSlow = error instanceof DOMException && error.name === 'TimeoutError';
    return { ok: false, status: 0, why: `The server ${isSlow ? 'does not answer' : 'cannot be reached'}.`, body: {}, retryAfter: 0 };
  }
}

/** Statuses of a server that is away, or has no time, for now. */
const AWAY = new Set([0, 408, 425, 429, 502, 503, 504]);

/** What kind of refusal an answer is; null where the server is only away. */
export function refusalOf({ status, body }: Extract<Answer, { ok: false }>): Refusal | null {
  if (AWAY.has(status)) return null;
  if (status === 404 || status === 410) return body['putAwayAt'] ? 'archived' : 'gone';
  if (status === 401) return 'unauthorised';
  if (status === 403 || status === 421) return 'forbidden';
  if (status === 413) return 'tooLarge';
  return status >= 500 ? 'failed' : 'invalid';
}

/** Refusals that the same request may not meet a moment later, and those that another file may not meet. */
export const mayPass = (refusal: Refusal): boolean => refusal === 'failed';
export const isAboutFile = (refusal: Refusal): boolean => refusal === 'tooLarge' || refusal === 'invalid' || refusal === 'failed';
