import type { IncomingMessage, ServerResponse } from 'node:http';
import { resolve } from 'node:path';
import send from 'send';

/** What the build has made for browsers, and what lies in the public folder. */
const ROOT = resolve('dist/client');

/** Names of built files change with what they hold. */
const BUILT = '/_astro/';

/** What a script may do that is a worker of its own: the rest is its page's policy. */
const WORKERS = "default-src 'none'; script-src 'self'; connect-src 'self'; frame-ancestors 'none'";

/** Answers with a file of the application; where there is none of that name, the application answers. */
export function serveFile(request: IncomingMessage, response: ServerResponse, otherwise: () => void): void {
  const path = (request.url ?? '/').split(/[?#]/)[0] as string;
  const isBuilt = path.startsWith(BUILT);
  // A worker that pages share fetches under the policy of its own script.
  if (isBuilt && path.endsWith('.js')) response.setHeader('content-security-policy', WORKERS);
  send(request, path, { root: ROOT, dotfiles: 'ignore', index: false, immutable: isBuilt, maxAge: isBuilt ? '1y' : 0 })
    .on('error', otherwise)
    .on('directory', otherwise)
    .pipe(response);
}
