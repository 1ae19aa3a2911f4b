import { readdirSync } from 'node:fs';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { extname, resolve } from 'node:path';
import send from 'send';
import { encodingFor, encodings } from './encoding.ts';

/** Files built for browsers, and those of the public folder. */
const ROOT = resolve('dist/client');

/** Names of built files change with their content. */
const BUILT = '/_astro/';

/** The built files with compressed copies beside them, each with its encodings' suffixes; empty if there are none. */
const packed = new Set(namesIn(resolve(ROOT, `.${BUILT}`)).filter((name) => Object.values(encodings).some((end) => name.endsWith(end))));

function namesIn(folder: string): string[] {
  try {
    return readdirSync(folder);
  } catch {
    return [];
  }
}

/** Types of packed files: their own names say how they are packed. */
const types: Readonly<Record<string, string>> = {
  '.js': 'text/javascript; charset=utf-8',
  '.css': 'text/css; charset=utf-8',
  '.svg': 'image/svg+xml',
  '.json': 'application/json; charset=utf-8',
  '.txt': 'text/plain; charset=utf-8',
};

/** The path of a built file as its browser takes it; sets the headers that say so. */
function packedPath(request: IncomingMessage, response: ServerResponse, path: string): string {
  response.setHeader('vary', 'Accept-Encoding');
  const encoding = encodingFor(request.headers['accept-encoding']);
  const name = path.slice(BUILT.length);
  const type = types[extname(name)];
  if (!encoding || !type || !packed.has(name + encodings[encoding])) return path;
  response.setHeader('content-encoding', encoding);
  response.setHeader('content-type', type);
  return path + encodings[encoding];
}

/** Policy of a worker's script; the rest follows its page's policy. */
const WORKERS = "default-src 'none'; script-src 'self'; connect-src 'self'; frame-ancestors 'none'";

/** Answers with a file of the application; without one of that name, the application answers. */
export function serveFile(request: IncomingMessage, response: ServerResponse, otherwise: () => void): void {
  const path = (request.url ?? '/').split(/[?#]/)[0] as string;
  const isBuilt = path.startsWith(BUILT);
  // A worker that pages share fetches under the policy of its own script.
  if (isBuilt && path.endsWith('.js')) response.setHeader('content-security-policy', WORKERS);
  send(request, isBuilt ? packedPath(request, response, path) : path, {
    root: ROOT,
    dotfiles: 'ignore',
    index: false,
    immutable: isBuilt,
    maxAge: isBuilt ? '1y' : 0,
  })
    .on('error', () => {
      response.removeHeader('content-encoding');
      response.removeHeader('content-type');
      otherwise();
    })
    .on('directory', otherwise)
    .pipe(response);
}
