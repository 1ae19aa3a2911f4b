import { expect, it } from 'vitest';
import type { Described } from './described.ts';

/** Tests that sources are answered as they are described. */
export function sourcesAnswer(described: Described, tuning: object): void {
  const ask = described.ask.bind(described);

  it('is what sources are answered by: kept over the one that was seen, with names for the project and links to its folder', async () => {
    const { value: project } = await ask('POST', '/projects', {}, 201, { body: { name: 'Sources' } });
    const within = { id: project['id'] as string };
    const { value: created } = await ask('POST', '/{kind}', { kind: 'tunings' }, 201, {
      body: { file: tuning },
      query: `?project=${within.id}`,
    });
    const at = { id: created['id'] as string };
    const path = '/tunings/{id}/source';
    const source = {
      name: 'hero.lua',
      text: 'walk = 3.2\nodd = 40',
      units: 'tiles:16,second,degree',
      unit: 'px',
      strictly: false,
      isHandedOver: false,
      names: { walk: 'pace.walkSpeed', odd: null },
      rounded: {},
      added: [],
      skipped: ['ramp.brake'],
    };
    const none = { 'if-none-match': '*' };
    await ask('GET', path, at, 204);
    await ask('PUT', path, at, 428, { body: { source } });
    await ask('PUT', path, { id: '00000000-0000-4000-8000-000000000000' }, 404, { body: { source }, headers: none });
    for (const wrong of [
      { ...source, names: { walk: 'pace.crawl' } },
      { ...source, units: 'miles' },
      { ...source, text: 'a\0b' },
      { ...source, text: '' },
      { ...source, surprise: 1 },
    ])
      await ask('PUT', path, at, 422, { body: { source: wrong }, headers: none });
    await ask('PUT', path, at, 422, { body: { source, path: '../hero.lua' }, headers: none });
    const { value: first } = await ask('PUT', path, at, 201, { body: { source, chosen: { odd: null } }, headers: none });
    expect(first).toMatchObject({ document: at.id, revision: 1, source, path: null });
    const seen = { 'if-match': `"${first['version']}"` };
    await ask('PUT', path, at, 409, { body: { source }, headers: none });
    const body = {
      source: { ...source, text: 'walk = 4' },
      path: 'game/hero.lua',
      chosen: { odd: 'ramp.accelerate', walk: 'pace.walkSpeed' },
    };
    const { value: second } = await ask('PUT', path, at, 200, { body, headers: seen });
    expect(second).toMatchObject({ source: { text: 'walk = 4' }, path: 'game/hero.lua' });
    // Who saw the first one overwrites nothing.
    await ask('PUT', path, at, 409, { body: { source }, headers: seen });
    expect((await ask('GET', path, at, 200)).value).toEqual(second);
    expect((await ask('GET', '/projects/{id}/sources', within, 200)).value).toEqual({ items: [second] });
    expect((await ask('GET', '/projects/{id}/source-names', within, 200)).value).toEqual({
      names: { odd: 'ramp.accelerate', walk: 'pace.walkSpeed' },
    });
    await ask('GET', '/projects/{id}/source-names', { id: '00000000-0000-4000-8000-000000000000' }, 404);
    const { names: before } = (await ask('GET', '/projects/{id}/source-names', within, 200)).value as { names: object };
    const chosen = { stroll: 'pace.walkSpeed', hop: null };
    expect((await ask('POST', '/projects/{id}/source-names', within, 200, { body: { names: chosen } })).value).toEqual({
      names: { ...before, ...chosen },
    });
    await ask('POST', '/projects/{id}/source-names', within, 422, { body: { names: { stroll: 7 } } });
    await ask('POST', '/projects/{id}/source-names', { id: '00000000-0000-4000-8000-000000000000' }, 404, { body: { names: {} } });
    // One file belongs to one tuning.
    const { value: twin } = await ask('POST', '/{kind}', { kind: 'tunings' }, 201, {
      body: { file: tuning },
      query: `?project=${within.id}`,
    });
    await ask('PUT', path, { id: twin['id'] as string }, 422, { body: { source, path: 'game/hero.lua' }, headers: none });
    await ask('DELETE', path, at, 428);
    await ask('DELETE', path, at, 409, { headers: seen });
    await ask('DELETE', path, at, 204, { headers: { 'if-match': `"${second['version']}"` } });
    await ask('DELETE', path, at, 404, { headers: { 'if-match': '*' } });
    // A new one has another version than any before it.
    const { value: third } = await ask('PUT', path, at, 201, { body: { source }, headers: none });
    expect(third['version']).toBeGreaterThan(second['version'] as number);
    await ask('DELETE', '/{kind}/{id}', { kind: 'tunings', ...at }, 204, { headers: { 'if-match': '*' } });
    await ask('GET', path, at, 404);
  });
}
