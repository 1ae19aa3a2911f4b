import { AsyncLocalStorage } from 'node:async_hooks';
import type { ServerResponse } from 'node:http';
import { countException } from '../exceptions.ts';
import { log } from '../log.ts';

/** The current answer, for everything started during it. */
const underWay = new AsyncLocalStorage<ServerResponse>();

/** Ends a failed answer: with a problem, or, if it is half sent, by closing the connection. */
function fail(response: ServerResponse | undefined): void {
  if (!response || response.writableEnded) return;
  if (response.headersSent) {
    response.destroy();
    return;
  }
  const body = JSON.stringify({ type: 'about:blank', title: 'The server failed; the fault is in its log', status: 500 });
  response.writeHead(500, { 'content-type': 'application/problem+json', connection: 'close' }).end(body);
}

function count(error: unknown): void {
  const exceptions = countException();
  log.error({ error: error instanceof Error ? error.stack : String(error), exceptions }, 'an exception that nothing else caught');
}

/** Runs the handler of a request; an exception, now or later, ends that answer alone and never the process. */
export function answered(response: ServerResponse, answer: () => unknown): void {
  underWay.run(response, async () => {
    try {
      await answer();
    } catch (error) {
      count(error);
      fail(response);
    }
  });
}

/** The last resort for exceptions outside of any awaited call, in a listener or a timer. */
for (const event of ['uncaughtException', 'unhandledRejection'] as const)
  process.on(event, (error: unknown) => {
    count(error);
    fail(underWay.getStore());
  });
