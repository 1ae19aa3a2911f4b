import '../../../../testing/provided.ts';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';

const address = inject('address');
const client = new pg.Client({ connectionString: inject('databaseUrl') });
const DOCUMENTS = 100_000;
const REVISIONS = 10_000;

interface Page {
  items: { id: string; name: string; number: number }[];
  next: string | number | null;
}

let id: string;

beforeAll(async () => {
  await client.connect();
  await client.query(
    `insert into documents (project_id, kind, name, head, created_at)
     select (select id from projects limit 1), 'tape', 'Crate ' || n, 1, now() - (n || ' seconds')::interval from generate_series(1, $1) n`,
    [DOCUMENTS],
  );
  ({ id } = (await client.query(`select id from documents where name = 'Crate 5'`)).rows[0]);
  await client.query(
    `insert into revisions (document_id, number, note, hash, file) select $1, n, 'Note ' || n, repeat('0', 64), '{}' from generate_series(1, $2) n`,
    [id, REVISIONS],
  );
  await client.query('update documents set head = $2 where id = $1', [id, REVISIONS]);
  await client.query('analyze documents, revisions');
});

afterAll(async () => {
  await client.query(`delete from documents where name like 'Crate %'`);
  await client.end();
});

/** A page, and the milliseconds of the fastest of a few looks at it. */
async function look(path: string): Promise<{ page: Page; least: number }> {
  let least = Infinity;
  let page: Page | undefined;
  for (let i = 0; i < 7; i++) {
    const begun = performance.now();
    const answer = await fetch(`${address}/api/v1/tapes${path}`);
    page = (await answer.json()) as Page;
    expect(answer.status).toBe(200);
    least = Math.min(least, performance.now() - begun);
  }
  return { page: page as Page, least };
}

describe('a shelf with a hundred thousand tapes', () => {
  it.each([
    ['the first page', '?limit=50'],
    ['a search that finds one', '?q=crate%2099999'],
    ['a search that finds none', '?q=barrel'],
    ['a search that finds many', '?q=CRATE'],
    ['what is put away', '?away=true'],
  ])('shows %s within 50 ms', async (_, path) => {
    expect((await look(path)).least).toBeLessThan(50);
  });

  it('is walked from page to page without missing or repeating one, while documents come and go', async () => {
    const names: string[] = [];
    let after = '';
    for (let i = 0; i < 5; i++) {
      const { page } = await look(`?limit=100&q=crate${after}`);
      names.push(...page.items.map(({ name }) => name));
      // The very document that the next page begins after goes, and one more comes in front.
      await client.query('delete from documents where id = $1', [page.items.at(-1)?.id]);
      await client.query(
        `insert into documents (project_id, kind, name, head) values ((select id from projects limit 1), 'tape', 'Crate new', 1)`,
      );
      after = `&after=${page.next}`;
    }
    expect(names).toEqual(Array.from({ length: 500 }, (_, i) => `Crate ${i + 1}`));
  });

  it('refuses a cursor that none of its pages gave', async () => {
    for (const after of ['x', NaN, '0', Buffer.from('99999999999999999 x').toString('base64url')])
      expect((await fetch(`${address}/api/v1/tapes?after=${after}`)).status).toBe(400);
  });

  it('shows the newest of ten thousand revisions within 50 ms, and the oldest on the last page', async () => {
    const { page, least } = await look(`/${id}/revisions`);
    expect(least).toBeLessThan(50);
    expect([page.items.length, page.items[0]?.number, page.next]).toEqual([200, REVISIONS, REVISIONS - 199]);
    const last = (await look(`/${id}/revisions?limit=1000&before=600`)).page;
    expect([last.items[0]?.number, last.items.at(-1)?.number, last.next]).toEqual([599, 1, null]);
  });
});

describe('a project with two thousand tunings', () => {
  const TUNINGS = 2000;
  let project: string;
  beforeAll(async () => {
    ({ id: project } = (await client.query(`insert into projects (name) values ('Crowded') returning id`)).rows[0]);
    await client.query(
      `with made as (
         insert into documents (project_id, kind, name, head, line, numbers)
         select $1, 'tuning', 'Coat ' || n, 3, 'walk ' || n, jsonb_build_object('pace.walkSpeed', n, 'body.radius', n / 10.0) from generate_series(1, $2) n
         returning id)
       insert into revisions (document_id, number, note, hash, file)
       select id, k, 'Sewn ' || k, repeat('0', 64), '{}' from made, generate_series(1, 3) k`,
      [project, TUNINGS],
    );
    await client.query('analyze documents, revisions');
  });
  afterAll(() => client.query('delete from projects where id = $1', [project]));

  it.each([
    ['its first page', '', 50],
    ['what is found by a name', '&q=coat%201999', 1],
    ['what is found by a note', '&q=sewn%202', 50],
    ['what is found by numbers', `&q=${encodeURIComponent('walk > 1000, radius < 150')}`, 50],
    ['what is found by nothing', '&q=boat', 0],
    ['it by name', '&sort=name', 50],
  ])('shows %s within 100 ms', async (_, query, count) => {
    let least = Infinity;
    for (let i = 0; i < 7; i++) {
      const begun = performance.now();
      const answer = await fetch(`${address}/api/v1/projects/${project}/shelf?kind=tunings${query}`);
      const page = (await answer.json()) as { items: { revisions: unknown[] }[] };
      expect([answer.status, page.items.length]).toEqual([200, count]);
      expect(page.items.every(({ revisions }) => revisions.length === 3)).toBe(true);
      least = Math.min(least, performance.now() - begun);
    }
    expect(least).toBeLessThan(100);
  });
});
