import { vi } from 'vitest';

/** A request as the page sends it. */
export interface Sent {
  method: string;
  path: string;
  query: Record<string, string>;
  headers: Record<string, string>;
  body: unknown;
}

type Answer = { status?: number; body?: unknown } | null;

/**
 * Stands in for the application's server in a test: answers each request by `serve`, and returns the list of requests. Null: no answer at all, as
 * from an unreachable server. Lasts until the test's globals are restored.
 */
export function fakeServer(serve: (request: Sent) => Answer | Promise<Answer>): Sent[] {
  const sent: Sent[] = [];
  vi.stubGlobal('fetch', async (address: string, init: RequestInit = {}) => {
    const { pathname, searchParams } = new URL(address, 'http://page');
    const request: Sent = {
      method: init.method ?? 'GET',
      path: pathname.replace(/^\/api\/v1/, ''),
      query: Object.fromEntries(searchParams),
      headers: Object.fromEntries(new Headers(init.headers)),
      body: typeof init.body === 'string' ? JSON.parse(init.body) : undefined,
    };
    sent.push(request);
    const answer = await serve(request);
    init.signal?.throwIfAborted();
    if (answer === null) throw new TypeError('away');
    const { status = 200, body } = answer;
    const text = typeof body === 'string' ? body : JSON.stringify(body ?? {});
    return new Response(status === 204 ? null : text, { status });
  });
  return sent;
}

/** Stands in for what a browser keeps between pages; gives what is in it. */
export function fakeStorage(): Map<string, string> {
  const kept = new Map<string, string>();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, text: string) => void kept.set(key, text),
    removeItem: (key: string) => void kept.delete(key),
  });
  return kept;
}

/** Stands in for the window of a page at an address; gives the addresses that it was sent to. */
export function fakeWindow(address: string): string[] {
  const went: string[] = [];
  const location = new URL(address, 'http://page') as unknown as Location;
  vi.stubGlobal('window', { location, history: { replaceState: (_: unknown, __: string, to: string) => went.push(to) } });
  return went;
}
