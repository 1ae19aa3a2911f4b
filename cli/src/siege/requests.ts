import { Agent, request as httpRequest } from 'node:http';
import { collections } from '@zygopod/core';
import { Dice } from './dice.ts';
import { type Figure, none, quantile, unbounded } from './figures.ts';
import type { Stand } from './stand.ts';

/** Text that must never leave the server. */
const LEAK = /node_modules|\.ts:\d|\.mjs:\d|\n\s+at |drizzle|postgres|select .* from|insert into|ECONN|password/i;

const methods = ['GET', 'GET', 'POST', 'PUT', 'DELETE', 'HEAD', 'OPTIONS', 'PATCH', 'TRACE', 'PROPFIND', 'QUERY'];
const odd = [
  '',
  '0',
  '-1',
  '1',
  '2',
  '9'.repeat(40),
  '1e309',
  'NaN',
  'null',
  '%00',
  '%ff',
  '%zz',
  '..',
  '%2e%2e%2f',
  '__proto__',
  'constructor',
  "'; drop table documents; --",
  '😀',
  '\u202e',
  'true',
  '[]',
  '{}',
  'a'.repeat(300),
  '00000000-0000-4000-8000-000000000000',
];
const headersOdd = ['*', '"1"', 'W/"1"', '"1", "2"', '1', '"', '""', 'x'.repeat(500), '"9999999999999999999"', ', ,', '*, "1"'];
const values: unknown[] = [
  null,
  true,
  0,
  -1,
  1e308,
  2 ** 53,
  'x',
  '',
  '\u0000',
  '\ud800',
  '\u001b[31m',
  [],
  {},
  [[]],
  { of: 'pace.walkSpeed' },
  { of: 'x', times: 1e308 },
  'a'.repeat(5000),
  [1, 2, 3],
  { __proto__: 1 },
  { constructor: 1 },
  Array.from({ length: 2000 }, (_, i) => i),
];

const files: Record<string, object> = {
  tunings: { format: 'zygopod/tuning', version: 2, name: 'Boots', pace: { walkSpeed: 140 }, body: { shape: 'circle', radius: 12 } },
  grounds: {
    format: 'zygopod/ground',
    version: 1,
    name: 'Yard',
    size: { width: 64, height: 64 },
    cells: ['#.', '.#'],
    start: { x: 9, y: 9 },
    walls: [
      {
        points: [
          [1, 1],
          [5, 5],
        ],
      },
    ],
  },
  tapes: { format: 'zygopod/tape', version: 2, name: 'Hands', hz: 60, ticks: 9, events: [{ at: 0, press: 'up' }] },
};

/** A value with something in it replaced, removed or added, at any depth. */
function mutated(dice: Dice, value: unknown, depth = 0): unknown {
  if (depth > 6 || dice.is(0.15)) return dice.one(values);
  if (Array.isArray(value))
    return value.length === 0 || dice.is(0.2)
      ? [...value, dice.one(values)]
      : value.map((item, i) => (i === 0 ? mutated(dice, item, depth + 1) : item));
  if (typeof value !== 'object' || value === null) return dice.one(values);
  const entries = Object.entries(value);
  if (dice.is(0.2)) return Object.fromEntries([...entries, [dice.one(odd), dice.one(values)]]);
  const at = dice.below(entries.length);
  if (dice.is(0.2)) return Object.fromEntries(entries.filter((_, i) => i !== at));
  return Object.fromEntries(entries.map(([key, member], i) => [key, i === at ? mutated(dice, member, depth + 1) : member]));
}

interface Generated {
  method: string;
  path: string;
  headers: Record<string, string>;
  body: string | null;
}

