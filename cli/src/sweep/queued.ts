import { type QueuedChunk, type QueuedSweep, type Sweep, takeQueued } from '@zygopod/core';
import { Failure } from '../misuse.ts';

/** Milliseconds between two questions. */
const PAUSE = 300;

/** Milliseconds for which an application that is away is waited for. */
const PATIENCE = 60_000;

async function ask<T>(address: string, method: string, path: string, body?: object): Promise<T> {
  const token = process.env['ZYGOPOD_TOKEN'];
  for (let end = performance.now() + PATIENCE; ; await new Promise((next) => setTimeout(next, PAUSE))) {
    const answer = await fetch(`${address}/api/v1${path}`, {
      method,
      headers: { ...(body ? { 'content-type': 'application/json' } : {}), ...(token ? { authorization: `Bearer ${token}` } : {}) },
      body: body ? JSON.stringify(body) : null,
      signal: AbortSignal.timeout(30_000),
    }).catch(() => null);
    const read = (await answer?.json().catch(() => null)) as (T & { title?: string }) | null;
    if (answer?.ok && read) return read;
    const isAway = !answer || answer.status >= 500 || answer.status === 429;
    // Starting a sweep again is harmless: the same one is measured once.
    if (!isAway || performance.now() > end) throw new Failure(`sweep: ${read?.title ?? `the application at ${address} cannot be reached`}`);
  }
}

/** A copy of its own, so that doubles begin at its start. */
const bytesOf = (text: string): Uint8Array<ArrayBuffer> => Uint8Array.from(Buffer.from(text, 'base64'));

/** Has a sweep measured by the workers of an application, and takes its cells as they come. An interrupt stops it there, too. */
export async function runQueued(
  sweep: Sweep,
  request: object,
  address: string,
  progress: (done: number) => void,
  say: (line: string) => void,
): Promise<void> {
  const run = await ask<QueuedSweep>(address, 'POST', '/sweep-runs', request);
  const path = `/sweep-runs/${run.id}`;
  const stop = () => {
    void ask(address, 'POST', `${path}/stop`).finally(() => process.exit(130));
  };
  process.once('SIGINT', stop);
  const named = new Set<string>();
  try {
    for (let after = 0; sweep.done < sweep.cells; ) {
      const { items } = await ask<{ items: QueuedChunk[] }>(address, 'GET', `${path}/chunks?after=${after}`);
      for (const chunk of items) {
        takeQueued(sweep, run, chunk, bytesOf);
        after = chunk.place;
      }
      progress(sweep.done);
      if (items.length > 0) continue;
      const now = await ask<QueuedSweep>(address, 'GET', path);
      if (now.state === 'stopped') throw new Failure(`sweep: it was stopped after ${sweep.done} of ${sweep.cells} tunings`);
      for (const core of now.refusing)
        if (!named.has(core)) {
          say(`Workers with core ${core} refuse it: their core is another one.`);
          named.add(core);
        }
      await new Promise((next) => setTimeout(next, PAUSE));
    }
  } finally {
    process.off('SIGINT', stop);
  }
}
