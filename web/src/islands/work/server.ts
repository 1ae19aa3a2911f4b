/** What the server said, or in words why there is no answer. */
export type Answered<T> = { body: T } | { why: string; status: number; problem: Record<string, unknown> };

/** Milliseconds for which a request that made something is the same as the one before: the second click of two. */
const SAME = 800;

/** Requests that make something, while they are under way; and their keys, until a moment after they were answered. */
const underWay = new Map<string, Promise<Answered<unknown>>>();
const keys = new Map<string, string>();

const newKey = () => [...crypto.getRandomValues(new Uint32Array(4))].map((word) => word.toString(36)).join('-');

/**
 * Asks the application's server for something; a body goes as JSON. A POST with a body makes something, and brings an idempotency key: the same
 * one asked twice at once, or again after a lost answer, is done once.
 */
export function askServer<T = Record<string, unknown>>(
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<Answered<T>> {
  // What brings a key of its own is told apart by that alone.
  if (method !== 'POST' || body === undefined || headers['idempotency-key']) return send<T>(method, path, body, headers);
  const name = JSON.stringify([path, body]);
  const same = underWay.get(name);
  if (same) return same as Promise<Answered<T>>;
  const key = keys.get(name) ?? newKey();
  keys.set(name, key);
  const asked = send<T>(method, path, body, { ...headers, 'idempotency-key': key }).then((answer) => {
    underWay.delete(name);
    // Without an answer nobody knows whether it was done: the next try is the same request.
    if ('body' in answer) setTimeout(() => keys.delete(name), SAME);
    else if (answer.status > 0 && answer.status < 500) keys.delete(name);
    return answer;
  });
  underWay.set(name, asked);
  return asked;
}

async function send<T>(method: string, path: string, body: unknown, headers: Record<string, string>): Promise<Answered<T>> {
  try {
    const response = await fetch(path, {
      method,
      headers: body === undefined ? headers : { 'content-type': 'application/json', ...headers },
      body: body === undefined ? null : JSON.stringify(body),
    });
    const told = (await response.json().catch(() => ({}))) as T & { title?: string };
    if (response.ok) return { body: told };
    const why = `${told.title ?? `The server answered ${response.status}`}.`;
    return { why, status: response.status, problem: told as Record<string, unknown> };
  } catch {
    return { why: 'The server cannot be reached.', status: 0, problem: {} };
  }
}

/** Why something was not done; null where it was. */
export const whyOf = (answer: Answered<unknown>): string | null => ('why' in answer ? answer.why : null);
