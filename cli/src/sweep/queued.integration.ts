import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, beforeAll, describe, expect, inject, it } from 'vitest';
import '../../../testing/provided.ts';
import { ownDatabase } from '../../../web/src/testing/ownServer.ts';
import { root } from '../root.ts';
import { freePort, startServer, stopServer } from '../up/server.ts';

/** A database of its own: a server of other tests may have workers, which would take these chunks. */
let databaseUrl: string;
beforeAll(async () => {
  databaseUrl = await ownDatabase();
});
const file = JSON.parse(readFileSync(join(root, 'demo/carrier-day-boots.tuning.json'), 'utf8')) as object;

/** A worker of any kind is silent for so long, at most, before its chunk is given to another (s). */
const RETAKEN = 15;

/** Clean-up after each test. */
const ends: (() => unknown)[] = [];
afterEach(async () => {
  for (const end of ends.splice(0).reverse()) await end();
});

/** A worker process on the test's database. */
function startWorker(env: Record<string, string> = {}): ChildProcess & { said: string } {
  const worker = spawn(process.execPath, [join(root, 'web/src/server/sweeps/main.ts')], {
    cwd: join(root, 'web'),
    env: { ...process.env, DATABASE_URL: databaseUrl, ...env },
    stdio: ['ignore', 'ignore', 'pipe'],
  }) as unknown as ChildProcess & { said: string };
  worker.said = '';
  worker.stderr?.on('data', (data) => {
    worker.said += data;
  });
  ends.push(async () => {
    if (worker.exitCode !== null || worker.signalCode !== null) return;
    const gone = once(worker, 'exit');
    worker.kill('SIGTERM');
    await gone;
  });
  return worker;
}

/** A server without workers of its own. */
async function serve() {
  const server = await startServer({ host: '127.0.0.1', port: await freePort(), databaseUrl, env: { ZYGOPOD_WORKERS: '0' } });
  ends.push(() => stopServer(server.process));
  return server;
}

const request = (over: string[], metrics: readonly string[]) => ({ tuning: file, over, metrics });

interface Run {
  id: string;
  state: string;
  done: number;
  chunks: number;
  workers: number;
  refusing: string[];
}
const call = async (address: string, path: string, method = 'GET', body?: object): Promise<Run> => {
  const answer = await fetch(`${address}/api/v1/sweep-runs${path}`, {
    method,
    headers: { 'content-type': 'application/json' },
    body: body ? JSON.stringify(body) : null,
  });
  if (!answer.ok) throw new Error(await answer.text());
  return (await answer.json()) as Run;
};

/** Waits until a run is as wanted; returns it, and the seconds that it took. */
async function until(address: string, id: string, isSo: (run: Run) => boolean): Promise<{ run: Run; seconds: number }> {
  const begun = performance.now();
  for (;;) {
    const run = await call(address, `/${id}`);
    if (isSo(run)) return { run, seconds: (performance.now() - begun) / 1000 };
    if (performance.now() - begun > 90_000) throw new Error(`the sweep stays ${JSON.stringify(run)}`);
    await new Promise((next) => setTimeout(next, 50));
  }
}

describe('a sweep on the queue', () => {
  it('gives the chunk of a killed worker to another within 15 s, is followed from any server, stops within 2 s, and continues', async () => {
    const server = await serve();
    const first = startWorker();
    const { id } = await call(
      server.address,
      '',
      'POST',
      request(['pace.walkSpeed=60:320:200', 'ramp.decelerate=300:4800:100:log'], ['tightestGap']),
    );
    await until(server.address, id, ({ workers }) => workers === 1);
    first.kill('SIGKILL');
    startWorker();
    const chunks = async () => {
      const answer = await fetch(`${server.address}/api/v1/sweep-runs/${id}/chunks?limit=200`);
      return ((await answer.json()) as { items: { number: number; place: number }[] }).items;
    };
    // The first chunk was the killed worker's.
    const begun = performance.now();
    while (!(await chunks()).some(({ number }) => number === 0)) await new Promise((next) => setTimeout(next, 100));
    expect((performance.now() - begun) / 1000).toBeLessThan(RETAKEN);
    // Another server on the database hears of it, too.
    const other = new AbortController();
    const second = await serve();
    const events = await fetch(`${second.address}/api/v1/sweep-runs/${id}/events`, { signal: other.signal });
    let heard = '';
    for await (const part of events.body as unknown as AsyncIterable<Uint8Array>) {
      heard += new TextDecoder().decode(part);
      if ((heard.match(/"chunks":\d+/g) ?? []).length >= 2) break;
    }
    other.abort();
    await call(server.address, `/${id}/stop`, 'POST');
    const stopped = await until(server.address, id, ({ workers }) => workers === 0);
    expect(stopped.seconds).toBeLessThan(4);
    const kept = await chunks();
    expect(stopped.run).toMatchObject({ state: 'stopped', chunks: kept.length });
    await call(server.address, `/${id}/resume`, 'POST');
    await until(server.address, id, (run) => run.chunks > kept.length);
    await call(server.address, `/${id}/stop`, 'POST');
    const places = (await chunks()).map(({ place }) => place);
    expect(places).toEqual(places.map((_, i) => i + 1));
  }, 300_000);

  it('is refused by workers of another core, which say so', async () => {
    const server = await serve();
    const worker = startWorker({ ZYGOPOD_CORE: '0.0.1+00000000' });
    const { id } = await call(server.address, '', 'POST', request(['pace.walkSpeed=60:320:40'], ['stopDistance']));
    const { run } = await until(server.address, id, ({ refusing }) => refusing.includes('0.0.1+00000000'));
    expect(run).toMatchObject({ state: 'running', chunks: 0, workers: 0 });
    while (!worker.said.includes(`refuses sweep ${id}`)) await new Promise((next) => setTimeout(next, 50));
    startWorker();
    await until(server.address, id, ({ state }) => state === 'done');
  }, 120_000);

  it('is refused at the door where it can’t be swept', async () => {
    const address = inject('address');
    const refused = async (body: object) => {
      const answer = await fetch(`${address}/api/v1/sweep-runs`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      });
      return [answer.status, ((await answer.json()) as { title: string }).title];
    };
    expect(await refused(request(['pace.nothing=1:2:3'], ['stopDistance']))).toEqual([
      422,
      expect.stringMatching(/^pace.nothing: found no such parameter/),
    ]);
    expect(await refused(request(['pace.walkSpeed=9:1:3'], ['stopDistance']))).toEqual([
      422,
      expect.stringMatching(/the first below the second/),
    ]);
    expect(await refused(request(['pace.walkSpeed=1:9:3'], ['stepTime']))).toEqual([
      422,
      expect.stringMatching(/^stepTime: doesn’t apply/),
    ]);
    expect(await refused({ ...request(['pace.walkSpeed=1:9:3'], ['stopTime']), tuning: { format: 'zygopod/tuning' } })).toEqual([
      422,
      expect.stringMatching(/^tuning: /),
    ]);
    expect((await refused({ over: [] }))[0]).toBe(422);
  });
});
