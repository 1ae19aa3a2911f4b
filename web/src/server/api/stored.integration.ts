import '../../../../testing/provided.ts';
import { canonicalText, readAny } from '@zygopod/core';
import pg from 'pg';
import { afterAll, beforeAll, expect, inject, it } from 'vitest';

/** Documents whose stored rows no request of today could have written: of older versions, or more than one file may hold. */

const api = `${inject('address')}/api/v1`;
const client = new pg.Client({ connectionString: inject('databaseUrl') });
beforeAll(() => client.connect());
afterAll(() => client.end());

interface Answer {
  id: string;
  file: object;
  title: string;
  found: number;
  tunings: object[];
}

async function ask(method: string, path: string, body?: unknown, headers: Record<string, string> = {}) {
  const answer = await fetch(`${api}${path}`, {
    method,
    headers: { ...(body === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
    body: body === undefined ? null : JSON.stringify(body),
  });
  return { status: answer.status, value: (await answer.json()) as Answer };
}

const project = async (name: string) => (await ask('POST', '/projects', { name })).value.id;

it.each([
  { format: 'zygopod/tuning', version: 1, name: 'Old boots', pace: { walkSpeed: 150 }, contact: { maxSlides: 3 } },
  { format: 'zygopod/tuning', version: 1, name: 'Older boots', ramp: { accelerate: 800 } },
])('a file of an old version is returned in the newest, everywhere: $name', async (old) => {
  const read = readAny(structuredClone(old));
  const newest = read.ok ? read.value.members[0]?.reading : undefined;
  if (!newest?.ok) throw new Error('the oracle can’t read it');
  const own = await project('Old post');
  const { value: created } = await ask('POST', `/tunings?project=${own}`, { file: { format: 'zygopod/tuning', version: 2, name: 'New' } });
  await ask('PUT', `/tunings/${created.id}/draft`, { file: old, base: 1 }, { 'if-none-match': '*' });
  for (const table of ['revisions', 'drafts'])
    await client.query(`update ${table} set file = $2 where document_id = $1`, [created.id, JSON.stringify(old)]);
  for (const path of ['', '/draft', '/revisions/1'])
    expect(canonicalText((await ask('GET', `/tunings/${created.id}${path}`)).value.file), path).toBe(canonicalText(newest.value));
  expect(canonicalText((await ask('GET', `/projects/${own}/file`)).value.tunings)).toBe(canonicalText([newest.value]));
});

it('a project too large for one file is refused with its size and an alternative; just below, it is one readable file', async () => {
  const own = await project('Heavy post');
  const add = (name: string, megabytes: number) =>
    client.query(
      `with made as (insert into documents (project_id, kind, name, head) values ($1, 'tape', $2, 1) returning id)
       insert into revisions (document_id, number, hash, file)
       select id, 1, '', jsonb_build_object('name', $2::text, 'pad', repeat('x', $3)) from made`,
      [own, name, megabytes * 1e6],
    );
  for (const n of [1, 2, 3, 4]) await add(`Tape ${n}`, 15);
  const whole = (await (await fetch(`${api}/projects/${own}/file`)).json()) as { tapes: { name: string; pad: string }[] };
  expect(whole.tapes.map(({ name, pad }) => [name, pad.length])).toEqual([1, 2, 3, 4].map((n) => [`Tape ${n}`, 15e6]));
  await add('Tape 5', 15);
  const { status, value } = await ask('GET', `/projects/${own}/file`);
  expect([status, value.title]).toEqual([422, expect.stringMatching(/75\.0 MB, a project file at most 67\.1 MB.*zygopod pull/)]);
  expect(value.found).toBeGreaterThan(75e6);
  await client.query('delete from projects where id = $1', [own]);
});

it('projects come a page at a time, none twice and none left out', async () => {
  const ids = await Promise.all(Array.from({ length: 7 }, (_, i) => project(`Paged ${i}`)));
  const found: string[] = [];
  for (let next: string | null = ''; next !== null; ) {
    const page = (await (await fetch(`${api}/projects?limit=3${next ? `&after=${next}` : ''}`)).json()) as {
      items: { id: string }[];
      next: string | null;
    };
    expect(page.items.length).toBeLessThanOrEqual(3);
    found.push(...page.items.map(({ id }) => id));
    next = page.next;
  }
  const { items } = (await (await fetch(`${api}/projects`)).json()) as { items: { id: string }[] };
  expect(found).toEqual(items.map(({ id }) => id));
  expect(new Set(found).size).toBe(found.length);
  for (const id of ids) expect(found).toContain(id);
});
