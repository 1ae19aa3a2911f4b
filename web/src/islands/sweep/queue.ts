import { drivenTapes, type QueuedChunk, type QueuedSweep, type Sweep, takeQueued } from '@zygopod/core';
import { askServer, send } from '../work/server.ts';

/** Decodes base 64. */
export const bytesOf = (text: string): Uint8Array<ArrayBuffer> => Uint8Array.from(atob(text), (char) => char.charCodeAt(0));

/** True if a sweep drives laps or tapes: these alone need the ground. */
export const needsGround = ({ definition }: Sweep): boolean =>
  [...definition.metrics, ...definition.targets.map(({ metric }) => metric)].some((key) => key.startsWith('lap')) ||
  drivenTapes(definition).length > 0;

/** Takes the chunks of a run after a place; returns the last one's place, or null if the server gave none. */
export async function takeChunks(sweep: Sweep, run: Pick<QueuedSweep, 'id' | 'chunkCells'>, from: number): Promise<number | null> {
  let after = from;
  for (;;) {
    const page = await askServer<{ items: QueuedChunk[] }>('GET', `/api/v1/sweep-runs/${run.id}/chunks?after=${after}&limit=100`);
    if ('why' in page) return null;
    for (const chunk of page.body.items) {
      takeQueued(sweep, run, chunk, bytesOf);
      after = chunk.place;
    }
    if (page.body.items.length < 100) return after;
  }
}

/** The request for a sweep on the queue. */
function requestOf(sweep: Sweep, over: readonly string[]) {
  const { tuning, ground, metrics, targets, isMetOnly = false } = sweep.definition;
  const tapes = drivenTapes(sweep.definition);
  return { tuning: tuning.file, ground: needsGround(sweep) ? ground : null, tapes, over, metrics, targets, metOnly: isMetOnly };
}

/**
 * Has a sweep measured by the workers of all machines on the database, and takes its cells as they come, until it is whole or `signal` stops it.
 * `took` is called with the run after each change. Resolves with true once all cells are there; rejects with why there are none.
 */
export async function runOnQueue(
  sweep: Sweep,
  over: readonly string[],
  took: (run: QueuedSweep) => void,
  signal: AbortSignal,
): Promise<boolean> {
  // Never answered as a double click: the same sweep may have been stopped a moment ago.
  const started = await send<QueuedSweep>('POST', '/api/v1/sweep-runs', { body: requestOf(sweep, over) });
  if ('why' in started) throw new Error(started.why);
  const run = started.body;
  const path = `/api/v1/sweep-runs/${run.id}`;
  let after = 0;
  const events = new EventSource(`${path}/events`);
  try {
    return await new Promise<boolean>((over, fail) => {
      let [isBusy, last] = [false, run as QueuedSweep | null];
      // Over once the server has stopped it: the same sweep may be started again at once.
      const stop = () => void askServer('POST', `${path}/stop`).then(() => over(false), fail);
      if (signal.aborted) stop();
      else signal.addEventListener('abort', stop);
      const look = async () => {
        if (isBusy) return;
        isBusy = true;
        for (let now = last; now && !signal.aborted; now = last) {
          last = null;
          after = (await takeChunks(sweep, run, after)) ?? after;
          took(now);
          if (sweep.done === sweep.cells) over(true);
          else if (now.state === 'stopped') over(false);
        }
        isBusy = false;
      };
      events.onmessage = ({ data }) => {
        last = JSON.parse(data) as QueuedSweep | null;
        look().catch(fail);
      };
      look().catch(fail);
    });
  } finally {
    events.close();
  }
}
