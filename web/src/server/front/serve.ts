import { randomUUID } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { Socket } from 'node:net';
import { resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { log } from '../log.ts';
import { compressed } from './compressed.ts';
import { serveFile } from './files.ts';
import { type Passage, passage } from './gate.ts';
import { answered } from './lastResort.ts';
import { lingering } from './lingering.ts';
import { refuseClient } from './refusal.ts';
import { openLinks } from './upgrade.ts';

/**
 * The server's front: every request passes the gate before the application, or one of its files, answers. Runs in the folder of the built web
 * application; HOST, PORT, DATABASE_URL and, if set, ZYGOPOD_TOKEN come from the environment.
 */
const { handler } = (await import(pathToFileURL(resolve('dist/server/entry.mjs')).href)) as {
  handler(request: IncomingMessage, response: ServerResponse, next?: (error?: unknown) => void): void;
};

const house = { host: process.env['HOST'], token: process.env['ZYGOPOD_TOKEN'] || undefined };

/** On every answer; pages bring a policy of their own. */
const HEADERS = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
  'x-frame-options': 'DENY',
  'content-security-policy': "default-src 'none'; frame-ancestors 'none'",
};

function turnAway(response: ServerResponse, passed: Exclude<Passage, { kind: 'in' }>): void {
  if (passed.kind === 'redirect') {
    response.writeHead(302, { location: passed.to, 'set-cookie': passed.cookie }).end();
    return;
  }
  const { status, title, headers } = passed;
  // What is left of a body that nobody reads would be taken for the next request.
  const body = JSON.stringify({ type: 'about:blank', title, status });
  for (const [name, value] of Object.entries({ connection: 'close', ...headers })) response.setHeader(name, value);
  response.writeHead(status, { 'content-type': 'application/problem+json', 'content-length': Buffer.byteLength(body) }).end(body);
}

/** How often connections are checked for the time-outs below (ms): an idle one is closed soon after its time is over. */
const CHECKED_EVERY = 2000;

function receive(request: IncomingMessage, response: ServerResponse): unknown {
  const begun = performance.now();
  const id = randomUUID();
  request.headers['x-request-id'] = id;
  response.setHeader('x-request-id', id);
  for (const [name, value] of Object.entries(HEADERS)) response.setHeader(name, value);
  const { method = '', url = '' } = request;
  response.on('close', () => {
    const milliseconds = Math.round(performance.now() - begun);
    log.info({ request: id, method, path: url.split('?')[0], status: response.statusCode, milliseconds });
  });
  lingering(request, response);
  const passed = passage({ method, url, headers: request.headers }, house);
  if (passed.kind !== 'in') return turnAway(response, passed);
  const application = () => compressed(request, response, () => handler(request, response));
  return url.startsWith('/api/') ? application() : serveFile(request, response, application);
}

const server = createServer({ connectionsCheckingInterval: CHECKED_EVERY }, (request, response) =>
  answered(response, () => receive(request, response)),
);

server.on('upgrade', openLinks(house));

server.headersTimeout = 15_000;
server.requestTimeout = 60_000;
// A response that nobody reads is given up; streams of events send something more often.
server.timeout = 60_000;
server.on('clientError', (error, socket) => refuseClient(error, socket as Socket));

/** Milliseconds for answers in progress when the server must stop. */
const GRACE = 3000;
function end(): void {
  server.close(() => process.exit(0));
  server.closeIdleConnections();
  setTimeout(() => process.exit(0), GRACE).unref();
}
for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, end);

// The process that started this one holds the other end of a channel, which the system closes when that process is gone, however it ended.
process.once('disconnect', end);
if (process.connected === false) process.exit(0);

server.listen(Number(process.env['PORT']), process.env['HOST']);
