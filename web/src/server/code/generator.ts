import { Problem } from '../problem.ts';
import { OneByOne } from '../worker.ts';

/** Request to generate code from a tuning: its motion in a language, or a folder of checks for a build server. */
export type CodeRequest = { tuning: unknown } & (
  | { what: 'code'; to: string }
  | { what: 'checks'; targets: unknown; tapes: unknown[]; ground: unknown }
);

/** The generated files, or the reason why there are none. */
export type GeneratedCode = { files: { path: string; text: string }[] } | { why: string };

/** Milliseconds for one of them, megabytes of heap, and how many may wait. */
const TIME = 20_000;
const HEAP = 512;
const WAITING = 8;

const generator = new OneByOne<CodeRequest, GeneratedCode>('src/server/code/worker.ts', { time: TIME, heap: HEAP });
let inside = 0;

/** Generates code one request after the other in a worker, unless the client has left; 503 if too many wait. */
export async function generateCode(request: CodeRequest, signal: AbortSignal): Promise<GeneratedCode> {
  if (inside >= WAITING) throw new Problem(503, 'Too much code is being generated; try again in a moment', { retryAfter: 5 });
  inside++;
  try {
    const generated = await generator.ask(request, { signal });
    if (generated === null) throw new Problem(422, `The code takes more than ${TIME / 1000} s or ${HEAP} MB to make`);
    return generated;
  } finally {
    inside--;
  }
}
