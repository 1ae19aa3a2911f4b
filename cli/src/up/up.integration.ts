import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import { chmodSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import '../../../e2e/provided.ts';
import { root } from '../root.ts';
import { makeDatabase } from './database.ts';
import { freePort } from './server.ts';

/** `up` in a folder of its own, and what it said. */
interface Run {
  process: ChildProcess;
  port: number;
  said(): string;
  ended: Promise<number | null>;
}

const folders: string[] = [];
const runs: Run[] = [];

function ownFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'zygopod-up-'));
  chmodSync(folder, 0o755);
  folders.push(folder);
  return join(folder, 'state');
}

async function start(state: string, env: NodeJS.ProcessEnv = {}, port?: number): Promise<Run> {
  const own = port ?? (await freePort());
  const { DATABASE_URL, ZYGOPOD_TOKEN, ...rest } = process.env;
  const up = spawn(process.execPath, [join(root, 'cli/src/main.ts'), 'up', '--port', String(own)], {
    env: { ...rest, LOG_LEVEL: 'fatal', ZYGOPOD_STATE: state, ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let said = '';
  up.stdout.on('data', (chunk: Buffer) => (said += chunk));
  up.stderr.on('data', (chunk: Buffer) => (said += chunk));
  const run = { process: up, port: own, said: () => said, ended: once(up, 'exit').then(([code]) => code as number | null) };
  runs.push(run);
  return run;
}

async function until(is: () => boolean | Promise<boolean>, what: string, patience = 30_000): Promise<number> {
  const begun = performance.now();
  while (!(await is())) {
    if (performance.now() - begun > patience) throw new Error(`waited for ${what}`);
    await new Promise((next) => setTimeout(next, 30));
  }
  return performance.now() - begun;
}

const isHealthy = async ({ port }: Run): Promise<boolean> => {
  try {
    return (await fetch(`http://127.0.0.1:${port}/api/v1/health`, { signal: AbortSignal.timeout(1000) })).ok;
  } catch {
    return false;
  }
};

const serving = async (state: string, env?: NodeJS.ProcessEnv): Promise<Run> => {
  const run = await start(state, env);
  await until(() => run.said().includes('Zygopod is on') || run.process.exitCode !== null, 'the address', 60_000);
  expect(run.said()).toContain('Zygopod is on');
  return run;
};

/** Numbers of the processes whose command line holds a text. */
async function processesOf(text: string): Promise<number[]> {
  const ps = spawn('ps', ['-eo', 'pid=,args='], { stdio: ['ignore', 'pipe', 'ignore'] });
  let all = '';
  ps.stdout.on('data', (chunk: Buffer) => (all += chunk));
  await once(ps, 'close');
  return all
    .split('\n')
    .filter((line) => line.includes(text) && !line.includes('ps -eo'))
    .map((line) => Number.parseInt(line, 10));
}

const serverOf = async (run: Run): Promise<number> => {
  const children = readFileSync(`/proc/${run.process.pid}/task/${run.process.pid}/children`, 'utf8').trim().split(' ').map(Number);
  const isServer = (pid: number) => readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('front/serve.ts');
  return children.find(isServer) as number;
};
const postmasterOf = (state: string): number => Number.parseInt(readFileSync(join(state, 'postgres/postmaster.pid'), 'utf8'), 10);

afterAll(async () => {
  for (const { process: up, ended } of runs) {
    up.kill('SIGTERM');
    await ended;
  }
  for (const folder of folders) rmSync(folder, { recursive: true, force: true });
}, 60_000);

describe('up, whatever dies', () => {
  let state: string;
  let run: Run;
  beforeAll(async () => {
    state = ownFolder();
    run = await serving(state);
  }, 90_000);

  it.each([
    ['the server', ['server']],
    ['the database', ['database']],
    ['the server, then the database', ['server', 'database']],
    ['the database, then the server', ['database', 'server']],
    ['the server twice, while it is being started', ['server', 'server']],
  ])('is up again within ten seconds: %s', async (_, deaths) => {
    for (const death of deaths) {
      if (death === 'database') process.kill(postmasterOf(state), 'SIGKILL');
      else {
        await until(async () => (await serverOf(run)) !== undefined, 'a server to kill');
        process.kill(await serverOf(run), 'SIGKILL');
      }
      await new Promise((next) => setTimeout(next, 150));
    }
    await until(() => isHealthy(run), 'health', 10_000);
    // A kill that was not seen yet would be seen now.
    await new Promise((next) => setTimeout(next, 1200));
    await until(() => isHealthy(run), 'health', 10_000);
  });

  it('keeps its state to itself', () => {
    expect(statSync(state).mode & 0o777).toBe(0o700);
    expect(statSync(join(state, 'postgres.password')).mode & 0o777).toBe(0o600);
  });

  it('refuses a second one in the same folder', async () => {
    const second = await start(state);
    expect(await second.ended).toBe(2);
    expect(second.said()).toMatch(/^Zygopod is running already on http:\/\/127\.0\.0\.1:\d+ \(process \d+\)\.\n$/);
  });

  it('killed itself leaves nothing running, and the next one takes over', async () => {
    run.process.kill('SIGKILL');
    await run.ended;
    await until(async () => (await processesOf(join(state, 'postgres'))).length === 0 && !(await isHealthy(run)), 'the end of all', 20_000);
    const next = await start(state, {}, run.port);
    await until(() => next.said().includes('Zygopod is on'), 'the next one', 30_000);
    expect(next.said()).toContain('was killed; taking over');
    run = next;
  });

  it('told to stop ends with one line and nothing running', async () => {
    const before = run.said();
    run.process.kill('SIGINT');
    expect(await run.ended).toBe(0);
    expect(run.said().slice(before.length)).toBe('Stopped.\n');
    expect(await processesOf(join(state, 'postgres'))).toEqual([]);
    expect(await isHealthy(run)).toBe(false);
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
    state = ownFolder(),
    port?: number,
  ): Promise<{ code: number | null; said: string; took: number }> {
    const begun = performance.now();
    const run = await start(state, env, port);
    const code = await run.ended;
    return { code, said: run.said(), took: performance.now() - begun };
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
    await makeDatabase(admin.href, 'zygopod_foreign', true);
    await makeDatabase(admin.href, 'zygopod_newer', true);
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

  it('told to stop while it starts ends with one line and nothing running', async () => {
    for (const after of [250, 700, 1500, 2500]) {
      const state = ownFolder();
      const run = await start(state);
      await new Promise((next) => setTimeout(next, after));
      run.process.kill('SIGINT');
      expect([await run.ended, run.said()]).toEqual([0, expect.stringMatching(/^(Zygopod is on [^\n]+\n)?Stopped\.\n$/)]);
      expect(await processesOf(state)).toEqual([]);
    }
  });

  it('with a port that is taken says so', async () => {
    const { code, said } = await refusal({}, ownFolder(), await silentPort());
    expect([code, said]).toEqual([2, expect.stringMatching(/^Port \d+ on 127\.0\.0\.1 is taken by another program\. [^\n]+\n$/)]);
  });

  it('in a place that is no folder says so', async () => {
    const state = ownFolder();
    writeFileSync(state, '');
    const { code, said } = await refusal({}, join(state, 'deeper'));
    expect([code, said]).toEqual([2, expect.stringMatching(/^[^\n]+ cannot be written \(ENOTDIR\)[^\n]+\n$/)]);
  });

  it('is not kept from starting by the lock of a process that is another by now', async () => {
    const state = ownFolder();
    const first = await refusal({ DATABASE_URL: 'nonsense' }, state);
    expect(first.code).toBe(2);
    writeFileSync(join(state, 'up.pid'), JSON.stringify({ pid: process.pid, started: '1' }));
    const { said } = await refusal({ DATABASE_URL: 'nonsense' }, state);
    expect(said).toMatch(/^An earlier run \(process \d+\) was killed; taking over what it left\.\nDATABASE_URL: [^\n]+\n$/);
    writeFileSync(join(state, 'up.pid'), '17\nan older form');
    expect((await refusal({ DATABASE_URL: 'nonsense' }, state)).said).toMatch(/^DATABASE_URL: [^\n]+\n$/);
  });
});
