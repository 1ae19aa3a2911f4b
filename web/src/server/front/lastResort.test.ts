import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { afterAll, beforeAll, expect, it } from 'vitest';

/** A server in a process of its own; an answer's path names its kind of failure. */
const program = `
  import { createServer } from 'node:http';
  import { answered } from ${JSON.stringify(new URL('lastResort.ts', import.meta.url).href)};
  import { exceptions } from ${JSON.stringify(new URL('../exceptions.ts', import.meta.url).href)};
  const fail = () => { throw new Error('secret words'); };
  const ways = {
    '/now': fail,
    '/later': async () => { await null; fail(); },
    '/timer': () => { setTimeout(fail, 1); },
    '/listener': (request) => { request.on('close', fail); request.resume(); request.on('end', fail); },
    '/rejection': () => { void Promise.reject(new Error('secret words')); },
    '/half': (_, response) => { response.write('half'); setTimeout(fail, 20); },
    '/count': (_, response) => { response.end(String(exceptions())); },
  };
  createServer((request, response) => answered(response, () => ways[request.url](request, response)))
    .listen(0, '127.0.0.1', function () { console.log(this.address().port); });
`;

let server: ReturnType<typeof spawn>;
let address = '';
beforeAll(async () => {
  server = spawn(process.execPath, ['--input-type=module', '-e', program], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: { ...process.env, LOG_LEVEL: 'silent' },
  });
  const [port] = (await once(server.stdout as never, 'data')) as [Buffer];
  address = `http://127.0.0.1:${String(port).trim()}`;
});
afterAll(() => {
  server.kill();
});

const count = async () => Number(await (await fetch(`${address}/count`)).text());

it.each(['/now', '/later', '/timer', '/listener', '/rejection'])('an exception at %s is answered with 500 and counted', async (path) => {
  const before = await count();
  const answer = await fetch(`${address}${path}`);
  const text = await answer.text();
  expect(answer.status).toBe(500);
  expect(answer.headers.get('content-type')).toBe('application/problem+json');
  expect(text).not.toContain('secret');
  expect(await count()).toBeGreaterThan(before);
});

it('one in the middle of an answer ends that answer alone', async () => {
  await expect(fetch(`${address}/half`).then((answer) => answer.text())).rejects.toThrow();
  expect(await count()).toBeGreaterThan(0);
  expect(server.exitCode).toBeNull();
});
