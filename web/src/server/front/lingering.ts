import type { IncomingMessage, ServerResponse } from 'node:http';

/** Milliseconds for which the rest of a refused body is read and discarded. */
const LINGER = 2000;

/**
 * Has an answer that closes its connection before all of the body was read close it late (RFC 9112, 9.6): a connection that is closed with
 * bytes unread is reset, and the reset may reach the sender before the answer does.
 */
export function lingering(request: IncomingMessage, response: ServerResponse): void {
  const end = response.end.bind(response) as (...args: unknown[]) => ServerResponse;
  response.end = ((...args: unknown[]) => {
    if (request.complete || request.destroyed || response.getHeader('connection') !== 'close') return end(...args);
    const [chunk] = args;
    if (chunk !== undefined && typeof chunk !== 'function') response.write(chunk as string);
    const done = () => {
      clearTimeout(timer);
      for (const event of ['end', 'close', 'error'] as const) request.off(event, done);
      if (!response.writableEnded) end();
    };
    const timer = setTimeout(done, LINGER);
    for (const event of ['end', 'close', 'error'] as const) request.on(event, done);
    request.resume();
    return response;
  }) as typeof response.end;
}
