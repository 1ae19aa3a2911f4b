import { parentPort } from 'node:worker_threads';
import type { DocumentKind } from '@zygopod/core';
import { judge } from './judge.ts';

/** Judges one body after the other, away from the thread that answers. */
parentPort?.on('message', ({ bytes, kind }: { bytes: Uint8Array; kind: DocumentKind }) => {
  parentPort?.postMessage(judge(bytes, kind));
});
