import { once } from 'node:events';
import { setTimeout as pause } from 'node:timers/promises';
import { expect, inject, it } from 'vitest';
import { freePort, startServer, stopServer } from '../../../../cli/src/up/server.ts';
import { ZygopodLink } from '../../../../code/src/link/typescript/zygopodLink.ts';

it('the TypeScript client sends ten minutes of ticks over two kills of the server, takes numbers, and never holds the game up', async () => {
  const port = await freePort();
  const start = () => startServer({ host: '127.0.0.1', port, databaseUrl: inject('databaseUrl'), env: { LOG_LEVEL: 'error' } });
  const read = async (path: string) => (await fetch(`http://127.0.0.1:${port}/api/v1${path}`)).json();
  let walk = 140;
  let restarts = 0;
  const name = `Client ${Math.random()}`;
  const link = new ZygopodLink({ game: name, hz: 60, columns: ['tick', 'x', 'y'], address: `ws://127.0.0.1:${port}/api/v1/link` })
    .watch('walk_speed', {
      path: 'pace.walkSpeed',
      get: () => walk,
      set: (value) => {
        if (typeof value !== 'number' || value < 0) return 'not below 0';
        walk = value;
        return undefined;
      },
    })
    .on('restart', () => {
      restarts++;
      return undefined;
    })
    .open();
  // The game is there before the server is.
  const took: number[] = [];
  const ticks = 36_000;
  let tick = 0;
  const drive = async (to: number) => {
    for (; tick < to; tick++) {
      const begun = performance.now();
      link.row([tick, tick * 0.5, -tick], tick % 50 === 0 ? [{ press: 'up' }] : []);
      took.push(performance.now() - begun);
      if (tick % 200 === 0) await pause(1);
    }
  };
  await drive(2000);
  let server = await start();
  await drive(12_000);
  for (const until of [20_000, 28_000]) {
    const gone = once(server.process, 'exit');
    server.process.kill('SIGKILL');
    await gone;
    await drive(until);
    server = await start();
  }
  await drive(ticks);
  const found = async () =>
    (await read('/links')).items.find((one: { game: string }) => one.game === name) as { id: string; next: number; parameters: object[] };
  let one = await found();
  for (; one?.next !== ticks; one = await found()) {
    await pause(50);
    // The next row brings what is left.
    link.row([tick, tick * 0.5, -tick++]);
    if (one?.next >= ticks) break;
  }
  expect(one.parameters).toEqual([{ name: 'walk_speed', path: 'pace.walkSpeed', value: 140 }]);
  const rows: number[][] = [];
  const hands: { at: number }[] = [];
  for (let from: number | null = 0; from !== null && rows.length < ticks; ) {
    const page: { rows: number[][]; hands: { at: number }[]; next: number | null } = await read(`/links/${one.id}/rows?from=${from}`);
    rows.push(...page.rows);
    hands.push(...page.hands);
    from = page.next;
  }
  expect(rows.length).toBeGreaterThanOrEqual(ticks);
  expect(rows.slice(0, ticks).every(([at, x, y], i) => at === i && x === i * 0.5 && y === -i)).toBe(true);
  expect(hands.filter(({ at }) => at < ticks).map(({ at }) => at)).toEqual(Array.from({ length: ticks / 50 }, (_, i) => i * 50));

  const ask = (body: object) =>
    fetch(`http://127.0.0.1:${port}/api/v1/links/${one.id}/requests`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
  expect((await ask({ type: 'set', values: { walk_speed: 150 } })).status).toBe(202);
  expect((await ask({ type: 'restart' })).status).toBe(202);
  while (restarts === 0) await pause(5);
  expect(walk).toBe(150);
  expect((await ask({ type: 'place', x: 1, y: 2 })).status).toBe(409);
  link.close();
  await stopServer(server.process);
  // Of a tick's budget the client takes next to nothing, also after a break; single ticks may meet a collection of garbage.
  const sorted = took.sort((a, b) => a - b);
  expect(sorted[Math.floor(sorted.length * 0.99)]).toBeLessThan(0.2);
});
