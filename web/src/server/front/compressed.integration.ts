import { readFileSync } from 'node:fs';
import { brotliDecompressSync, gunzipSync } from 'node:zlib';
import { afterAll, describe, expect, it } from 'vitest';
import { ownServer } from '../../testing/ownServer.ts';
import { rawRequest } from '../../testing/rawRequest.ts';

// Lists are compared with themselves: nobody else may write to them.
const { address, stop } = await ownServer();
afterAll(stop);
const get = (path: string, headers = {}, method = 'GET') => rawRequest(address, path, { headers, method });

/** The three encodings of an answer. */
const readings = [
  [undefined, (body: Buffer) => body],
  ['gzip', (body: Buffer) => gunzipSync(body)],
  ['br', (body: Buffer) => brotliDecompressSync(body)],
] as const;

/** Makes a tuning whose answer is longer the longer its name is. */
async function tuningNamed(name: string): Promise<string> {
  const file = { format: 'zygopod/tuning', version: 2, name };
  const headers = { 'content-type': 'application/json' };
  const created = await rawRequest(address, '/api/v1/tunings', { method: 'POST', headers, body: JSON.stringify({ file, note: name }) });
  expect(created.status).toBe(201);
  return (JSON.parse(created.body.toString()) as { id: string }).id;
}

const boardwalk = JSON.parse(readFileSync(new URL('../../../../demo/boardwalk.ground.json', import.meta.url), 'utf8')) as object;

/** Makes a ground of several kilobytes. */
async function aGround(): Promise<string> {
  const headers = { 'content-type': 'application/json' };
  const created = await rawRequest(address, '/api/v1/grounds', { method: 'POST', headers, body: JSON.stringify({ file: boardwalk }) });
  return (JSON.parse(created.body.toString()) as { id: string }).id;
}

describe('answers are sent as small as the reader takes them', () => {
  it('pages, lists, documents, problems and the description: the same text in every encoding, with a tag for each', async () => {
    const ground = await aGround();
    const paths = ['/api/v1/tunings', '/api/v1/openapi.json', `/api/v1/grounds/${ground}`, '/api', '/api/v1/schemas/ground'];
    let smaller = 0;
    for (const path of paths) {
      const plain = await get(path);
      const tags = new Set<unknown>();
      for (const [encoding, read] of readings) {
        const answer = await get(path, encoding ? { 'accept-encoding': encoding } : {});
        expect([answer.status, answer.headers['content-encoding']], path).toEqual([200, encoding]);
        expect(String(answer.headers['vary']).toLowerCase(), path).toContain('accept-encoding');
        expect(read(answer.body).equals(plain.body), `${path} as ${encoding}`).toBe(true);
        if (encoding) smaller += plain.body.length - answer.body.length;
        const tag = answer.headers['etag'];
        if (tag === undefined) continue;
        tags.add(tag);
        const again = await get(path, { 'if-none-match': String(tag), ...(encoding ? { 'accept-encoding': encoding } : {}) });
        expect([again.status, again.body.length, again.headers['etag']], path).toEqual([304, 0, tag]);
      }
      if (plain.headers['etag'] !== undefined) expect(tags.size, path).toBe(3);
    }
    expect(smaller).toBeGreaterThan(50_000);
  });

  it('from a kilobyte on, and shorter ones as they are', async () => {
    const sizes = new Map<boolean, number[]>();
    for (let length = 1; length <= 120; length += 17) {
      const id = await tuningNamed('n'.repeat(length));
      const plain = await get(`/api/v1/tunings/${id}`);
      const packed = await get(`/api/v1/tunings/${id}`, { 'accept-encoding': 'br' });
      const isPacked = packed.headers['content-encoding'] === 'br';
      sizes.set(isPacked, [...(sizes.get(isPacked) ?? []), plain.body.length]);
      if (!isPacked) expect([packed.headers['etag'], packed.body.length]).toEqual(['"1"', plain.body.length]);
    }
    for (const size of sizes.get(false) ?? []) expect(size).toBeLessThan(1024);
    for (const size of sizes.get(true) ?? []) expect(size).toBeGreaterThanOrEqual(1024);
  });

  it('and whoever read one in any encoding may write on top of it', async () => {
    const path = `/api/v1/grounds/${await aGround()}`;
    const headers = { 'content-type': 'application/json' };
    for (const [encoding] of readings) {
      const read = await get(path, encoding ? { 'accept-encoding': encoding } : {});
      const write = (tag: string) =>
        rawRequest(address, `${path}/revisions`, {
          method: 'POST',
          headers: { ...headers, 'if-match': tag },
          body: JSON.stringify({ file: { ...boardwalk, name: `Written over ${encoding}` } }),
        });
      const tag = String(read.headers['etag']);
      expect((await write(tag.replace(/\d+/, '999'))).status).toBe(409);
      expect((await write(tag)).status).toBe(201);
      // The version that was seen is not the newest any more.
      expect((await write(tag)).status).toBe(409);
    }
  });

  it('but streams of events are never held back', async () => {
    const answer = await fetch(`${address}/api/v1/changes`, { headers: { 'accept-encoding': 'gzip, br' } });
    expect(answer.headers.get('content-encoding')).toBeNull();
    const reader = answer.body?.getReader();
    expect((await reader?.read())?.done).toBe(false);
    await reader?.cancel();
  });
});
