import '../../../../testing/provided.ts';
import { beforeAll, describe, expect, inject, it } from 'vitest';
import { Described } from '../../testing/described.ts';
import { fitsAnswer } from '../../testing/fitsAnswer.ts';
import { handOffsAnswer } from '../../testing/handOffsAnswer.ts';
import { lapsAnswer } from '../../testing/lapsAnswer.ts';
import { linksAnswer } from '../../testing/linksAnswer.ts';
import { sourcesAnswer } from '../../testing/sourcesAnswer.ts';
import { sweepsAnswer } from '../../testing/sweepsAnswer.ts';
import { operations } from './operations/index.ts';

const tuning = { format: 'zygopod/tuning', version: 2, name: 'Described boots' };
const ground = { format: 'zygopod/ground', version: 1, name: 'Described yard', size: { width: 64, height: 64 }, start: { x: 9, y: 9 } };
const tape = { format: 'zygopod/tape', version: 2, name: 'Described hands', hz: 60, ticks: 9, events: [{ at: 0, press: 'up' }] };
const targets = { format: 'zygopod/targets', version: 1, name: 'Described bands', targets: [{ metric: 'riseTime', max: 1 }] };
const files = { tunings: tuning, grounds: ground, tapes: tape, targets };
const NOBODY = '00000000-0000-4000-8000-000000000000';

const described = new Described(inject('address'));
beforeAll(() => described.load());
const ask = described.ask.bind(described);
const address = described.address;
/** A new document; its id. */
const created = async (kind: 'tunings' | 'grounds') =>
  (await ask('POST', '/{kind}', { kind }, 201, { body: { file: files[kind] } })).value['id'] as string;

