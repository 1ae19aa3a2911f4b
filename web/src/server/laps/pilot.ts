import type { DrivenLaps, PilotLap, PilotOptions } from '@zygopod/core';
import { Problem } from '../problem.ts';
import { OneByOne } from '../worker.ts';

/** Request for laps: valid files, the pilot's options, and how many laps. */
export interface LapRequest {
  tuning: unknown;
  ground: unknown;
  options: Partial<PilotOptions>;
  laps: number;
}

/** The laps and the first one's tape, or why there are none. */
export type LapResult = DrivenLaps | { why: string };

/** The first lap with its tape; of several also the others, and their spread. */
export type LapAnswer = PilotLap & { tape: object; laps?: PilotLap[]; spread?: DrivenLaps['spread'] };

/** Milliseconds for one request, megabytes of heap, and how many may wait. */
const TIME = 20_000;
const HEAP = 1024;
const WAITING = 8;

const pilot = new OneByOne<LapRequest, LapResult>('src/server/laps/worker.ts', { time: TIME, heap: HEAP });
let inside = 0;

/** Has the pilot drive laps, one request after the other in a worker, unless the client has left; 503 if too many wait. */
export async function driveInWorker(request: LapRequest, signal: AbortSignal): Promise<LapAnswer> {
  if (inside >= WAITING) throw new Problem(503, 'Too many laps are being driven; try again in a moment', { retryAfter: 5 });
  inside++;
  try {
    const driven = await pilot.ask(request, { signal });
    if (driven === null) throw new Problem(422, `The laps take more than ${TIME / 1000} s or ${HEAP} MB to drive`);
    if ('why' in driven) throw new Problem(422, driven.why);
    const { laps, spread, tape } = driven;
    return { ...(laps[0] as PilotLap), tape, ...(laps.length > 1 ? { laps, spread } : {}) };
  } finally {
    inside--;
  }
}
