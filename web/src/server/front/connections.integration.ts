import { connect, type Socket } from 'node:net';
import pg from 'pg';
import { afterAll, describe, expect, it, vi } from 'vitest';
import { freePort, startServer } from '../../../../cli/src/up/server.ts';
import { ownServer } from '../../testing/ownServer.ts';

const { address, databaseUrl, stop } = await ownServer();
afterAll(stop);
const api = `${address}/api/v1`;
const json = { 'content-type': 'application/json' };
const file = { format: 'zygopod/tuning', version: 2, name: 'Boots in a queue' };

async function created(kind: 'tunings' | 'grounds', body: object): Promise<string> {
  const answer = await fetch(`${api}/${kind}`, { method: 'POST', headers: json, body: JSON.stringify({ file: body }) });
  return ((await answer.json()) as { id: string }).id;
}

const ground = (name: string) => ({
  format: 'zygopod/ground',
  version: 1,
  name,
  size: { width: 64, height: 64 },
  start: { x: 9, y: 9 },
});

describe('listeners of changes', () => {
  it('that only look at the head of the answer, or go away, take no place', async () => {
    for (let i = 0; i < 230; i++) expect((await fetch(`${api}/changes`, { method: 'HEAD' })).status).toBe(200);
    for (let i = 0; i < 20; i++) {
      const over = new AbortController();
      const all = await Promise.all(Array.from({ length: 12 }, () => fetch(`${api}/changes`, { signal: over.signal })));
      expect(all.map(({ status }) => status).filter((status) => status !== 200)).toEqual([]);
      over.abort();
    }
  });
});

describe.concurrent('connections', () => {
  it('that are opened in advance and left alone are closed without a word; half a request is answered with 408, and other text with 400', async () => {
    const { hostname, port } = new URL(address);
    const sent = ['', '', 'GET /api/v1/health HTTP/1.1\r\nHost: ', 'hello?\r\n\r\n', `GET / HTTP/1.1\r\nX: ${'x'.repeat(100_000)}`];
    const received = sent.map(
      (text) =>
        new Promise<string>((over) => {
          let all = '';
          const socket = connect(Number(port), hostname, () => text && socket.write(text));
          socket.on('data', (chunk: Buffer) => {
            all += chunk;
          });
          socket.on('error', () => undefined);
          socket.on('close', () => over(all.split('\r\n')[0] ?? ''));
        }),
    );
    expect(await Promise.all(received)).toEqual([
      '',
      '',
      'HTTP/1.1 408 Request Timeout',
      'HTTP/1.1 400 Bad Request',
      'HTTP/1.1 431 Request Header Fields Too Large',
    ]);
  });

  it('whose upload stops in the middle keep no other large file waiting', async () => {
    const { hostname, port } = new URL(address);
    const stalled: Socket[] = Array.from({ length: 24 }, () => {
      const socket = connect(Number(port), hostname);
      socket.on('error', () => undefined);
      socket.write(
        `POST /api/v1/tapes HTTP/1.1\r\nHost: ${hostname}\r\nContent-Type: application/json\r\nContent-Length: 1000000\r\n\r\n{"file":`,
      );
      return socket;
    });
    const events = Array.from({ length: 20_000 }, (_, at) => ({ at, press: 'up' }));
    const tape = { format: 'zygopod/tape', version: 2, name: 'Queue', hz: 60, ticks: 20_000, events };
    const answer = await fetch(`${api}/tapes`, { method: 'POST', headers: json, body: JSON.stringify({ file: tape }) });
    expect(answer.status).toBe(201);
    const ended = stalled.map((socket) => new Promise<string>((over) => socket.once('data', (chunk: Buffer) => over(chunk.toString()))));
    for (const text of await Promise.all(ended)) expect(text).toMatch(/^HTTP\/1\.1 408 /);
    for (const socket of stalled) socket.destroy();
  });
});

describe('uploads', () => {
  it('that are larger than their kind allows are refused before they are read, and the connection is closed', async () => {
    // Again and again: an answer that is overtaken by the end of its connection is lost now and then.
    for (let i = 0; i < 60; i++) {
      const body = JSON.stringify({ file: { ...file, name: 'x'.repeat(300_000 * (1 + (i % 40))) } });
      const answer = await fetch(`${api}/tunings`, { method: 'POST', headers: json, body });
      expect(answer.status).toBe(413);
      expect(answer.headers.get('connection')).toBe('close');
      expect(await answer.json()).toMatchObject({ found: Buffer.byteLength(body), most: expect.any(Number) });
      const elsewhere = await fetch(`${api}/tunings`, { method: 'POST', headers: { ...json, origin: 'http://elsewhere.test' }, body });
      expect(elsewhere.status).toBe(403);
    }
  });
});

