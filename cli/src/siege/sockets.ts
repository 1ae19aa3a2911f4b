import { connect } from 'node:net';
import { Dice } from './dice.ts';
import { type Figure, none, unbounded } from './figures.ts';
import { type Stand, TOKEN } from './stand.ts';

/** Parts that targets of requests are put together from. */
const targets = [
  '/',
  '/\\[',
  '/[',
  '//',
  '/\\\\',
  '/bench',
  '/api/v1/tunings',
  '/api/v1/health',
  '/api/v1/changes',
  '/_image?href=x&w=1e9&f=webp',
  '/_astro/x.js',
  '/favicon.svg',
  '/theme.js',
  '*',
  '',
  'http://here/',
  'http://[',
  '/%',
  '/%00',
  '/%5b%5c',
  '/..%2f..%2fetc',
  '/?token=%',
  '/?token=[',
  `/?token=${TOKEN}`,
  `/\\[?token=${TOKEN}`,
  '/é',
  '/\u0000',
  '/a b',
  `/${'a'.repeat(9000)}`,
];
const methods = ['GET', 'GET', 'GET', 'HEAD', 'POST', 'PUT', 'OPTIONS', 'TRACE', 'CONNECT', 'PRI', 'GET\t', 'get', ''];
const versions = ['HTTP/1.1', 'HTTP/1.1', 'HTTP/1.1', 'HTTP/1.0', 'HTTP/2.0', 'HTTP/9', ''];
const hosts = ['127.0.0.1', 'localhost:1', '127.0.0.1:99999', '[::1]', '[::::]', '[', 'evil.example', '', '127.0.0.1\t', 'a,b'];
const others = [
  'Upgrade: websocket\r\nConnection: Upgrade\r\nSec-WebSocket-Key: x\r\nSec-WebSocket-Version: 13',
  'Upgrade: h2c\r\nConnection: Upgrade, HTTP2-Settings\r\nHTTP2-Settings: x',
  'Expect: 100-continue',
  'Expect: pigs',
  'Range: bytes=0-1',
  'Range: bytes=9-1,-,5-',
  'If-None-Match: W/"',
  'If-None-Match: *',
  'If-Match: ",,"',
  'If-Modified-Since: not a day',
  'If-Unmodified-Since: Thu, 01 Jan 1970 00:00:00 GMT',
  'If-Range: "x"',
  'Cookie: zygopod-token=%zz; =; ;',
  'Cookie: zygopod-token=%F0%9F',
  'Authorization: Bearer ',
  'Authorization: Basic x',
  'Origin: null',
  'Transfer-Encoding: chunked',
  'Transfer-Encoding: gzip, chunked',
  'Content-Length: 5',
  'Content-Length: -1',
  'Content-Length: 5\r\nContent-Length: 6',
  'Content-Type: application/json',
  'Accept-Encoding: x;q=9,*;q=0',
  'X-Forwarded-Host: [',
  'X-Forwarded-Proto: javascript',
  `X-Long: ${'x'.repeat(20_000)}`,
  'No colon',
  ' Folded: line',
  'Nul\u0000: x',
  'Connection: close',
];
const bodies = ['', '', '', '{}', '5\r\n{"a":\r\n0\r\n\r\n', 'zz\r\n', '0\r\n\r\nGET / HTTP/1.1\r\n\r\n', '\u0000'.repeat(50)];

/** The bytes of a request that may be right in some of its parts. */
function generatedBytes(dice: Dice): Buffer {
  const target = dice.one(targets) + (dice.is(0.2) ? dice.one(targets) : '');
  const lines = [`${dice.one(methods)} ${target} ${dice.one(versions)}`];
  if (dice.is(0.9)) lines.push(`Host: ${dice.is(0.8) ? '127.0.0.1' : dice.one(hosts)}`);
  if (dice.is(0.6)) lines.push(`Authorization: ${dice.is(0.5) ? 'Bearer' : 'bearer'} ${TOKEN}`);
  while (dice.is(0.5)) lines.push(dice.one(others));
  const bytes = Buffer.from(`${lines.join('\r\n')}\r\n\r\n${dice.one(bodies)}`, 'latin1');
  // Some bytes become others, some requests end in the middle.
  for (; dice.is(0.15); ) bytes[dice.below(bytes.length)] = dice.below(256);
  return dice.is(0.1) ? bytes.subarray(0, dice.below(bytes.length)) : bytes;
}

/** Sends bytes, and reads what comes back until the other side ends or says nothing for a moment; the status, 0 for none. */
function statusOf(port: number, bytes: Buffer): Promise<number> {
  return new Promise((answered) => {
    let text = '';
    const socket = connect(port, '127.0.0.1');
    const over = () => {
      socket.destroy();
      answered(Number(/^HTTP\/1\.1 (\d{3}) /.exec(text)?.[1] ?? 0));
    };
    socket.setTimeout(2000, over);
    socket.on('error', over);
    socket.on('close', over);
    socket.on('data', (chunk: Buffer) => {
      text = (text + chunk.toString('latin1')).slice(0, 200);
      if (/^HTTP\/1\.1 [2-5]\d\d /.test(text)) over();
    });
    socket.write(bytes, () => {
      // A request that isn't whole is ended, so that nobody waits for the rest.
      socket.end();
    });
  });
}

/** Connections at the same time. */
const LANES = 32;

/** Sends bytes that are almost HTTP, with and without the token of the siege: the server never ends, never fails, and still answers. */
export async function sockets(stand: Stand, minutes: number, seed: number, most = 100_000): Promise<Figure[]> {
  const end = performance.now() + minutes * 60_000;
  const deathsBefore = stand.said.split('The server has died').length;
  const failed: string[] = [];
  let [count, answers, failures] = [0, 0, 0];
  await Promise.all(
    Array.from({ length: LANES }, async (_, lane) => {
      const dice = new Dice(seed + lane);
      while (count < most && performance.now() < end) {
        count++;
        const bytes = generatedBytes(dice);
        const status = await statusOf(stand.port, bytes);
        if (status > 0) answers++;
        if (status < 500 || status === 503) continue;
        failures++;
        if (failed.length < 10) failed.push(`${status} ${JSON.stringify(bytes.toString('latin1').slice(0, 300))}`);
      }
    }),
  );
  for (const line of failed) process.stderr.write(`${line}\n`);
  const exceptions = (await stand.health()).exceptions;
  return [
    unbounded('sockets', 'raw requests', `${count} (${answers} answered)`),
    none('sockets', 'answers 5xx but 503', failures),
    none('sockets', 'exceptions that only the last resort caught', exceptions ?? 1),
    none('sockets', 'servers ended by an exception', stand.said.split('The server has died').length - deathsBefore),
  ];
}
