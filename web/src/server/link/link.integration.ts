import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { get } from 'node:http';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import WebSocket from 'ws';
import { freePort, startServer, stopServer } from '../../../../cli/src/up/server.ts';
import { campaign } from '../../../../core/src/testing/campaign.ts';
import { sequence } from '../../../../core/src/testing/sequence.ts';

type Message = Record<string, unknown> & { type: string };

const databaseUrl = inject('databaseUrl');
let server: Awaited<ReturnType<typeof startServer>>;
const start = async (port: number) => startServer({ host: '127.0.0.1', port, databaseUrl, env: { LOG_LEVEL: 'error' } });
let port: number;
beforeAll(async () => {
  port = await freePort();
  server = await start(port);
});
afterAll(() => stopServer(server.process));

const hello = (more: object = {}) => ({
  type: 'hello',
  protocol: 1,
  game: 'Letter run',
  build: '88',
  hz: 60,
  columns: ['tick', 'x', 'y'],
  parameters: [{ name: 'walk_speed', path: 'pace.walkSpeed', value: 140 }],
  can: ['set'],
  ...more,
});

interface Game {
  socket: WebSocket;
  heard: Message[];
  say(message: unknown): void;
  /** Waits for a message. */
  next(type: string): Promise<Message>;
}

async function connect(more: object | null = {}, options: object = {}): Promise<Game> {
  const socket = new WebSocket(`ws://127.0.0.1:${port}/api/v1/link`, 'zygopod.link.v1', options);
  const heard: Message[] = [];
  const wakes = new Set<() => void>();
  const wake = () => {
    for (const one of wakes) one();
    wakes.clear();
  };
  socket.on('message', (data) => {
    heard.push(JSON.parse(String(data)) as Message);
    wake();
  });
  socket.on('close', wake);
  socket.on('error', () => undefined);
  await once(socket, 'open');
  const say = (message: unknown) => socket.send(typeof message === 'string' ? message : JSON.stringify(message));
  const next = async (type: string) => {
    for (;;) {
      const at = heard.findIndex((message) => message.type === type);
      if (at >= 0) return heard.splice(at, 1)[0] as Message;
      if (socket.readyState !== socket.OPEN) throw new Error(`closed before ${type}`);
      await new Promise<void>((woken) => wakes.add(woken));
    }
  };
  if (more) say(hello(more));
  return { socket, heard, say, next };
}

const api = (path: string, init: { method?: string; body?: unknown } = {}) =>
  fetch(`http://127.0.0.1:${port}/api/v1${path}`, {
    method: init.method ?? 'GET',
    ...(init.body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(init.body) }),
  });
const read = async (path: string) => (await (await api(path)).json()) as Record<string, never>;

async function allRows(session: string): Promise<{ rows: number[][]; hands: object[] }> {
  const [rows, hands]: [number[][], object[]] = [[], []];
  for (let from: number | null = 0; from !== null; ) {
    const page: { rows: number[][]; hands: object[]; next: number | null } = await (
      await api(`/links/${session}/rows?from=${from}`)
    ).json();
    rows.push(...page.rows);
    hands.push(...page.hands);
    from = page.next;
  }
  return { rows, hands };
}

/** Reads server-sent events of a path until the returned function is called. */
async function events(
  path: string,
): Promise<{ heard: { event: string; data: Message }[]; stop(): void; until(event: string): Promise<Message> }> {
  const heard: { event: string; data: Message }[] = [];
  const wakes = new Set<() => void>();
  const request = get(`http://127.0.0.1:${port}/api/v1${path}`);
  const [response] = await once(request, 'response');
  let text = '';
  response.on('data', (chunk: Buffer) => {
    text += chunk;
    for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
      const lines = text.slice(0, end).split('\n');
      text = text.slice(end + 2);
      const data = lines.find((line) => line.startsWith('data: '))?.slice(6);
      if (data) heard.push({ event: lines.find((line) => line.startsWith('event: '))?.slice(7) ?? '', data: JSON.parse(data) as Message });
    }
    for (const wake of wakes) wake();
  });
  response.on('error', () => undefined);
  request.on('error', () => undefined);
  const until = async (event: string) => {
    for (;;) {
      const at = heard.findIndex((one) => one.event === event);
      if (at >= 0) return heard.splice(at, 1)[0]?.data as Message;
      await new Promise<void>((woken) => wakes.add(woken));
    }
  };
  return { heard, stop: () => request.destroy(), until };
}

