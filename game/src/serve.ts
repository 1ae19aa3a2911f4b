import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { build } from 'esbuild';
import type { Fault } from './carrier.ts';

/** What the page is to link to, and its faults. */
export interface PageOptions {
  /** WebSocket address of Zygopod's link. */
  address: string;
  token?: string | undefined;
  faults: readonly Fault[];
}

const ground = join(import.meta.dirname, '../../demo/boardwalk.ground.json');
/** For text inside of a script element. */
const embedded = (value: unknown) => JSON.stringify(value).replaceAll('<', '\\u003c');

async function script(): Promise<string> {
  const { outputFiles } = await build({
    entryPoints: [join(import.meta.dirname, 'page.ts')],
    bundle: true,
    format: 'esm',
    write: false,
    logLevel: 'silent',
  });
  return outputFiles[0]?.text ?? '';
}

/** Serves the game on loopback until it is closed. */
export async function serveGame(port: number, options: PageOptions): Promise<{ address: string; close(): Promise<void> }> {
  const page = readFileSync(join(import.meta.dirname, 'page.html'), 'utf8').replace(
    '<!-- game -->',
    `<script type="module">window.run = ${embedded({ ...options, town: JSON.parse(readFileSync(ground, 'utf8')) })};\n${(await script()).replaceAll('</script', '<\\/script')}</script>`,
  );
  const server = createServer((request, response) => {
    const isPage = request.method === 'GET' && (request.url ?? '').split('?')[0] === '/';
    response.writeHead(isPage ? 200 : 404, {
      'content-type': isPage ? 'text/html; charset=utf-8' : 'text/plain',
      'cache-control': 'no-store',
    });
    response.end(isPage ? page : 'There is nothing at this address.\n');
  });
  await new Promise<void>((listens, fails) => {
    server.once('error', fails);
    server.listen(port, '127.0.0.1', listens);
  });
  const close = () =>
    new Promise<void>((closed) => {
      server.close(() => closed());
      server.closeAllConnections();
    });
  return { address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`, close };
}
