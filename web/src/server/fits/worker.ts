import { parentPort } from 'node:worker_threads';
import { fitFaults, fitTargets, readGround, readTuning } from '@zygopod/core';
import type { FitResult, FitTask } from './search.ts';

/** Fits tunings away from the thread that answers. Files have been judged by then. */
function fit({ tuning, ground, targets, moves }: FitTask): FitResult {
  const read = readTuning(tuning);
  const on = ground === null ? null : readGround(ground);
  if (!read.ok || on?.ok === false) return { faults: ['The tuning or the ground is not valid'] };
  const request = { tuning: read.value, targets, ground: on?.value ?? null, moves };
  const faults = fitFaults(request);
  if (faults.length > 0) return { faults };
  const search = fitTargets(request);
  let step = search.next();
  while (!step.done) step = search.next();
  return { report: step.value };
}

parentPort?.on('message', (task: FitTask) => parentPort?.postMessage(fit(task)));