describe('a page that is opened while its tuning is saved', () => {
  it('is opened, and the ground that its address names is remembered', async () => {
    const tuning = await created('tunings', file);
    const grounds = [await created('grounds', ground('Here')), await created('grounds', ground('There'))];
    let isOver = false;
    const saving = (async () => {
      for (let head = 1; !isOver; head++)
        await fetch(`${api}/tunings/${tuning}/revisions`, {
          method: 'POST',
          headers: { ...json, 'if-match': `"${head}"` },
          body: JSON.stringify({ file: { ...file, name: `Boots ${head}` } }),
        });
    })();
    const statuses: number[] = [];
    for (let i = 0; i < 40; i++) statuses.push((await fetch(`${address}/bench/${tuning}?ground=${grounds[i % 2]}`)).status);
    isOver = true;
    await saving;
    expect(statuses.filter((status) => status !== 200)).toEqual([]);
    expect(await (await fetch(`${api}/tunings/${tuning}`)).json()).toMatchObject({ ground: grounds[1] });
    await fetch(`${address}/bench/${tuning}?ground=${grounds[0]}`, { headers: { 'sec-fetch-site': 'cross-site' } });
    expect(await (await fetch(`${api}/tunings/${tuning}`)).json()).toMatchObject({ ground: grounds[1] });
  });
});

describe('a database that is read-only', () => {
  it('is read, refuses what is written with 503, and health says so until it is over', async () => {
    const id = await created('tunings', file);
    const admin = new pg.Client({ connectionString: databaseUrl });
    await admin.connect();
    const { rows } = await admin.query<{ name: string }>('select current_database() as name');
    const set = async (words: string) => {
      await admin.query(`alter database ${pg.escapeIdentifier(rows[0]?.name ?? '')} ${words}`);
      await admin.query(
        'select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()',
      );
    };
    await set('set default_transaction_read_only = on');
    try {
      const write = () =>
        fetch(`${api}/tunings/${id}/revisions`, {
          method: 'POST',
          headers: { ...json, 'if-match': '"1"' },
          body: JSON.stringify({ file }),
        });
      // The first one may meet a connection that was just ended.
      await vi.waitFor(async () => {
        const answer = await write();
        expect(answer.status).toBe(503);
        expect(await answer.json()).toMatchObject({ database: 'readOnly' });
      });
      expect((await fetch(`${api}/tunings/${id}`)).status).toBe(200);
      const health = await fetch(`${api}/health`);
      expect([health.status, await health.json()]).toMatchObject([503, { ok: false, database: 'readOnly' }]);
    } finally {
      await set('reset default_transaction_read_only');
      await admin.end();
    }
    expect(await (await fetch(`${api}/health`)).json()).toMatchObject({ ok: true, database: 'up' });
  });
});

describe('two servers on one database', () => {
  it('hear each other’s changes, and what they missed while the connection was away', async () => {
    const port = await freePort();
    const other = await startServer({ host: '127.0.0.1', port, databaseUrl, env: { LOG_LEVEL: 'silent' } });
    const over = new AbortController();
    const heard: string[] = [];
    const listening = fetch(`${other.address}/api/v1/changes`, { signal: over.signal }).then(async ({ body }) => {
      const decoder = new TextDecoder();
      for await (const chunk of body as unknown as AsyncIterable<Uint8Array>) heard.push(decoder.decode(chunk, { stream: true }));
    });
    listening.catch(() => undefined);
    const hears = async (text: string) => {
      const begun = performance.now();
      while (!heard.join('').includes(text)) {
        if (performance.now() - begun > 5000) throw new Error(`never heard ${text}: ${heard.join('')}`);
        await new Promise((next) => setTimeout(next, 5));
      }
      return performance.now() - begun;
    };
    try {
      await hears(': listening');
      const id = await created('tunings', file);
      expect(await hears(`"id":"${id}","head":1,"is":"made"`)).toBeLessThan(1000);
      await fetch(`${api}/tunings/${id}`, { method: 'DELETE', headers: { 'if-match': '"1"' } });
      expect(await hears(`"id":"${id}","head":1,"is":"away"`)).toBeLessThan(1000);
      const admin = new pg.Client({ connectionString: databaseUrl });
      await admin.connect();
      heard.length = 0;
      await admin.query("select pg_terminate_backend(pid) from pg_stat_activity where query like 'listen zygopod%'");
      await admin.end();
      await hears('event: look');
      await fetch(`${api}/tunings/${id}/back`, { method: 'POST' });
      await hears(`"id":"${id}","head":1,"is":"back"`);
    } finally {
      over.abort();
      await other.stop();
    }
  });
});

describe('a request that makes something', () => {
  const ask = (key: string, body: object) =>
    fetch(`${api}/tunings`, { method: 'POST', headers: { ...json, 'idempotency-key': key }, body: JSON.stringify(body) });

  it('is done once for each key, however often and whenever it is sent', async () => {
    const key = crypto.randomUUID();
    const answers = await Promise.all(Array.from({ length: 6 }, () => ask(key, { file })));
    const ids = await Promise.all(answers.map(async (answer) => ((await answer.json()) as { id: string }).id));
    expect(answers.map(({ status }) => status)).toEqual(Array(6).fill(201));
    expect(new Set(ids).size).toBe(1);
    const later = await ask(key, { file });
    expect([later.status, later.headers.get('etag'), ((await later.json()) as { id: string }).id]).toEqual([201, '"1"', ids[0]]);
    expect((await ask(key, { file, note: 'another one' })).status).toBe(422);
  });

  it('may be tried again with its key where it failed', async () => {
    const key = crypto.randomUUID();
    expect((await ask(key, { file: { format: 'none' } })).status).toBe(422);
    expect((await ask(key, { file })).status).toBe(201);
  });
});

