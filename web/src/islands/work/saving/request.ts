import { type Failure, type Outcome, type Refusal, send } from '../server.ts';

/** Milliseconds after which a server that says nothing is as good as away. */
const PATIENCE = 20_000;

/** Asks the server about a document; `seen` is the version that was seen last (0: none). Drafts outlive the page. */
export const request = (method: string, path: string, body?: unknown, seen?: number): Promise<Outcome> =>
  send(method, path, { body, seen, patience: PATIENCE, outlives: method === 'PUT' });

/** Returns the kind of refusal; null if the server is only unreachable. */
export function refusalOf({ is }: Failure): Refusal | null {
  if (is === 'offline' || is === 'aborted') return null;
  return is === 'conflict' ? 'invalid' : is;
}

/** Refusals that the same request may not meet a moment later, and those that another file may not meet. */
export const mayPass = (refusal: Refusal): boolean => refusal === 'failed';
export const isAboutFile = (refusal: Refusal): boolean => refusal === 'tooLarge' || refusal === 'invalid' || refusal === 'failed';
