import '../../../../testing/provided.ts';
import { brotliDecompressSync, gunzipSync } from 'node:zlib';
import { expect, inject, it } from 'vitest';
import { rawRequest } from '../../testing/rawRequest.ts';

const address = inject('address');
const get = (path: string, headers = {}, method = 'GET') => rawRequest(address, path, { headers, method });

/** The built files that the bench asks for first. */
async function built(): Promise<string[]> {
  const page = (await get('/bench')).headers['location'] as string | undefined;
  const { body } = await get(page ?? '/bench');
  return [...new Set([...body.toString().matchAll(/\/_astro\/[\w.@-]+\.(?:js|css)/g)].map(([path]) => path))];
}

it('built files are sent as small as the browser takes them, with types, tags and caching of their own', async () => {
  const paths = await built();
  expect(paths.length).toBeGreaterThan(2);
  let [plainSize, packedSize] = [0, 0];
  for (const path of paths) {
    const plain = await get(path);
    const br = await get(path, { 'accept-encoding': 'gzip, deflate, br' });
    const gzip = await get(path, { 'accept-encoding': 'gzip' });
    for (const one of [plain, br, gzip]) {
      expect([one.status, one.headers['vary'], one.headers['content-type']]).toEqual([
        200,
        'Accept-Encoding',
        plain.headers['content-type'],
      ]);
      expect(one.headers['cache-control']).toContain('immutable');
    }
    expect([plain, br, gzip].map(({ headers }) => headers['content-encoding'])).toEqual([undefined, 'br', 'gzip']);
    expect(brotliDecompressSync(br.body).equals(plain.body), path).toBe(true);
    expect(gunzipSync(gzip.body).equals(plain.body), path).toBe(true);
    // One tag for each encoding: a cache must not take one for the other.
    expect(new Set([plain, br, gzip].map(({ headers }) => headers['etag'])).size, path).toBe(3);
    const tag = String(br.headers['etag']);
    expect((await get(path, { 'accept-encoding': 'br', 'if-none-match': tag })).status).toBe(304);
    expect((await get(path, { 'if-none-match': tag })).status).toBe(200);
    const head = await get(path, { 'accept-encoding': 'br' }, 'HEAD');
    expect([head.status, head.headers['content-encoding'], head.body.length]).toEqual([200, 'br', 0]);
    plainSize += plain.body.length;
    packedSize += br.body.length;
  }
  expect(packedSize).toBeLessThan(plainSize / 2.5);
});

it('what isn’t there in an encoding is sent as it is', async () => {
  const icon = await get('/favicon.svg', { 'accept-encoding': 'br, gzip' });
  expect([icon.status, icon.headers['content-encoding']]).toEqual([200, undefined]);
  expect((await get('/_astro/none.js', { 'accept-encoding': 'br' })).status).toBe(404);
});
