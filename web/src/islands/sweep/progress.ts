import type { QueuedSweep } from '@zygopod/core';

/** How far a sweep is. */
export interface Progress {
  state: 'waiting' | 'running' | 'done' | 'stopped' | 'failed';
  done: number;
  cells: number;
  /** Seconds that are left by the present rate; null while there is none. */
  left: number | null;
  /** Seconds that it took so far. */
  took: number;
  /** Where it is measured: by the page's workers, or by those on the queue, with what is known of them. */
  on: QueuedSweep | null;
  why: string;
}

/** Nothing is measured yet. */
export const idle: Progress = { state: 'waiting', done: 0, cells: 0, left: null, took: 0, on: null, why: '' };
