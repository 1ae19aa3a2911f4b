import '../../../../testing/provided.ts';
import { request } from 'node:http';
import { beforeEach, describe, expect, inject, it } from 'vitest';

const address = inject('address');
const tuning = { format: 'zygopod/tuning', version: 2, name: 'Test boots', pace: { walkSpeed: 120 } };

function call(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<Response> {
  return fetch(`${address}/api/v1${path}`, {
    method,
    headers: body === undefined ? headers : { 'content-type': 'application/json', ...headers },
    body: body === undefined ? null : typeof body === 'string' ? body : JSON.stringify(body),
  });
}

let id: string;
beforeEach(async () => {
  const created = await call('POST', '/tunings', { file: tuning });
  expect(created.status).toBe(201);
  id = ((await created.json()) as { id: string }).id;
});

describe('tunings', () => {
  it('are made, read with an ETag, listed a page at a time, and deleted', async () => {
    const read = await call('GET', `/tunings/${id}`);
    expect(read.headers.get('etag')).toBe('"1"');
    expect(await read.json()).toMatchObject({ name: 'Test boots', head: 1, file: tuning });
    const first = (await (await call('GET', '/tunings?limit=1')).json()) as { items: { id: string }[]; next: string };
    const second = (await (await call('GET', `/tunings?limit=1&after=${first.next}`)).json()) as { items: { id: string }[] };
    expect(first.items).toHaveLength(1);
    expect(second.items[0]?.id).not.toBe(first.items[0]?.id);
    expect((await call('DELETE', `/tunings/${id}`)).status).toBe(428);
    expect((await call('DELETE', `/tunings/${id}`, undefined, { 'if-match': '"7"' })).status).toBe(409);
    expect((await call('DELETE', `/tunings/${id}`, undefined, { 'if-match': '"1"' })).status).toBe(204);
    expect((await call('GET', `/tunings/${id}`)).status).toBe(404);
  });

  it('have the id that their maker has drawn, once', async () => {
    const own = crypto.randomUUID();
    const created = await call('POST', '/tunings', { file: tuning, id: own });
    expect([created.status, created.headers.get('location')]).toEqual([201, `/api/v1/tunings/${own}`]);
    const other = { ...tuning, name: 'Others' };
    for (const collection of ['tunings', 'grounds']) {
      const file =
        collection === 'tunings'
          ? other
          : { format: 'zygopod/ground', version: 1, name: 'Yard', size: { width: 64, height: 64 }, start: { x: 9, y: 9 } };
      const again = await call('POST', `/${collection}`, { file, id: own });
      expect([again.status, await again.json()]).toEqual([409, expect.objectContaining({ title: 'A document has this id already' })]);
    }
    expect(await (await call('GET', `/tunings/${own}`)).json()).toMatchObject({ name: 'Test boots', head: 1 });
    expect((await call('POST', '/tunings', { file: tuning, id: 'mine' })).status).toBe(400);
  });

  it('keep a draft only from the version last seen', async () => {
    const created = await call('PUT', `/tunings/${id}/draft`, { file: tuning }, { 'if-none-match': '*' });
    expect([created.status, created.headers.get('etag')]).toEqual([201, '"1"']);
    const next = await call('PUT', `/tunings/${id}/draft`, { file: { ...tuning, pace: { walkSpeed: 130 } } }, { 'if-match': '"1"' });
    expect([next.status, next.headers.get('etag')]).toEqual([200, '"2"']);
    const late = await call('PUT', `/tunings/${id}/draft`, { file: tuning }, { 'if-match': '"1"' });
    expect(late.status).toBe(409);
    expect(await late.json()).toMatchObject({ current: { version: 2, file: { pace: { walkSpeed: 130 } } } });
    expect((await call('PUT', `/tunings/${id}/draft`, { file: tuning })).status).toBe(428);
  });

  it('gain revisions that never change, one on top of the other, and end their draft', async () => {
    await call('PUT', `/tunings/${id}/draft`, { file: tuning }, { 'if-none-match': '*' });
    const second = { ...tuning, pace: { walkSpeed: 160 } };
    const saved = await call('POST', `/tunings/${id}/revisions`, { file: second, note: 'Faster', draft: '"1"' }, { 'if-match': '"1"' });
    expect(saved.status).toBe(201);
    expect(await saved.json()).toMatchObject({ number: 2, draft: null });
    expect((await call('GET', `/tunings/${id}/draft`)).status).toBe(404);
    const late = await call('POST', `/tunings/${id}/revisions`, { file: tuning }, { 'if-match': '"1"' });
    expect(late.status).toBe(409);
    expect(await late.json()).toMatchObject({ current: { number: 2, file: second } });
    const history = (await (await call('GET', `/tunings/${id}/revisions`)).json()) as {
      items: { number: number; parent: number | null; note: string; hash: string }[];
    };
    expect(history.items.map(({ number, parent, note }) => ({ number, parent, note }))).toEqual([
      { number: 2, parent: 1, note: 'Faster' },
      { number: 1, parent: null, note: '' },
    ]);
    expect(await (await call('GET', `/tunings/${id}/revisions/1`)).json()).toMatchObject({ file: tuning });
  });

  it('count the versions of their drafts on, so that a stale one never meets its number again', async () => {
    const put = (version: string, speed: number) =>
      call(
        'PUT',
        `/tunings/${id}/draft`,
        { file: { ...tuning, pace: { walkSpeed: speed } } },
        version === '*' ? { 'if-none-match': '*' } : { 'if-match': version },
      );
    expect((await put('*', 1)).headers.get('etag')).toBe('"1"');
    await call('POST', `/tunings/${id}/revisions`, { file: tuning, draft: '1' }, { 'if-match': '"1"' });
    expect((await put('*', 2)).headers.get('etag')).toBe('"2"');
    const stale = await put('"1"', 3);
    expect(stale.status).toBe(409);
    expect(await stale.json()).toMatchObject({ current: { version: 2, file: { pace: { walkSpeed: 2 } } } });
    expect((await call('DELETE', `/tunings/${id}/draft`)).status).toBe(428);
    expect((await call('DELETE', `/tunings/${id}/draft`, undefined, { 'if-match': '"1"' })).status).toBe(409);
    expect((await call('DELETE', `/tunings/${id}/draft`, undefined, { 'if-match': '"2"' })).status).toBe(204);
    expect((await put('*', 4)).headers.get('etag')).toBe('"3"');
  });

  it('take no first draft that was made from an older revision: it knows nothing of the newest', async () => {
    await call('POST', `/tunings/${id}/revisions`, { file: tuning }, { 'if-match': '"1"' });
    const late = await call('PUT', `/tunings/${id}/draft`, { file: tuning, base: 1 }, { 'if-none-match': '*' });
    expect(late.status).toBe(409);
    expect(await late.json()).toMatchObject({ current: null });
    expect((await call('PUT', `/tunings/${id}/draft`, { file: tuning, base: 3 }, { 'if-none-match': '*' })).status).toBe(422);
    expect((await call('PUT', `/tunings/${id}/draft`, { file: tuning, base: 2 }, { 'if-none-match': '*' })).status).toBe(201);
  });

  it('keep a draft that a saved revision does not name, and hand it to whoever saved', async () => {
    const theirs = { ...tuning, pace: { walkSpeed: 177 } };
    await call('PUT', `/tunings/${id}/draft`, { file: theirs }, { 'if-none-match': '*' });
    const saved = await call('POST', `/tunings/${id}/revisions`, { file: tuning }, { 'if-match': '"1"' });
    expect(saved.status).toBe(201);
    expect(await saved.json()).toMatchObject({ number: 2, draft: { version: 1, base: 1, file: theirs } });
    expect(await (await call('GET', `/tunings/${id}/draft`)).json()).toMatchObject({ version: 1, file: theirs });
  });

  it('cannot hold what the database cannot, and say so', async () => {
    for (const name of ['Boots\u0000', 'Boots\ud800']) {
      const answer = await call('POST', '/tunings', { file: { ...tuning, name } });
      expect(answer.status).toBe(422);
      expect(answer.headers.get('content-type')).toContain('application/problem+json');
    }
    for (const kind of ['constructor', '__proto__', 'toString']) expect((await call('GET', `/${kind}`)).status).toBe(404);
  });

  it('let only one of two simultaneous saves through', async () => {
    const saves = await Promise.all(
      [1, 2, 3, 4].map((n) => call('POST', `/tunings/${id}/revisions`, { file: { ...tuning, name: `Boots ${n}` } }, { 'if-match': '"1"' })),
    );
    expect(saves.map(({ status }) => status).sort()).toEqual([201, 409, 409, 409]);
  });
});

describe('bad input is answered with problem+json', () => {
  const deep = `${'['.repeat(50_000)}${']'.repeat(50_000)}`;
  it.each([
    ['an unknown key', { ...tuning, pace: { walkSped: 1 } }, 'pace.walkSped'],
    ['a wrong type', { ...tuning, pace: { walkSpeed: 'fast' } }, 'pace.walkSpeed'],
    [
      'a link loop',
      { ...tuning, pace: { walkSpeed: { of: 'pace.sprintSpeed' }, sprintSpeed: { of: 'pace.walkSpeed' } } },
      'pace.sprintSpeed',
    ],
    ['a newer version', { ...tuning, version: 9 }, 'version'],
    ['out of range', { ...tuning, pace: { walkSpeed: -1 } }, 'pace.walkSpeed'],
    ['no object', null, ''],
  ])('%s', async (_, file, path) => {
    const answer = await call('POST', '/tunings', { file });
    expect(answer.status).toBe(422);
    expect(answer.headers.get('content-type')).toBe('application/problem+json');
    const problem = (await answer.json()) as { errors: { path: string }[] };
    expect(problem.errors[0]?.path).toBe(path);
  });

  it.each([
    ['no JSON', 'POST', '/tunings', '{"file":NaN}', 400],
    ['deep JSON', 'POST', '/tunings', `{"file":${deep}}`, 422],
    ['a huge body', 'POST', '/tunings', `{"file":"${'x'.repeat(300_000)}"}`, 413],
    ['an id that is none', 'GET', '/tunings/1', undefined, 400],
    ['an unknown id', 'GET', '/tunings/00000000-0000-4000-8000-000000000000', undefined, 404],
    ['an unknown collection', 'GET', '/dogs', undefined, 404],
    ['an unknown path', 'GET', '/tunings/x/y/z/0', undefined, 404],
    ['a bad page', 'GET', '/tunings?limit=0', undefined, 400],
  ])('%s', async (_, method, path, body, status) => {
    const answer = await call(method, path, body);
    expect(answer.status).toBe(status);
    expect(answer.headers.get('content-type')).toBe('application/problem+json');
    expect(await answer.text()).not.toMatch(/node_modules|\.ts:\d/);
  });

  it('refuses writes from another origin and bodies that are no JSON', async () => {
    expect((await call('POST', '/tunings', { file: tuning }, { origin: 'http://elsewhere.example' })).status).toBe(403);
    expect(
      (await fetch(`${address}/api/v1/tunings`, { method: 'POST', headers: { 'content-type': 'text/plain' }, body: '{}' })).status,
    ).toBe(415);
  });
});

describe('the formats', () => {
  it('have their JSON Schema', async () => {
    const schema = (await (await call('GET', '/schemas/tuning')).json()) as { properties: Record<string, unknown> };
    expect(schema.properties).toHaveProperty('pace');
    expect((await call('GET', '/schemas/boat')).status).toBe(404);
  });
});

describe('the pages', () => {
  it('open the demo, and say so when there is nothing', async () => {
    const first = await fetch(address, { redirect: 'manual' });
    expect(first.status).toBe(302);
    expect(first.headers.get('location')).toMatch(/^\/bench\/[0-9a-f-]{36}$/);
    expect((await fetch(`${address}/bench/nothing`)).status).toBe(404);
    const bench = await fetch(`${address}${first.headers.get('location')}`);
    expect(bench.headers.get('content-security-policy')).toContain("default-src 'self'");
    expect(bench.headers.get('content-security-policy')).not.toContain('unsafe');
  });
});

describe('a rebound host name', () => {
  it('is answered with 421, on pages and on the API, and changes nothing', async () => {
    const { port } = new URL(address);
    const ask = (path: string, host: string) =>
      new Promise<number>((resolve, reject) => {
        const sent = request({ host: '127.0.0.1', port, path, headers: { host } }, (answer) => {
          answer.resume();
          resolve(answer.statusCode ?? 0);
        });
        sent.on('error', reject).end();
      });
    for (const path of ['/', '/api/v1/tunings', '/api/v1/health']) {
      expect(await ask(path, 'evil.example')).toBe(421);
      expect(await ask(path, `evil.example:${port}`)).toBe(421);
      expect([200, 302]).toContain(await ask(path, `localhost:${port}`));
    }
  });
});
