import { documentKinds } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { type Arrival, LARGEST_BODY, type Passage, passage } from './gate.ts';

const house = { host: '127.0.0.1', token: undefined };
const closed = { host: '127.0.0.1', token: 'lång token' };

const come = (arrival: Partial<Arrival>, to: { host: string; token: string | undefined } = house): Passage =>
  passage({ method: 'GET', url: '/api/v1/tunings', ...arrival, headers: { host: 'localhost:4380', ...arrival.headers } }, to);
const status = (passed: Passage) => (passed.kind === 'refused' ? passed.status : passed.kind);
const json = { 'content-type': 'application/json', 'content-length': '2' };

it('lets a body be as large as the largest file', () => {
  expect(LARGEST_BODY).toBe(Math.max(...Object.values(documentKinds).map(({ largest }) => largest)));
});

describe('the gate', () => {
  it.each([
    ['reads', { method: 'GET' }, 'in'],
    ['an unknown host', { headers: { host: 'evil.example' } }, 421],
    ['TRACE', { method: 'TRACE' }, 405],
    ['a write to a page', { method: 'POST', url: '/bench', headers: json }, 405],
    ['a method that the API says itself that it does not know', { method: 'PATCH' }, 'in'],
    ['a percent sign that stands for nothing', { url: '/api/v1/tunings/%zz' }, 400],
    ['bytes that aren’t UTF-8', { url: '/%ff' }, 400],
    ['a zero byte', { url: '/a%00b' }, 400],
    ['another host in the path', { url: '//evil.example/' }, 400],
    ['a whole address', { url: 'http://evil.example/' }, 400],
    ['a backslash and a bracket', { url: '/\\[' }, 400],
    ['a backslash before another host', { url: '/\\evil.example/' }, 400],
    ['brackets further on', { url: '/bench/[' }, 'in'],
    ['an asterisk', { url: '*' }, 400],
    ['nothing', { url: '' }, 400],
    ["an endpoint of the framework's own", { url: '/_image?href=x' }, 404],
    ['a built file', { url: '/_astro/page.js' }, 'in'],
    ['a write of JSON by a program', { method: 'POST', headers: json }, 'in'],
    [
      'a write of JSON by a page of its own',
      { method: 'POST', headers: { ...json, origin: 'http://localhost:4380', cookie: 'a=b' } },
      'in',
    ],
    ['a write from elsewhere', { method: 'POST', headers: { ...json, origin: 'http://evil.example' } }, 403],
    ['a write from a file', { method: 'DELETE', headers: { origin: 'null' } }, 403],
    ['a write with a cookie and of no origin', { method: 'PUT', headers: { ...json, cookie: 'zygopod-token=x' } }, 403],
    ['a write that a page elsewhere caused', { method: 'POST', headers: { ...json, 'sec-fetch-site': 'cross-site' } }, 403],
    ['a form', { method: 'POST', headers: { 'content-type': 'text/plain', 'content-length': '2' } }, 415],
    ['a form in pieces', { method: 'POST', headers: { 'transfer-encoding': 'chunked' } }, 415],
    ['a deletion without a body', { method: 'DELETE' }, 'in'],
    ['a body that is too large', { method: 'POST', headers: { ...json, 'content-length': String(LARGEST_BODY + 1) } }, 413],
  ] as [string, Partial<Arrival>, number | string][])('%s', (_, arrival, expected) => {
    expect(status(come(arrival))).toBe(expected);
  });

  it('with a token set asks everybody for it, for files too', () => {
    for (const url of ['/', '/_astro/page.js', '/api/v1/health', '/favicon.svg']) expect(status(come({ url }, closed))).toBe(401);
    expect(status(come({ headers: { authorization: 'Bearer lång token' } }, closed))).toBe('in');
    expect(status(come({ headers: { authorization: 'bEARER  lång token' } }, closed))).toBe('in');
    expect(status(come({ headers: { authorization: 'Bearer lång' } }, closed))).toBe(401);
    for (const url of ['/\\[', '//', '/%', '/[', '/?token=%', '/?token=%5b', '/_image']) {
      expect(['in', 'redirect']).not.toContain(status(come({ url }, closed)));
      expect([400, 401, 404]).toContain(status(come({ url }, closed)));
    }
    expect(status(come({ headers: { cookie: `a=b; zygopod-token=${encodeURIComponent('lång token')}` } }, closed))).toBe('in');
    expect(status(come({ headers: { cookie: 'zygopod-token=%zz' } }, closed))).toBe(401);
  });

  it('keeps a token from the address as a cookie, and takes it out of there', () => {
    const passed = come({ url: `/bench/7?a=1&token=${encodeURIComponent('lång token')}` }, closed);
    expect(passed).toMatchObject({ kind: 'redirect', to: '/bench/7?a=1' });
    expect((passed as { cookie: string }).cookie).toMatch(/HttpOnly; SameSite=Strict/);
  });
});