describe('the link', () => {
  it('shows a game to those who watch it, and takes requests to it', async () => {
    const game = await connect();
    const { session, from } = (await game.next('welcome')) as Message & { session: string };
    expect(from).toBe(0);
    const watcher = await events(`/links/${session}/events`);
    expect(await watcher.until('state')).toMatchObject({ game: 'Letter run', isLinked: true, next: 0 });
    game.say({
      type: 'rows',
      rows: [
        [0, 1, 2],
        [1, 3, 4],
      ],
      hands: [{ at: 1, press: 'up' }],
    });
    const { rows, hands, arrived } = await watcher.until('rows');
    expect([rows, hands]).toEqual([
      [
        [0, 1, 2],
        [1, 3, 4],
      ],
      [{ at: 1, press: 'up' }],
    ]);
    expect(Math.abs(Number(arrived) - Date.now())).toBeLessThan(60_000);
    const sent = await api(`/links/${session}/requests`, { method: 'POST', body: { type: 'set', values: { walk_speed: 150 } } });
    expect(sent.status).toBe(202);
    const { id } = (await sent.json()) as { id: number };
    expect(await game.next('set')).toEqual({ type: 'set', id, values: { walk_speed: 150 } });
    game.say({ type: 'done', id, tick: 2 });
    expect(await watcher.until('done')).toEqual({ type: 'done', id, tick: 2, values: { walk_speed: 150 } });
    expect((await api(`/links/${session}/requests`, { method: 'POST', body: { type: 'restart' } })).status).toBe(409);
    expect((await api(`/links/${session}/requests`, { method: 'POST', body: { type: 'set', values: {} } })).status).toBe(422);
    expect((await api(`/links/${session}`, { method: 'DELETE' })).status).toBe(409);
    game.say({ type: 'bye' });
    await once(game.socket, 'close');
    expect((await api(`/links/${session}/requests`, { method: 'POST', body: { type: 'set', values: { walk_speed: 1 } } })).status).toBe(
      409,
    );
    const { items } = (await read('/links')) as unknown as { items: { id: string; isLinked: boolean }[] };
    expect(items.find((one) => one.id === session)).toMatchObject({ isLinked: false, next: 2 });
    expect((await api(`/links/${session}`, { method: 'DELETE' })).status).toBe(204);
    expect((await api(`/links/${session}/rows`)).status).toBe(404);
    watcher.stop();
  });

  it('loses no tick and doubles none over drops and two kills of the server', async () => {
    const next = sequence(11);
    const all = Array.from({ length: 9000 }, (_, tick) => [tick, next() * 100, -next()]);
    let session: string | undefined;
    let kills = 0;
    let game: Game | null = null;
    let from = 0;
    for (let round = 0; from < all.length || !game; round++) {
      if (!game || game.socket.readyState !== game.socket.OPEN) {
        game = await connect(session ? { session } : {});
        const welcome = await game.next('welcome');
        session ??= String(welcome['session']);
        expect(welcome['session']).toBe(session);
        from = Number(welcome['from']);
      }
      const to = Math.min(all.length, from + 1 + Math.floor(next() * 300));
      if (to > from) game.say({ type: 'rows', rows: all.slice(from, to), hands: [{ at: from, press: 'up' }].slice(0, from % 2) });
      from = to;
      if ((round === 12 || round === 30) && kills < 2) {
        kills++;
        const over = Promise.all([once(game.socket, 'close'), once(server.process, 'exit')]);
        server.process.kill('SIGKILL');
        await over;
        server = await start(port);
      } else if (next() < 0.1) {
        game.socket.terminate();
        game = null;
      }
    }
    expect(kills).toBe(2);
    // What was sent last may still be under way: the server says what has come when the game says hello again.
    for (;;) {
      game.socket.terminate();
      game = await connect({ session });
      from = Number((await game.next('welcome'))['from']);
      if (from === all.length) break;
      game.say({ type: 'rows', rows: all.slice(from, from + 400) });
    }
    const kept = await allRows(session as string);
    expect(kept.rows).toEqual(all);
    game.say({ type: 'bye' });
  });

  it('closes a link with a message that is too large, and refuses other origins, hosts and addresses', async () => {
    const game = await connect();
    await game.next('welcome');
    const closed = once(game.socket, 'close');
    game.say(`{"type":"rows","rows":[[${'0,'.repeat(40_000)}0]]}`);
    expect((await closed)[0]).toBe(1009);
    const status = async (path: string, headers: object) => {
      const socket = new WebSocket(`ws://127.0.0.1:${port}${path}`, 'zygopod.link.v1', { headers } as object);
      socket.on('error', () => undefined);
      const [, response] = (await once(socket, 'unexpected-response')) as [unknown, { statusCode: number }];
      return response.statusCode;
    };
    expect(await status('/api/v1/link', { origin: 'http://elsewhere.example' })).toBe(403);
    expect(await status('/api/v1/link', { host: 'elsewhere.example' })).toBe(421);
    expect(await status('/api/v1/links', {})).toBe(404);
    expect(await status('//x', {})).toBe(400);
    // The health of a server with a token is asked for with it.
    process.env['ZYGOPOD_TOKEN'] = 'a secret';
    const own = await start(await freePort());
    delete process.env['ZYGOPOD_TOKEN'];
    const opened = (search: string, headers: object = {}) => {
      const socket = new WebSocket(`${own.address.replace('http', 'ws')}/api/v1/link${search}`, 'zygopod.link.v1', { headers } as object);
      return new Promise<boolean>((is) => socket.once('open', () => is(true)).once('error', () => is(false)));
    };
    try {
      expect([await opened(''), await opened('?token=wrong')]).toEqual([false, false]);
      // A game in a browser is served from a port of this machine.
      expect(await opened('?token=a%20secret', { origin: 'http://localhost:9999' })).toBe(true);
      expect(await opened('?token=a%20secret', { origin: 'http://127.0.0.1.elsewhere.example' })).toBe(false);
      expect([await opened('?token=a%20secret'), await opened('', { authorization: 'Bearer a secret' })]).toEqual([true, true]);
    } finally {
      await stopServer(own.process);
    }
  });

  it('says what is wrong with mutated messages, grows by less than 200 MB, and is there for the next game', async () => {
    const count = campaign(3000, 100_000);
    const memory = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.process.pid}/status`, 'utf8'))?.[1]) / 1024;
    const before = memory();
    const next = sequence(Number(process.env['ZYGOPOD_SEED'] ?? 1));
    const good = [
      hello(),
      { type: 'rows', rows: [[1, 2, 3]], hands: [{ at: 1, stick: [0.5, 0] }] },
      { type: 'done', id: 1, tick: 3 },
      { type: 'refused', id: 1, why: 'no' },
    ].map((message) => JSON.stringify(message));
    const odd = ['null', '1e999', '"', '[]', '{}', '-1', '\\u0000', '[[[[', '"__proto__"', '9'.repeat(300), '𝄞'];
    const mutated = (text: string) => {
      let out = text;
      for (let k = 0; k <= next() * 3; k++) {
        const at = Math.floor(next() * out.length);
        const cut = Math.floor(next() * 12);
        out = out.slice(0, at) + (next() < 0.6 ? (odd[Math.floor(next() * odd.length)] as string) : '') + out.slice(at + cut);
      }
      return out;
    };
    const game = await connect();
    await game.next('welcome');
    for (let i = 0; i < count; i++) game.say(mutated(good[i % good.length] as string));
    game.say('the last one');
    let problems = 0;
    for (let last = false; !last; ) {
      const { detail } = await game.next('problem');
      problems++;
      last = detail === 'the message is not JSON' && game.heard.length === 0 && problems > (count * 2) / 3;
    }
    expect(game.socket.readyState).toBe(game.socket.OPEN);
    expect(memory() - before).toBeLessThan(200);
    game.socket.terminate();
    const after = await connect();
    expect((await after.next('welcome'))['from']).toBe(0);
    after.say({ type: 'bye' });
  });

  it('works over plain HTTP, too', async () => {
    const post = async (messages: unknown[], session?: string) => {
      const answer = await api(`/link${session ? `?session=${session}` : ''}`, { method: 'POST', body: messages });
      return { status: answer.status, body: (await answer.json()) as Message[] };
    };
    const first = await post([hello(), { type: 'rows', rows: [[0, 0, 0]] }]);
    expect(first.body[0]).toMatchObject({ type: 'welcome', from: 0 });
    const session = String(first.body[0]?.['session']);
    expect(
      (
        await post(
          [
            {
              type: 'rows',
              rows: [
                [1, 0, 0],
                [2, 0],
              ],
            },
          ],
          session,
        )
      ).body[0],
    ).toMatchObject({ type: 'problem', status: 422 });
    expect((await post([{ type: 'rows', rows: [[1, 5, 5]] }], session)).body).toEqual([]);
    const hearing = await events(`/link?session=${session}`);
    await api(`/links/${session}/requests`, { method: 'POST', body: { type: 'set', values: { walk_speed: 99 } } });
    expect(await hearing.until('')).toMatchObject({ type: 'set', values: { walk_speed: 99 } });
    hearing.stop();
    expect((await allRows(session)).rows).toEqual([
      [0, 0, 0],
      [1, 5, 5],
    ]);
    await post([{ type: 'bye' }], session);
    expect((await post([{ type: 'rows', rows: [[2, 0, 0]] }], session)).status).toBe(404);
    expect((await post([{ type: 'rows', rows: [[2, 0, 0]] }])).body[0]).toMatchObject({ type: 'problem', title: 'hello comes first' });
  });
});