describe('the description of the API', () => {
  it('is OpenAPI 3.1 and holds every operation', () => {
    expect(described.description.openapi).toMatch(/^3\.1\./);
    const listed = Object.entries(described.description.paths).flatMap(([path, methods]) =>
      Object.keys(methods).map((m) => `${m} ${path}`),
    );
    expect(described.faultsOf('/{kind}', 'post', 201, 'application/json', { id: NOBODY })).not.toEqual([]);
    expect(listed.sort()).toEqual(operations.map(({ method, path }) => `${method.toLowerCase()} ${path}`).sort());
  });

  it.each(Object.keys(files) as (keyof typeof files)[])('is what %s are answered by', async (kind) => {
    const file = files[kind];
    const all = '/{kind}';
    const one = '/{kind}/{id}';
    const draft = '/{kind}/{id}/draft';
    const revisions = '/{kind}/{id}/revisions';
    const { value } = await ask('POST', all, { kind }, 201, { body: { file } });
    const at = { kind, id: value['id'] as string, number: '1' };
    const nobody = { kind, id: NOBODY, number: '1' };
    await ask('GET', all, { kind }, 200, { query: '?limit=3&q=described' });
    await ask('GET', all, { kind }, 400, { query: '?limit=0' });
    await ask('GET', all, { kind: 'boats' }, 404);
    await ask('POST', all, { kind }, 409, { body: { file, id: value['id'] } });
    await ask('POST', all, { kind }, 400, { body: '{' });
    await ask('POST', all, { kind }, 415, { body: 'file', headers: { 'content-type': 'text/plain' } });
    await ask('POST', all, { kind }, 422, { body: { file: { ...file, surprise: 1 } } });
    await ask('POST', all, { kind }, 403, { body: { file }, headers: { origin: 'http://elsewhere.example' } });
    await ask('GET', one, at, 200);
    await ask('GET', one, at, 304, { headers: { 'if-none-match': 'W/"1"' } });
    await ask('GET', one, { ...at, id: '7' }, 400);
    await ask('GET', one, nobody, 404);
    await ask('GET', draft, at, 404);
    await ask('PUT', draft, at, 428, { body: { file } });
    await ask('PUT', draft, at, 201, { body: { file, base: 1 }, headers: { 'if-none-match': '*' } });
    await ask('PUT', draft, at, 200, { body: { file }, headers: { 'if-match': '"8", "1"' } });
    await ask('PUT', draft, at, 409, { body: { file }, headers: { 'if-match': 'W/"2"' } });
    await ask('GET', draft, at, 200);
    await ask('GET', draft, at, 304, { headers: { 'if-none-match': '"2"' } });
    await ask('POST', revisions, at, 428, { body: { file } });
    await ask('POST', revisions, at, 201, { body: { file, note: 'Again', draft: '"2"' }, headers: { 'if-match': '"1"' } });
    await ask('POST', revisions, at, 409, { body: { file }, headers: { 'if-match': '"1"' } });
    await ask('GET', revisions, at, 200, { query: '?limit=1' });
    await ask('GET', revisions, at, 200, { query: '?before=2' });
    await ask('GET', `${revisions}/{number}`, at, 200);
    await ask('GET', `${revisions}/{number}`, { ...at, number: '0' }, 400);
    await ask('GET', `${revisions}/{number}`, { ...at, number: '99' }, 404);
    const { value: named } = await ask('PUT', `${revisions}/{number}/name`, at, 200, { body: { name: ' alpha ' } });
    expect(named).toMatchObject({ number: 1, name: 'alpha' });
    await ask('PUT', `${revisions}/{number}/name`, { ...at, number: '99' }, 404, { body: { name: 'beta' } });
    await ask('PUT', `${revisions}/{number}/name`, nobody, 404, { body: { name: 'beta' } });
    await ask('PUT', `${revisions}/{number}/name`, at, 422, { body: { name: 'x'.repeat(61) } });
    await ask('DELETE', draft, at, 404, { headers: { 'if-match': '"2"' } });
    await ask('PUT', draft, at, 201, { body: { file }, headers: { 'if-none-match': '*' } });
    await ask('DELETE', draft, at, 428);
    await ask('DELETE', draft, at, 409, { headers: { 'if-match': '"2"' } });
    await ask('DELETE', draft, at, 204, { headers: { 'if-match': '"3"' } });
    await ask('POST', '/{kind}/{id}/back', at, 409);
    await ask('DELETE', '/{kind}/{id}/forever', at, 409, { headers: { 'if-match': '"2"' } });
    await ask('DELETE', one, at, 428);
    await ask('DELETE', one, at, 409, { headers: { 'if-match': '"1"' } });
    await ask('DELETE', one, at, 204, { headers: { 'if-match': '"2"' } });
    await ask('GET', one, at, 404);
    await ask('GET', all, { kind }, 200, { query: '?away=true' });
    await ask('POST', '/{kind}/{id}/back', at, 200);
    await ask('GET', one, at, 200);
    await ask('DELETE', one, at, 204, { headers: { 'if-match': '*' } });
    await ask('DELETE', '/{kind}/{id}/forever', at, 428);
    await ask('DELETE', '/{kind}/{id}/forever', at, 204, { headers: { 'if-match': '"2"' } });
    await ask('POST', '/{kind}/{id}/back', at, 404);
  });

  it('is what blind trials are answered by: rounds are found by their pair, whichever is which', async () => {
    const [a, b, yard] = await Promise.all([created('tunings'), created('tunings'), created('grounds')]);
    const round = {
      who: 'Wren',
      choice: 'a',
      why: 'stops "sooner", and cleaner',
      first: 'b',
      a: { id: a, revision: 2, name: 'Brisk' },
      b: { id: b, revision: 1, name: 'Heavy' },
      ground: yard,
    };
    const { value: kept } = await ask('POST', '/trials', {}, 201, { body: round });
    expect(kept).toMatchObject(round);
    for (const over of [{ ground: NOBODY }, { a: { ...round.a, id: NOBODY } }, { b: { ...round.b, id: NOBODY } }])
      await ask('POST', '/trials', {}, 404, { body: { ...round, ...over } });
    await ask('POST', '/trials', {}, 201, { body: { ...round, choice: 'none', a: round.b, b: round.a } });
    await ask('POST', '/trials', {}, 422, { body: { ...round, choice: 'both' } });
    await ask('POST', '/trials', {}, 422, { body: { ...round, who: 'W'.repeat(81) } });
    await ask('POST', '/trials', {}, 400, { body: '{' });
    await ask('POST', '/trials', {}, 413, { body: { ...round, why: 'x'.repeat(70_000) } });
    await ask('POST', '/trials', {}, 415, { body: 'round', headers: { 'content-type': 'text/plain' } });
    const { value: all } = await ask('GET', '/trials', {}, 200, { query: `?a=${b}&b=${a}` });
    expect((all['items'] as { choice: string }[]).map(({ choice }) => choice)).toEqual(['none', 'a']);
    const { value: other } = await ask('GET', '/trials', {}, 200, { query: `?a=${a}&b=${NOBODY}` });
    expect(other['items']).toEqual([]);
    await ask('GET', '/trials', {}, 400, { query: '?a=7' });
    // A page at a time is the same list.
    const paged: string[] = [];
    for (let next: unknown = ''; next !== null; ) {
      const { value } = await ask('GET', '/trials', {}, 200, { query: `?a=${a}&b=${b}&limit=1${next ? `&after=${next}` : ''}` });
      paged.push(...(value['items'] as { choice: string }[]).map(({ choice }) => choice));
      next = value['next'];
    }
    expect(paged).toEqual(['none', 'a']);
    const { value: csv } = await ask('GET', '/trials.csv', {}, 200, { query: `?a=${a}&b=${b}` });
    const lines = String(csv['text']).split('\r\n');
    expect(lines[0]).toBe('when,who,better,why,first,a,revision of a,b,revision of b,ground');
    expect(lines[2]).toContain('Wren,Brisk,"stops ""sooner"", and cleaner",Heavy,Brisk,2,Heavy,1');
    // A vote outlives its ground, and goes with its tuning.
    const forever = async (kind: string, id: string) => {
      await ask('DELETE', '/{kind}/{id}', { kind, id }, 204, { headers: { 'if-match': '*' } });
      await ask('DELETE', '/{kind}/{id}/forever', { kind, id }, 204, { headers: { 'if-match': '*' } });
    };
    await forever('grounds', yard);
    const { value: without } = await ask('GET', '/trials', {}, 200, { query: `?a=${a}&b=${b}` });
    expect((without['items'] as { ground: unknown }[]).map((one) => one.ground)).toEqual([null, null]);
    await forever('tunings', b);
    expect((await ask('GET', '/trials', {}, 200, { query: `?a=${a}&b=${b}` })).value['items']).toEqual([]);
  });

  it('is what reports are answered by: those of a tuning, newest first', async () => {
    const tuning = { id: await created('tunings'), revision: 2, name: 'Brisk' };
    const report = {
      tuning,
      changedSince: false,
      ground: { id: NOBODY, revision: 1, name: 'Boardwalk' },
      targets: { id: null, revision: 0, name: 'Like Brisk' },
      core: '0.1.0',
      metrics: { riseTime: 0.154, 'slideKept(45)': 0.71 },
      judged: [
        { metric: 'riseTime', min: 0.1, max: 0.15, ok: false },
        { metric: 'stepTime', max: 0.2, ok: null },
      ],
      snags: [{ id: 'sprint-on-empty', severity: 'fault' }],
    };
    const { value: kept } = await ask('POST', '/reports', {}, 201, { body: report });
    expect(kept).toMatchObject(report);
    await ask('POST', '/reports', {}, 201, { body: { ...report, tuning: { ...tuning, revision: 3 } } });
    await ask('POST', '/reports', {}, 404, { body: { ...report, tuning: { ...tuning, id: NOBODY } } });
    await ask('POST', '/reports', {}, 422, { body: { ...report, metrics: { 'rise time': 1 } } });
    await ask('POST', '/reports', {}, 422, { body: { ...report, core: 'newest' } });
    await ask('POST', '/reports', {}, 422, { body: { ...report, tuning: { ...tuning, name: 'a\0b' } } });
    await ask('POST', '/reports', {}, 413, { body: { ...report, snags: Array(2000).fill({ id: 'x'.repeat(40), severity: 'hint' }) } });
    const { value: all } = await ask('GET', '/reports', {}, 200, { query: `?tuning=${tuning.id}` });
    expect((all['items'] as { tuning: { revision: number } }[]).map((one) => one.tuning.revision)).toEqual([3, 2]);
    const { value: one } = await ask('GET', '/reports', {}, 200, { query: `?tuning=${tuning.id}&limit=1` });
    expect(one['items']).toHaveLength(1);
    expect((await ask('GET', '/reports', {}, 200, { query: `?tuning=${NOBODY}` })).value['items']).toEqual([]);
    await ask('GET', '/reports', {}, 400);
  });

  handOffsAnswer(described, { tuning, tape, targets });
  sourcesAnswer(described, tuning);
  lapsAnswer(described, tuning);
  fitsAnswer(described, tuning);
  linksAnswer(described);
  sweepsAnswer(described, tuning);

  it('matches the answers for projects: created, filled, searched, archived and restored', async () => {
    const { value } = await ask('POST', '/projects', {}, 201, { body: { name: ' Tide mill ', names: { 'pace.walkSpeed': 'walk_speed' } } });
    expect(value).toMatchObject({ name: 'Tide mill', unit: 'px', names: { 'pace.walkSpeed': 'walk_speed' }, isDemo: false });
    const at = { id: value['id'] as string };
    const nobody = { id: NOBODY };
    await ask('POST', '/projects', {}, 422, { body: { name: '  ' } });
    await ask('POST', '/projects', {}, 422, { body: { name: 'Mill', unit: 'miles' } });
    await ask('GET', '/projects/{id}', nobody, 404);
    expect((await ask('PUT', '/projects/{id}', at, 200, { body: { unit: 'm' } })).value).toMatchObject({ name: 'Tide mill', unit: 'm' });
    await ask('PUT', '/projects/{id}', at, 200, { body: {} });
    await ask('PUT', '/projects/{id}', at, 409, { body: { unit: 'px' }, headers: { 'if-match': '"1"' } });
    expect((await ask('GET', '/projects/{id}/versions', at, 200)).value).toMatchObject({ items: [{ unit: 'm' }, { unit: 'px' }] });
    await ask('PUT', '/projects/{id}', nobody, 404, { body: { name: 'None' } });
    const inIt = `?project=${at.id}`;
    for (const [i, walkSpeed] of [90, 150, 210].entries())
      await ask('POST', '/{kind}', { kind: 'tunings' }, 201, {
        body: { file: { ...files.tunings, name: `Miller ${'cab'[i]}`, pace: { walkSpeed } }, note: i === 1 ? 'Sacks of 100 %' : '' },
        query: inIt,
      });
    await ask('POST', '/{kind}', { kind: 'tunings' }, 404, { body: { file: files.tunings }, query: `?project=${NOBODY}` });
    await ask('POST', '/{kind}', { kind: 'tapes' }, 201, { body: { file: files.tapes }, query: inIt });
    expect((await ask('GET', '/projects/{id}', at, 200)).value).toMatchObject({ counts: { tuning: 3, tape: 1, ground: 0, away: 0 } });
    const shelf = async (query: string) => {
      const { value } = await ask('GET', '/projects/{id}/shelf', at, 200, { query: `?kind=tunings&${query}` });
      return { ...value, names: (value['items'] as { name: string }[]).map(({ name }) => name) };
    };
    expect((await shelf('sort=name')).names).toEqual(['Miller a', 'Miller b', 'Miller c']);
    expect((await shelf('sort=made')).names).toEqual(['Miller b', 'Miller a', 'Miller c']);
    expect((await shelf(`q=${encodeURIComponent('walk > 100, sprint < 300')}`)).names).toEqual(['Miller a']);
    expect((await shelf(`q=${encodeURIComponent('walk = 210')}`)).names).toEqual(['Miller b']);
    expect((await shelf(`q=${encodeURIComponent('100 %')}`)).names).toEqual(['Miller a']);
    expect((await shelf('q=nobody')).names).toEqual([]);
    for (const sort of ['name', 'made', 'changed']) {
      const whole = (await shelf(`sort=${sort}`)).names;
      const seen: string[] = [];
      for (let next: unknown = ''; next !== null; ) {
        const page: { names: string[]; next?: unknown } = await shelf(`sort=${sort}&limit=1${next ? `&after=${next}` : ''}`);
        seen.push(...page.names);
        next = page.next;
      }
      expect(seen, sort).toEqual(whole);
    }
    await ask('GET', '/projects/{id}/shelf', at, 400, { query: '?after=nowhere' });
    await ask('GET', '/projects/{id}/shelf', nobody, 404);
    const { value: file } = await ask('GET', '/projects/{id}/file', at, 200);
    expect(file).toMatchObject({
      format: 'zygopod/project',
      name: 'Tide mill',
      unit: 'm',
      tunings: [{ name: 'Miller c' }, {}, {}],
      grounds: [],
    });
    await ask('GET', '/projects/{id}/file', nobody, 404);
    await ask('POST', '/projects/{id}/demo', at, 404);
    await ask('DELETE', '/projects/{id}', at, 204);
    await ask('GET', '/projects/{id}', at, 404);
    const away = (await ask('GET', '/projects', {}, 200, { query: '?away=true' })).value['items'] as { id: string }[];
    expect(away.map(({ id }) => id)).toContain(at.id);
    await ask('POST', '/projects/{id}/back', at, 200);
    await ask('POST', '/projects/{id}/back', nobody, 404);
    const { value: all } = await ask('GET', '/projects', {}, 200);
    expect((all['items'] as { isDemo: boolean }[]).filter(({ isDemo }) => isDemo)).toHaveLength(1);
    await ask('DELETE', '/projects/{id}', at, 204);
  });

  it('brings the demo back whole, and loses nothing of what became of it', async () => {
    const { value: all } = await ask('GET', '/projects', {}, 200);
    const demo = (all['items'] as { id: string; isDemo: boolean }[]).find(({ isDemo }) => isDemo) as { id: string };
    const shelf = async (query: string) =>
      (await ask('GET', '/projects/{id}/shelf', demo, 200, { query: `?limit=200&kind=tunings${query}` })).value['items'] as {
        id: string;
        name: string;
        head: number;
        demo: string | null;
        revisions: { hash: string }[];
      }[];
    const of = async (file: string) => (await shelf('')).find(({ demo }) => demo === file);
    const [pram, clerk] = [await of('pram-cart.tuning.json'), await of('sorting-clerk.tuning.json')];
    if (!pram || !clerk) throw new Error('the demo is not whole');
    const etag = { 'if-match': `"${pram.head}"` };
    await ask('POST', '/{kind}/{id}/revisions', { kind: 'tunings', id: pram.id }, 201, {
      body: { file: { ...files.tunings, name: 'Changed' } },
      headers: etag,
    });
    await ask('DELETE', '/{kind}/{id}', { kind: 'tunings', id: clerk.id }, 204, { headers: { 'if-match': '*' } });
    await ask('POST', '/projects/{id}/demo', demo, 200);
    const [whole, back] = [await of('pram-cart.tuning.json'), await of('sorting-clerk.tuning.json')];
    expect(back).toMatchObject({ id: clerk.id, head: clerk.head });
    expect(whole).toMatchObject({ id: pram.id, name: pram.name, head: pram.head + 2 });
    expect(whole?.revisions[0]?.hash).toBe(pram.revisions[0]?.hash);
    // What is as it was shipped gets no revision more.
    await ask('POST', '/projects/{id}/demo', demo, 200);
    expect(await of('pram-cart.tuning.json')).toMatchObject({ head: pram.head + 2 });
  });

  it('reports changes as they happen', async () => {
    const over = new AbortController();
    const answer = await fetch(`${address}/api/v1/changes`, { signal: over.signal });
    expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'text/event-stream']);
    described.seen.add('GET /changes 200');
    const reader = (answer.body as ReadableStream<Uint8Array>).getReader();
    let heard = '';
    const until = async (words: string) => {
      while (!heard.includes(words)) heard += new TextDecoder().decode((await reader.read()).value);
    };
    await until(': listening');
    const { value } = await ask('POST', '/{kind}', { kind: 'tapes' }, 201, { body: { file: files.tapes } });
    const at = { kind: 'tapes', id: value['id'] as string };
    await until('"is":"made"');
    await ask('POST', '/{kind}/{id}/revisions', at, 201, { body: { file: files.tapes }, headers: { 'if-match': '"1"' } });
    await until(`{"kind":"tape","id":"${at.id}","head":2,"is":"saved"}`);
    await ask('DELETE', '/{kind}/{id}', at, 204, { headers: { 'if-match': '*' } });
    await until('"is":"away"');
    await ask('POST', '/{kind}/{id}/back', at, 200);
    await until('"is":"back"');
    over.abort();
  });

  it('is what the service is answered by, and every answer that is good was tried', async () => {
    await ask('GET', '/health', {}, 200);
    await ask('GET', '/openapi.json', {}, 200);
    await ask('GET', '/schemas/{format}', { format: 'boat' }, 404);
    for (const format of ['tuning', 'ground', 'tape', 'targets', 'project']) await ask('GET', '/schemas/{format}', { format }, 200);
    const good = operations.flatMap(({ method, path, answers }) =>
      Object.keys(answers)
        .filter((status) => status < '300')
        .map((status) => `${method} ${path} ${status}`),
    );
    expect(good.filter((answer) => !described.seen.has(answer))).toEqual([]);
  });
});