describe('a project', () => {
  const put = (id: string, body: object, version?: number) =>
    fetch(`${api}/projects/${id}`, {
      method: 'PUT',
      headers: { ...json, ...(version ? { 'if-match': `"${version}"` } : {}) },
      body: JSON.stringify(body),
    });

  it('has versions: a change of what was seen is taken, another one is handed back, and all are kept', async () => {
    const { id } = (await (await fetch(`${api}/projects`, { method: 'POST', headers: json, body: '{"name":"Tides"}' })).json()) as {
      id: string;
    };
    expect(await (await put(id, { names: { 'pace.walkSpeed': 'walk' } }, 1)).json()).toMatchObject({ version: 2 });
    const late = await put(id, { names: {} }, 1);
    expect([late.status, await late.json()]).toMatchObject([409, { current: { version: 2, names: { 'pace.walkSpeed': 'walk' } } }]);
    const { headers } = await fetch(`${api}/projects/${id}`);
    const seen = await fetch(`${api}/projects/${id}`, {
      method: 'PUT',
      headers: { ...json, 'if-match': headers.get('etag') ?? '' },
      body: '{"unit":"m"}',
    });
    expect(await seen.json()).toMatchObject({ version: 3, unit: 'm', names: { 'pace.walkSpeed': 'walk' } });
    const { items } = (await (await fetch(`${api}/projects/${id}/versions`)).json()) as { items: object[] };
    expect(items).toMatchObject([
      { version: 3, unit: 'm' },
      { version: 2, unit: 'px' },
      { version: 1, names: {} },
    ]);
  });

  it('that is archived takes its documents along', async () => {
    const { id } = (await (await fetch(`${api}/projects`, { method: 'POST', headers: json, body: '{"name":"Ebb"}' })).json()) as {
      id: string;
    };
    const own = await fetch(`${api}/tunings?project=${id}`, { method: 'POST', headers: json, body: JSON.stringify({ file }) });
    const { id: document } = (await own.json()) as { id: string };
    await fetch(`${api}/projects/${id}`, { method: 'DELETE' });
    expect((await fetch(`${api}/tunings/${document}`)).status).toBe(404);
    expect((await fetch(`${address}/bench/${document}`)).status).toBe(404);
    const write = await fetch(`${api}/tunings/${document}/revisions`, {
      method: 'POST',
      headers: { ...json, 'if-match': '"1"' },
      body: JSON.stringify({ file }),
    });
    expect(write.status).toBe(404);
    const { items } = (await (await fetch(`${api}/tunings?limit=200`)).json()) as { items: { id: string }[] };
    expect(items.map((one) => one.id)).not.toContain(document);
    await fetch(`${api}/projects/${id}/back`, { method: 'POST' });
    expect((await fetch(`${api}/tunings/${document}`)).status).toBe(200);
  });

  it('of the demo is restored on every request, also all at once', async () => {
    const { items } = (await (await fetch(`${api}/projects`)).json()) as { items: { id: string; isDemo: boolean }[] };
    const demo = items.find(({ isDemo }) => isDemo)?.id;
    const answers = await Promise.all(Array.from({ length: 16 }, () => fetch(`${api}/projects/${demo}/demo`, { method: 'POST' })));
    expect(answers.map(({ status }) => status)).toEqual(Array(16).fill(200));
  });
});

describe('checks for a build server', () => {
  const tape = (ticks: number, presses: number) => ({
    format: 'zygopod/tape',
    version: 2,
    name: 'Long',
    hz: 60,
    ticks,
    events: Array.from({ length: presses }, (_, at) => ({ at, [at % 2 ? 'release' : 'press']: 'right' })),
  });
  const ask = (tapes: object[], signal?: AbortSignal) =>
    fetch(`${api}/checks`, {
      method: 'POST',
      headers: json,
      body: JSON.stringify({ tuning: file, targets: null, tapes }),
      ...(signal ? { signal } : {}),
    });

  it('take ordinary tapes, and refuse hours of ticks before any of them is driven', async () => {
    expect((await ask([tape(6000, 3000), tape(6000, 3000)])).status).toBe(200);
    const begun = performance.now();
    const refused = await ask(Array.from({ length: 12 }, () => tape(216_000, 0)));
    expect([refused.status, await refused.json()]).toMatchObject([422, { found: 2_592_000 }]);
    expect(performance.now() - begun).toBeLessThan(2000);
  });

  it('are not made for those who have left', async () => {
    const over = new AbortController();
    const left = Array.from({ length: 7 }, () => ask([tape(108_000, 0)], over.signal).catch(() => null));
    await new Promise((next) => setTimeout(next, 300));
    over.abort();
    await Promise.all(left);
    const begun = performance.now();
    expect((await ask([tape(60, 0)])).status).toBe(200);
    expect(performance.now() - begun).toBeLessThan(5000);
  });
});
