import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, statSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:net';
import { join } from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import '../../../testing/provided.ts';
import { clearFolder, ownFolder, processesOf, Stand, until } from '../siege/stand.ts';
import { createDatabase } from './database.ts';
import { freePort } from './server.ts';

const folders: string[] = [];
const stands: Stand[] = [];

function newFolder(): string {
  const state = ownFolder();
  folders.push(state);
  return state;
}

async function start(state: string, env?: NodeJS.ProcessEnv, port?: number): Promise<Stand> {
  const stand = await Stand.start(state, { ...(env && { env }), ...(port && { port }) });
  stands.push(stand);
  return stand;
}

afterAll(async () => {
  for (const stand of stands) await stand.stop();
  folders.forEach(clearFolder);
});

describe('up, whatever dies', () => {
  let state: string;
  let run: Stand;
  beforeAll(async () => {
    state = newFolder();
    run = await Stand.serving(state);
    stands.push(run);
  });

  it('is swept up when it is killed while its server starts', async () => {
    const own = await start(newFolder());
    await until(() => own.serverPid !== undefined, 'a server that is starting', 60_000);
    const server = own.serverPid as number;
    own.process.kill('SIGKILL');
    await until(() => !processesOf('front/serve.ts').includes(server), 'the end of the server', 20_000);
    await until(() => own.postmasterPid === undefined, 'the end of the database', 20_000);
  });

  it('leaves no server behind, however soon after its start it is killed', async () => {
    const starter = `import { freePort, startServer } from ${JSON.stringify(join(import.meta.dirname, 'server.ts'))};
      const options = { host: '127.0.0.1', port: await freePort(), databaseUrl: process.env.DATABASE_URL };
      await startServer({ ...options, spawned: (pid) => process.stdout.write(String(pid)) });`;
    for (let delay = 0; delay < 800; delay += 120) {
      const parent = spawn(process.execPath, ['--input-type=module', '--eval', starter], {
        env: { ...process.env, DATABASE_URL: inject('databaseUrl') },
        stdio: ['ignore', 'pipe', 'inherit'],
      });
      const [server] = (await once(parent.stdout, 'data')) as [Buffer];
      await new Promise((next) => setTimeout(next, delay));
      parent.kill('SIGKILL');
      await until(() => !processesOf('front/serve.ts').includes(Number(server)), 'the end of the server', 20_000);
    }
  });

  it.each([
    ['the server', ['server']],
    ['the database', ['database']],
    ['the server, then the database', ['server', 'database']],
    ['the database, then the server', ['database', 'server']],
    ['the server twice, while it is being started', ['server', 'server']],
  ])('is up again within ten seconds: %s', async (_, deaths) => {
    for (const death of deaths) {
      if (death === 'database') process.kill(run.postmasterPid as number, 'SIGKILL');
      else {
        await until(() => run.serverPid !== undefined, 'a server to kill');
        process.kill(run.serverPid as number, 'SIGKILL');
      }
      await new Promise((next) => setTimeout(next, 150));
    }
    await until(() => run.isHealthy(), 'health', 10_000);
    // A kill that was not seen yet would be seen now.
    await new Promise((next) => setTimeout(next, 400));
    await until(() => run.isHealthy(), 'health', 10_000);
  });

  it('keeps its state to itself', () => {
    expect(statSync(state).mode & 0o777).toBe(0o700);
    expect(statSync(join(state, 'postgres.password')).mode & 0o777).toBe(0o600);
  });

  it('refuses a second one in the same folder', async () => {
    const second = await start(state);
    expect(await second.ended).toBe(2);
    expect(second.said).toMatch(/^Zygopod is running already on http:\/\/127\.0\.0\.1:\d+ \(process \d+\)\.\n$/);
  });

  it('killed itself leaves nothing running, and the next one takes over', async () => {
    run.process.kill('SIGKILL');
    await run.ended;
    await until(async () => processesOf(join(state, 'postgres')).length === 0 && !(await run.isHealthy()), 'the end of all', 20_000);
    const next = await start(state, {}, run.port);
    await until(() => next.said.includes('Zygopod is on'), 'the next one', 30_000);
    expect(next.said).toContain('was killed; taking over');
    run = next;
  });

  it('stopped, ends with one line and nothing running', async () => {
    const before = run.said;
    run.process.kill('SIGINT');
    expect(await run.ended).toBe(0);
    expect(run.said.slice(before.length)).toBe('Stopped.\n');
    expect(processesOf(join(state, 'postgres'))).toEqual([]);
    expect(await run.isHealthy()).toBe(false);
  });
});

