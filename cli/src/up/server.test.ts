import { createServer } from 'node:http';
import { describe, expect, it } from 'vitest';
import { Misuse } from '../misuse.ts';
import { freePort, healthy } from './server.ts';

/** A server that listens after a time, and answers with a status and a text. */
async function slowServer(after: number, status: number, text: string): Promise<{ address: string; close(): void }> {
  const port = await freePort();
  const server = createServer((_, answer) => answer.writeHead(status).end(text));
  const timer = setTimeout(() => server.listen(port, '127.0.0.1'), after);
  const close = () => {
    clearTimeout(timer);
    server.closeAllConnections();
    server.close();
  };
  return { address: `http://127.0.0.1:${port}`, close };
}

/** Returns what was thrown, or undefined. */
async function outcome(after: number, status: number, text: string, patience: number, firstAnswer: number): Promise<unknown> {
  const server = await slowServer(after, status, text);
  try {
    return await healthy(server.address, undefined, patience, new AbortController().signal, firstAnswer).catch((error: unknown) => error);
  } finally {
    server.close();
  }
}

describe('waiting for a server', () => {
  it('waits for its first answer longer than it lets it say that it is not healthy', async () => {
    const [slow, silent, down, full] = await Promise.all([
      outcome(600, 200, '{"status":"ok"}', 150, 10_000),
      outcome(60_000, 200, '', 150, 400),
      outcome(300, 503, '{"database":"down"}', 400, 60_000),
      outcome(0, 503, '{"database":"full"}', 60_000, 60_000),
    ]);
    expect(slow).toBeUndefined();
    expect(full).toBeUndefined();
    expect(silent).toEqual(new Misuse('The server did not become healthy: no answer'));
    expect(down).toEqual(new Misuse('The server did not become healthy: {"database":"down"}'));
  });
});
