import { afterEach, describe, expect, it, vi } from 'vitest';
import { fakeServer } from '../../testing/fakeServer.ts';
import { archive, createDocument, fetchDocument, findOrCreate, saveRevision } from './documentActions.ts';
import { $project } from './project.ts';
import { askServer, whyOf } from './server.ts';

afterEach(() => {
  vi.unstubAllGlobals();
  $project.set(null);
});

describe('requests to the server', () => {
  it('goes as JSON, with a body only where there is one', async () => {
    const sent = fakeServer(() => ({ body: { fine: 1 } }));
    expect(await askServer('PUT', '/api/v1/a?b=c', { body: { d: [1, 'é'] }, seen: 3 })).toEqual({ is: 'ok', body: { fine: 1 } });
    expect(await askServer('DELETE', '/api/v1/a')).toEqual({ is: 'ok', body: { fine: 1 } });
    expect(sent).toEqual([
      {
        method: 'PUT',
        path: '/a',
        query: { b: 'c' },
        headers: { 'content-type': 'application/json', 'if-match': '"3"' },
        body: { d: [1, 'é'] },
      },
      { method: 'DELETE', path: '/a', query: {}, headers: {}, body: undefined },
    ]);
  });

  it('is explained if it fails: the server’s message, its number, or that it is unreachable', async () => {
    const answers = [
      { status: 409, body: { title: 'It was changed elsewhere' } },
      { status: 500, body: '<h1>no JSON</h1>' },
      { status: 204 },
      null,
    ];
    fakeServer(() => answers.shift() ?? null);
    expect(await askServer('GET', '/api/v1/x')).toMatchObject({ why: 'It was changed elsewhere.' });
    expect(await askServer('GET', '/api/v1/x')).toMatchObject({ why: 'The server answered 500.' });
    const empty = await askServer('GET', '/api/v1/x');
    expect(empty).toEqual({ is: 'ok', body: {} });
    expect(whyOf(empty)).toBeNull();
    expect(whyOf(await askServer('GET', '/api/v1/x'))).toBe('The server cannot be reached.');
  });
});

describe('a document', () => {
  it('is fetched as it is now, or as a revision has it', async () => {
    fakeServer(({ path }) =>
      path === '/tapes/T'
        ? { body: { file: 'now', head: 7, name: 'Lap' } }
        : path === '/tapes/T/revisions/2'
          ? { body: { file: 'then', number: 2 } }
          : { status: 404, body: { title: 'There is no tape of this id' } },
    );
    expect(await fetchDocument('tapes', 'T')).toEqual({ file: 'now', revision: 7 });
    expect(await fetchDocument('tapes', 'T', 2)).toEqual({ file: 'then', revision: 2 });
    expect(await fetchDocument('tapes', 'U')).toMatchObject({ why: 'There is no tape of this id.' });
  });

  it('is created in the page’s project, saved and archived against the known revision', async () => {
    $project.set({ id: 'P', name: 'Game' });
    const sent = fakeServer(({ method }) => (method === 'POST' ? { status: 201, body: { id: 'new', number: 5 } } : { status: 204 }));
    expect(await createDocument('grounds', { name: 'Quay' }, 'drawn')).toEqual({ id: 'new' });
    expect(await saveRevision('grounds', 'G', 4, { name: 'Quay' }, 'wider')).toEqual({ number: 5 });
    expect(await archive('grounds', 'G', 5)).toBeNull();
    expect(sent.map(({ method, path, query, headers, body }) => [method, path, query, headers['if-match'], body])).toEqual([
      ['POST', '/grounds', { project: 'P' }, undefined, { file: { name: 'Quay' }, note: 'drawn' }],
      ['POST', '/grounds/G/revisions', {}, '"4"', { file: { name: 'Quay' }, note: 'wider' }],
      ['DELETE', '/grounds/G', {}, '"5"', undefined],
    ]);
  });
});

describe('a file that may be there already', () => {
  const file = { name: 'Lap', ticks: 60, events: [{ at: 1, press: 'up' }] };
  /** The same, with its keys in another order. */
  const reordered = { events: [{ press: 'up', at: 1 }], ticks: 60, name: 'Lap' };

  /** A shelf with these files, by id; what is made gets the id `created`. */
  const shelf = (files: Record<string, { name: string }>) =>
    fakeServer(({ method, path, query }) => {
      if (method === 'POST') return { status: 201, body: { id: 'made' } };
      const id = path.split('/')[2];
      if (id) return { body: { file: files[id], head: 1 } };
      const named = Object.entries(files).filter(([, { name }]) => name.includes(query['q'] ?? ''));
      return { body: { items: named.map(([one, { name }]) => ({ id: one, name })) } };
    });

  it('is found by what it says, however its keys are ordered', async () => {
    const sent = shelf({ other: { ...file, ticks: 61 } as never, twin: reordered as never });
    expect(await findOrCreate('tapes', file)).toEqual({ id: 'twin' });
    expect(sent.some(({ method }) => method === 'POST')).toBe(false);
  });

  it('is made where only its name, or a part of that, is there', async () => {
    const sent = shelf({ other: { ...file, ticks: 61 } as never, longer: { ...file, name: 'Lap of honour' } as never });
    expect(await findOrCreate('tapes', file)).toEqual({ id: 'made' });
    // What is called otherwise was not even fetched.
    expect(sent.map(({ path }) => path)).toEqual(['/tapes', '/tapes/other', '/tapes']);
  });

  it('says why it can be neither', async () => {
    fakeServer(() => null);
    expect(await findOrCreate('tapes', file)).toMatchObject({ why: 'The server cannot be reached.' });
  });
});