describe('up that cannot be', () => {
  const silent = new Set<Server>();
  afterAll(() => {
    for (const server of silent) server.close();
  });

  /** Runs `up` to its end; one line of words and how long it took, ms. */
  async function refusal(
    env: NodeJS.ProcessEnv,
    state = newFolder(),
    port?: number,
  ): Promise<{ code: number | null; said: string; took: number }> {
    const begun = performance.now();
    const run = await start(state, env, port);
    const code = await run.ended;
    return { code, said: run.said, took: performance.now() - begun };
  }

  async function silentPort(): Promise<number> {
    const server = createServer();
    silent.add(server);
    server.listen(0, '127.0.0.1');
    await once(server, 'listening');
    return (server.address() as { port: number }).port;
  }

  it('with a database that is wrong says in one line, within five seconds, what is', async () => {
    const own = new URL(inject('databaseUrl'));
    const admin = new URL(own);
    admin.pathname = '/postgres';
    const url = (other: Partial<URL>): string => Object.assign(new URL(own), other).href;
    await createDatabase(admin.href, 'zygopod_foreign', true);
    await createDatabase(admin.href, 'zygopod_newer', true);
    const query = async (database: string, text: string) => {
      const client = new pg.Client({ connectionString: url({ pathname: `/${database}` }) });
      await client.connect();
      await client.query(text);
      await client.end();
    };
    await query('zygopod_foreign', 'create table boats (name text)');
    await query(
      'zygopod_newer',
      `create schema drizzle; create table drizzle.__drizzle_migrations (id serial, hash text, created_at bigint);
       create table documents (id int); insert into drizzle.__drizzle_migrations (hash, created_at) values ('x', 99999999999999)`,
    );
    const closed = await freePort();
    const quiet = await silentPort();
    const cases: [string, RegExp][] = [
      ['nonsense', /no address of the form/],
      ['mysql://somewhere/else', /no address of the form/],
      [url({ port: String(closed) }), /nothing listens there/],
      [url({ port: String(quiet) }), /there is no answer/],
      [url({ password: 'wrong' }), /the user or the password is refused/],
      [url({ pathname: '/zygopod_nowhere' }), /no database of that name/],
      [url({ pathname: '/zygopod_foreign' }), /tables that are not Zygopod/],
      [url({ pathname: '/zygopod_newer' }), /a newer Zygopod/],
    ];
    for (const [databaseUrl, words] of cases) {
      const { code, said, took } = await refusal({ DATABASE_URL: databaseUrl });
      expect([code, said]).toEqual([2, expect.stringMatching(words)]);
      expect(said).toMatch(/^DATABASE_URL: [^\n]+\n$/);
      expect(took).toBeLessThan(5000);
    }
  });

  it('stopped during its start, ends with one line and nothing running', async () => {
    for (const after of [0, 1200]) {
      const state = newFolder();
      const run = await start(state);
      await until(() => existsSync(join(state, 'up.pid')), 'its lock');
      await new Promise((next) => setTimeout(next, after));
      run.process.kill('SIGINT');
      expect([await run.ended, run.said]).toEqual([0, expect.stringMatching(/^(Zygopod is on [^\n]+\n)?Stopped\.\n$/)]);
      expect(processesOf(state)).toEqual([]);
    }
  });

  it('with a port that is taken says so', async () => {
    const { code, said } = await refusal({}, newFolder(), await silentPort());
    expect([code, said]).toEqual([2, expect.stringMatching(/^Port \d+ on 127\.0\.0\.1 is taken by another program\. [^\n]+\n$/)]);
  });

  it('in a place that is no folder says so', async () => {
    const state = newFolder();
    writeFileSync(state, '');
    const { code, said } = await refusal({}, join(state, 'deeper'));
    expect([code, said]).toEqual([2, expect.stringMatching(/^[^\n]+ cannot be written \(ENOTDIR\)[^\n]+\n$/)]);
  });

  it('is not kept from starting by the lock of a process that is another by now', async () => {
    const state = newFolder();
    const first = await refusal({ DATABASE_URL: 'nonsense' }, state);
    expect(first.code).toBe(2);
    writeFileSync(join(state, 'up.pid'), JSON.stringify({ pid: process.pid, started: '1' }));
    const { said } = await refusal({ DATABASE_URL: 'nonsense' }, state);
    expect(said).toMatch(/^An earlier run \(process \d+\) was killed; taking over its processes\.\nDATABASE_URL: [^\n]+\n$/);
    writeFileSync(join(state, 'up.pid'), '17\nan older form');
    expect((await refusal({ DATABASE_URL: 'nonsense' }, state)).said).toMatch(/^DATABASE_URL: [^\n]+\n$/);
  });
});