/** A request that may make sense in some of its parts. */
export function generated(dice: Dice, ids: Record<string, readonly string[]>): Generated {
  const kind = dice.is(0.9) ? dice.one(collections) : dice.one([...odd, 'health', 'schemas/tuning', 'openapi.json', 'schemas/x']);
  const id = dice.is(0.7) ? dice.one(ids[kind] ?? ['x']) : dice.one(odd);
  const tail = dice.one([
    '',
    '',
    '',
    '/draft',
    '/draft',
    '/revisions',
    '/revisions/1',
    `/revisions/${encodeURI(dice.one(odd))}`,
    '/back',
    '/forever',
    '/x',
    '//',
  ]);
  const base = dice.is(0.95) ? '/api/v1' : dice.one(['', '/api', '/api/v2', '/bench', '/grounds', '/_astro', '//evil.example']);
  const query = dice.is(0.3)
    ? `?${dice.one(['limit', 'after', 'q', 'away', 'before', 'ground', 'token'])}=${dice.one(odd).replace(/[^\x21-\x7e]/gu, encodeURIComponent)}`
    : '';
  const raw = `${base}/${kind}${dice.is(0.25) ? '' : `/${id}${tail}`}${query}`;
  const file = files[kind] ?? files['tunings'];
  const whole = { file, note: 'Siege', base: 1 };
  const body = dice.is(0.6)
    ? JSON.stringify(dice.is(0.4) ? whole : mutated(dice, whole))
    : dice.one(['', '{', 'null', '[]', '"x"', '{"file":', '\u0000', '{"file":1e999}', '['.repeat(3000)]);
  const headers: Record<string, string> = {};
  if (dice.is(0.9))
    headers['content-type'] = dice.is(0.9)
      ? 'application/json'
      : dice.one(['text/plain', 'application/jsonx', '', 'application/json; charset=latin1']);
  if (dice.is(0.6)) headers['if-match'] = dice.is(0.6) ? '"1"' : dice.one(headersOdd);
  if (dice.is(0.2)) headers['if-none-match'] = dice.one(headersOdd);
  if (dice.is(0.05)) headers['origin'] = dice.one(['null', 'http://evil.example', 'x']);
  if (dice.is(0.05)) headers['cookie'] = 'zygopod-token=x; a=%zz';
  if (dice.is(0.05)) headers['transfer-encoding'] = 'chunked';
  // What a client cannot even send is of no interest.
  const path = [...raw].map((c) => (c > ' ' && c <= '~' ? c : encodeURIComponent(c))).join('');
  const method = dice.one(methods);
  return { method, path, headers, body: method === 'GET' || method === 'HEAD' || method === 'TRACE' ? null : body };
}

interface Answered {
  status: number;
  text: string;
  took: number;
}

function send(agent: Agent, port: number, { method, path, headers, body }: Generated): Promise<Answered> {
  return new Promise((answered) => {
    const begun = performance.now();
    const over = (status: number, text: string) => answered({ status, text, took: performance.now() - begun });
    const sent = httpRequest(
      {
        agent,
        host: '127.0.0.1',
        port,
        method,
        path,
        headers: {
          ...headers,
          ...(body === null || headers['transfer-encoding'] ? {} : { 'content-length': String(Buffer.byteLength(body)) }),
        },
      },
      (answer) => {
        let text = '';
        answer.on('data', (chunk: Buffer) => {
          if (text.length < 20_000) text += chunk.toString();
        });
        answer.on('end', () => over(answer.statusCode ?? 0, text));
        answer.on('error', () => over(0, ''));
      },
    );
    sent.setTimeout(20_000, () => sent.destroy());
    sent.on('error', () => over(0, ''));
    sent.end(body ?? undefined);
  });
}

/** Requests at the same time. */
const LANES = 16;

/** Sends valid and invalid requests of all kinds: no 5xx, nothing slow, no internal detail in an answer. */
export async function requests(stand: Stand, minutes: number, seed: number, most = 100_000): Promise<Figure[]> {
  const ids: Record<string, string[]> = {};
  for (const kind of Object.keys(files))
    ids[kind] = ((await (await fetch(`${stand.address}/api/v1/${kind}?limit=5`)).json()) as { items: { id: string }[] }).items.map(
      ({ id }) => id,
    );
  const agent = new Agent({ keepAlive: true, maxSockets: LANES });
  const end = performance.now() + minutes * 60_000;
  const statuses = new Map<number, number>();
  const times: number[] = [];
  const found: string[] = [];
  let [failures, leaks, unanswered, count] = [0, 0, 0, 0];
  await Promise.all(
    Array.from({ length: LANES }, async (_, lane) => {
      const dice = new Dice(seed + lane);
      while (count < most && performance.now() < end) {
        count++;
        const sent = generated(dice, ids);
        const { status, text, took } = await send(agent, stand.port, sent);
        times.push(took);
        statuses.set(status, (statuses.get(status) ?? 0) + 1);
        const isApi = sent.path.startsWith('/api/');
        const isLeak = status >= 400 && isApi && LEAK.test(text);
        if (status >= 500 && status !== 503) failures++;
        if (status === 0) unanswered++;
        if (isLeak) leaks++;
        if ((status === 0 || (status >= 500 && status !== 503) || isLeak) && found.length < 10)
          found.push(`${status} ${JSON.stringify(sent).slice(0, 400)} ${text.slice(0, 200)}`);
      }
    }),
  );
  agent.destroy();
  for (const line of found) process.stderr.write(`${line}\n`);
  const sorted = [...statuses].sort(([a], [b]) => a - b);
  return [
    unbounded('requests', 'generated requests', `${count} (${sorted.map(([status, n]) => `${status}: ${n}`).join(', ')})`),
    none('requests', 'answers 5xx but 503', failures),
    none('requests', 'without an answer', unanswered),
    none('requests', 'over 2 s', times.filter((time) => time > 2000).length),
    none('requests', 'texts leaked', leaks),
    unbounded('requests', 'median, p99', `${quantile(times, 0.5).toFixed(1)} ms, ${quantile(times, 0.99).toFixed(1)} ms`),
  ];
}
