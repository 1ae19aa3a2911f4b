import { parentPort } from 'node:worker_threads';
import type { Kind } from '../kinds.ts';
import { judge } from './judge.ts';

/** Judges one body after the other, away from the thread that answers. */
parentPort?.on('message', ({ bytes, kind }: { bytes: Uint8Array; kind: Kind }) => {
  parentPort?.postMessage(judge(bytes, kind));
});
