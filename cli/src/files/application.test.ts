import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { Application, Away } from './application.ts';

const ends: (() => unknown)[] = [];
afterEach(async () => {
  for (const end of ends.splice(0)) await end();
});

/** An application that answers requests in turn with a status and a delay to retry after. */
async function answering(...answers: [status: number, retryAfter?: string][]) {
  let requests = 0;
  const server = createServer((_, response) => {
    const [status, retryAfter] = answers[Math.min(requests++, answers.length - 1)] as [number, string?];
    response.writeHead(status, { 'content-type': 'application/json', ...(retryAfter ? { 'retry-after': retryAfter } : {}) });
    response.end('{"id":"one","name":"Yard"}');
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  ends.push(() => server.close());
  const { port } = server.address() as AddressInfo;
  return { app: new Application(`http://127.0.0.1:${port}`, undefined), requests: () => requests };
}

describe('a request', () => {
  it('is sent again when others were writing the same', async () => {
    const { app, requests } = await answering([503, '1'], [200]);
    expect(await app.project('one')).toMatchObject({ name: 'Yard' });
    expect(requests()).toBe(2);
  });

  it('is not sent again to a server whose database is away', async () => {
    const { app, requests } = await answering([503, '2'], [200]);
    await expect(app.project('one')).rejects.toThrow(Away);
    expect(requests()).toBe(1);
  });
});
