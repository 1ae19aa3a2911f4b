import type { IncomingMessage, ServerResponse } from 'node:http';
import { resolve } from 'node:path';
import send from 'send';

/** What the build has made for browsers, and what lies in the public folder. */
const ROOT = resolve('dist/client');

/** Names of built files change with what they hold. */
const BUILT = '/_astro/';

/** Answers with a file of the application; where there is none of that name, the application answers. */
export function serveFile(request: IncomingMessage, response: ServerResponse, otherwise: () => void): void {
  const path = (request.url ?? '/').split(/[?#]/)[0] as string;
  const isBuilt = path.startsWith(BUILT);
  send(request, path, { root: ROOT, dotfiles: 'ignore', index: false, immutable: isBuilt, maxAge: isBuilt ? '1y' : 0 })
    .on('error', otherwise)
    .on('directory', otherwise)
    .pipe(response);
}
