import { execFileSync } from 'node:child_process';
import { once } from 'node:events';
import { copyFileSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { describe, expect, inject, it } from 'vitest';
import { freePort, startServer, stopServer } from '../../../../cli/src/up/server.ts';
import { linkClients } from '../../../../code/src/link/clients.ts';
import { campaign, seeds } from '../../../../core/src/testing/campaign.ts';
import { GameProgram, succeeds } from '../../testing/gameProgram.ts';

/** Ticks of ten minutes, and of the share that every run drives. */
const TICKS = campaign(12_000, 36_000);

const there = linkClients.filter(({ probe }) => succeeds(probe));
/** Others in each run. */
const tried = seeds(2, there.length).flatMap((seed) => there[seed - 1] ?? []);

describe.each(tried)('the client for $language', (client) => {
  it('is a file of at most 300 lines that loses and doubles no tick over two kills of the server, and takes requests', async () => {
    expect(readFileSync(client.file, 'utf8').split('\n').length).toBeLessThanOrEqual(301);
    const folder = mkdtempSync(join(tmpdir(), 'zygopod-link-'));
    for (const file of [client.file, client.test]) copyFileSync(file, join(folder, basename(file)));
    for (const [command, ...args] of client.build) execFileSync(command as string, args, { cwd: folder, stdio: 'pipe' });
    const port = await freePort();
    const start = () => startServer({ host: '127.0.0.1', port, databaseUrl: inject('databaseUrl'), env: { LOG_LEVEL: 'error' } });
    const read = async (path: string) => (await fetch(`http://127.0.0.1:${port}/api/v1${path}`)).json();
    const name = `Client ${client.language} ${Math.random()}`;
    const driver = new GameProgram(client.run, folder, ['127.0.0.1', String(port), name]);
    let server: Awaited<ReturnType<typeof start>> | null = null;
    try {
      // The game is there before the server is.
      await driver.ask(`go ${Math.round(TICKS / 12)}`);
      server = await start();
      const found = async () => (await read('/links')).items.find((one: { game: string }) => one.game === name);
      /** Waits until the game is linked; a client without a thread goes on only while the game does. */
      const linked = async () => {
        while (!(await found())?.isLinked) {
          await driver.ask('state');
          await pause(20);
        }
      };
      await linked();
      for (const part of [0.5, 0.75]) {
        await driver.ask(`go ${Math.round(TICKS * part)}`);
        const gone = once(server.process, 'exit');
        server.process.kill('SIGKILL');
        await gone;
        await driver.ask(`go ${Math.round(TICKS * (part + 0.1))}`);
        server = await start();
        await linked();
      }
      await driver.ask(`go ${TICKS}`);
      let one = await found();
      for (; one.next !== TICKS; one = await found()) await driver.ask('state');
      expect(one).toMatchObject({
        hz: 60,
        unit: 'px',
        yUp: false,
        columns: ['tick', 'x', 'y'],
        parameters: [{ name: 'walk_speed', path: 'pace.walkSpeed', value: 140, min: 0, max: 1000 }],
      });
      expect([...one.can].sort()).toEqual(['place', 'restart', 'set']);
      const rows: number[][] = [];
      const hands: object[] = [];
      for (let from: number | null = 0; from !== null; ) {
        const page: { rows: number[][]; hands: object[]; next: number | null } = await read(`/links/${one.id}/rows?from=${from}`);
        rows.push(...page.rows);
        hands.push(...page.hands);
        from = page.next;
      }
      expect(rows).toEqual(Array.from({ length: TICKS }, (_, tick) => [tick, tick * 0.5, -tick + 0]));
      expect(hands).toEqual(Array.from({ length: Math.ceil(TICKS / 50) }, (_, i) => ({ at: i * 50, press: 'up' })));

      const sent = async (body: object): Promise<number> => {
        const answer = await fetch(`http://127.0.0.1:${port}/api/v1/links/${one.id}/requests`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(body),
        });
        expect(answer.status).toBe(202);
        return ((await answer.json()) as { id: number }).id;
      };
      const stream = await fetch(`http://127.0.0.1:${port}/api/v1/links/${one.id}/events`);
      const heard = (async () => {
        let text = '';
        for await (const chunk of stream.body as unknown as AsyncIterable<Uint8Array>) {
          text += Buffer.from(chunk).toString();
          const answers = [...text.matchAll(/event: (done|refused)\ndata: (.*)\n/g)];
          if (answers.length === 4) return answers.map((match) => JSON.parse(match[2] as string) as object);
        }
        return [];
      })();
      const ids = [
        await sent({ type: 'set', values: { walk_speed: 150.5 } }),
        await sent({ type: 'restart' }),
        await sent({ type: 'place', x: -1, y: 2 }),
        await sent({ type: 'set', values: { walk_speed: -3 } }),
      ];
      let state = '';
      while (state !== 'walk 150.5 restarts 1') state = await driver.ask('state');
      for (let answered = false; !answered; ) {
        await driver.ask('state');
        answered = await Promise.race([heard.then(() => true), pause(20).then(() => false)]);
      }
      expect(await heard).toEqual([
        { type: 'done', id: ids[0], tick: TICKS, values: { walk_speed: 150.5 } },
        { type: 'done', id: ids[1], tick: TICKS },
        { type: 'refused', id: ids[2], why: 'outside "here"' },
        { type: 'refused', id: ids[3], name: 'walk_speed', why: 'not a value of this number' },
      ]);
      const [half, most, slowest] = (await driver.end()) as [number, number, number];
      console.log(`${client.language}: half of the calls within ${half} ms, 99 of 100 within ${most} ms, the slowest ${slowest} ms`);
      expect(most).toBeLessThan(0.2);
      while ((await found()).isLinked) await pause(20);
    } finally {
      driver.kill();
      if (server) await stopServer(server.process);
      rmSync(folder, { recursive: true });
    }
  });
});
