import '../../../../testing/provided.ts';
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import { afterAll, beforeAll, expect, inject, it, vi } from 'vitest';
import { campaign } from '../../../../core/src/testing/campaign.ts';
import { sequence } from '../../../../core/src/testing/sequence.ts';
import { prepare } from './prepare.ts';

/** A database of the first schema, with data, is upgraded to today's; interrupted at any statement, the next start completes it. */

const MIGRATIONS = join(import.meta.dirname, '../../../drizzle');
/** Interrupted upgrades of a run; all statements with `--long`. */
const INTERRUPTIONS = campaign(8, Infinity);

const server = new URL(inject('databaseUrl'));
const urlOf = (database: string) => Object.assign(new URL(server), { pathname: `/${database}` }).href;
const admin = new pg.Client({ connectionString: server.href });
const [BASE, COPY] = [`upgrade_base_${process.pid}`, `upgrade_copy_${process.pid}`];

/** A folder with the first step of the schema alone. */
function firstMigration(): string {
  const folder = mkdtempSync(join(tmpdir(), 'zygopod-first-'));
  cpSync(MIGRATIONS, folder, { recursive: true });
  const path = join(folder, 'meta/_journal.json');
  const journal = JSON.parse(readFileSync(path, 'utf8')) as { entries: unknown[] };
  writeFileSync(path, JSON.stringify({ ...journal, entries: journal.entries.slice(0, 1) }));
  return folder;
}

async function on<T>(database: string, work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: urlOf(database) });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

/** Documents of the first version: old files, several revisions, drafts whose versions were counted in the draft alone. */
async function fill(client: pg.Client): Promise<void> {
  await client.query(`insert into projects (name) values ('Old post')`);
  const files = {
    tuning: `{"format":"zygopod/tuning","version":1,"name":"Boots 1","unit":"px","pace":{"walkSpeed":150},"contact":{"maxSlides":3}}`,
    ground: `{"format":"zygopod/ground","version":1,"name":"Yard","size":{"width":640,"height":384},"start":{"x":80,"y":80,"facing":0}}`,
    tape: `{"format":"zygopod/tape","version":2,"name":"Lap","hz":60,"ticks":10,"events":[]}`,
  };
  for (const [kind, file] of Object.entries(files)) {
    await client.query(
      `insert into documents (project_id, kind, name, head) select (select id from projects limit 1), $1::kind, $1::text || ' ' || n, 3 from generate_series(1, 40) n`,
      [kind],
    );
    await client.query(
      `insert into revisions (document_id, number, parent, note, hash, file)
       select id, n, nullif(n - 1, 0), 'Note ' || n, repeat(n::text, 64), $2::jsonb from documents, generate_series(1, 3) n where kind = $1::kind`,
      [kind, file],
    );
  }
  await client.query(
    `insert into drafts (document_id, version, base, file)
     select d.id, 7, 3, r.file from documents d join revisions r on r.document_id = d.id and r.number = 3 where d.kind = 'tuning'`,
  );
}

/** All that users had, and the demo data, as text. */
const contents = (database: string) =>
  on(database, async (client) => {
    const all: string[][] = [];
    for (const text of [
      `select d.id, d.kind, d.name, d.head, d.drafted, d.line, d.numbers, d.put_away_at from documents d where demo is null order by d.id`,
      `select r.id, r.document_id, r.number, r.parent, r.note, r.name, r.hash, r.file
         from revisions r join documents d on d.id = r.document_id where d.demo is null order by r.id`,
      'select f.* from drafts f order by f.document_id',
      'select name, unit, names, version, is_demo from projects order by name',
      'select demo, kind, name, head, line from documents where demo is not null order by demo',
      `select table_name, column_name, data_type, is_nullable from information_schema.columns where table_schema = 'public' order by 1, 2`,
      `select indexname from pg_indexes where schemaname = 'public' order by 1`,
      `select conname from pg_constraint where connamespace = 'public'::regnamespace order by 1`,
    ])
      all.push((await client.query(text)).rows.map((row) => JSON.stringify(row)));
    return all;
  });

async function copyOfBase(): Promise<string> {
  await admin.query(`drop database if exists ${COPY} with (force)`);
  await admin.query(`create database ${COPY} template ${BASE}`);
  return COPY;
}

/** Upgrades a database, and drops the connection at statement `at`. Returns the number of statements. */
async function upgrade(database: string, at = Infinity): Promise<number> {
  let statements = 0;
  const query = pg.Client.prototype.query as (...args: unknown[]) => unknown;
  const spy = vi.spyOn(pg.Client.prototype, 'query').mockImplementation(function (this: pg.Client, ...args: unknown[]) {
    if (++statements === at) (this as unknown as { connection: { stream: { destroy(): void } } }).connection.stream.destroy();
    return query.apply(this, args) as never;
  });
  try {
    await prepare(urlOf(database), MIGRATIONS);
  } finally {
    spy.mockRestore();
  }
  return statements;
}

beforeAll(async () => {
  await admin.connect();
  await admin.query(`create database ${BASE}`);
  const first = firstMigration();
  await on(BASE, async (client) => {
    await migrate(drizzle(client), { migrationsFolder: first });
    await fill(client);
  });
  rmSync(first, { recursive: true });
});
afterAll(async () => {
  for (const database of [BASE, COPY]) await admin.query(`drop database if exists ${database} with (force)`);
  await admin.end();
});

it('an upgrade keeps everything, takes the numbers of all documents, and is the same after an interruption at any statement', async () => {
  const before = await on(BASE, async (client) => (await client.query('select id, number, hash, file from revisions order by id')).rows);
  const statements = await upgrade(await copyOfBase());
  const whole = await contents(COPY);
  const after = await on(
    COPY,
    async (client) =>
      (
        await client.query(
          'select r.id, number, hash, file from revisions r join documents d on d.id = document_id where demo is null order by r.id',
        )
      ).rows,
  );
  expect(after).toEqual(before);
  const documents = (whole[0] as string[]).map(
    (row) => JSON.parse(row) as { kind: string; drafted: number; line: string; numbers: unknown },
  );
  expect(documents).toHaveLength(120);
  for (const { kind, drafted, line, numbers } of documents) {
    expect(drafted).toBe(kind === 'tuning' ? 7 : 0);
    expect(line).not.toBe('');
    expect(numbers).not.toBeNull();
  }
  // A second start finds nothing to do.
  await upgrade(COPY);
  expect(await contents(COPY)).toEqual(whole);
  const next = sequence(Math.floor(Date.now() / 86_400_000));
  const points =
    INTERRUPTIONS < statements
      ? Array.from({ length: INTERRUPTIONS }, () => 1 + Math.floor(next() * statements))
      : Array.from({ length: statements }, (_, i) => i + 1);
  for (const at of points) {
    await copyOfBase();
    await expect(upgrade(COPY, at), `statement ${at} of ${statements}`).rejects.toThrow();
    await upgrade(COPY);
    expect(await contents(COPY), `after an interruption at statement ${at}`).toEqual(whole);
  }
}, 3_600_000);
