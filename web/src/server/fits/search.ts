import type { FitReport, MoveRequest, RecordingReport, Target } from '@zygopod/core';
import { Problem } from '../problem.ts';
import { OneByOne } from '../worker.ts';

/** Request for a fit to targets: valid files, and the numbers that may move. */
export interface TargetTask {
  tuning: unknown;
  ground: unknown;
  targets: Target[];
  moves: MoveRequest[];
}

/** Request for a fit to a recording: its text, how it is read, and a valid tuning for the other values. */
export interface RecordingTask {
  text: string;
  scale: number;
  isYUp: boolean;
  start: unknown;
}

export type FitTask = TargetTask | RecordingTask;

/** The report, or what is wrong with the request, in words. */
export type FitResult = { report: FitReport | Omit<RecordingReport, 'motion'> } | { faults: string[] };

/** Milliseconds for one request, megabytes of heap, and how many may wait. */
const TIME = 60_000;
const HEAP = 1024;
const WAITING = 8;

const search = new OneByOne<FitTask, FitResult>('src/server/fits/worker.ts', { time: TIME, heap: HEAP });
let inside = 0;

/** Fits a tuning, one request after the other in a worker, unless the client has left; 503 if too many wait. */
export async function fitInWorker(task: FitTask, signal: AbortSignal): Promise<FitReport | Omit<RecordingReport, 'motion'>> {
  if (inside >= WAITING) throw new Problem(503, 'Too many tunings are being fitted; try again in a moment', { retryAfter: 10 });
  inside++;
  try {
    const found = await search.ask(task, { signal });
    if (found === null) throw new Problem(422, `The fit takes more than ${TIME / 1000} s or ${HEAP} MB`);
    if ('faults' in found) throw new Problem(422, found.faults.join('; '));
    return found.report;
  } finally {
    inside--;
  }
}
