import { parentPort } from 'node:worker_threads';
import { ended, fitFaults, fitRecording, fitTargets, newTuning, readGround, readRecording, readTuning } from '@zygopod/core';
import type { FitResult, FitTask, RecordingTask, TargetTask } from './search.ts';

function toTargets({ tuning, ground, targets, moves }: TargetTask): FitResult {
  const read = readTuning(tuning);
  const on = ground === null ? null : readGround(ground);
  if (!read.ok || on?.ok === false) return { faults: ['The tuning or the ground is not valid'] };
  const request = { tuning: read.value, targets, ground: on?.value ?? null, moves };
  const faults = fitFaults(request);
  return faults.length > 0 ? { faults } : { report: ended(fitTargets(request)) };
}

function toRecording({ text, scale, isYUp, start }: RecordingTask): FitResult {
  const base = start === null ? null : readTuning(start);
  if (base?.ok === false) return { faults: ['The tuning is not valid'] };
  const recording = readRecording(text, { scale, isYUp });
  if (typeof recording === 'string') return { faults: [recording] };
  const report = ended(fitRecording(recording, base?.value.file ?? newTuning('From a recording')));
  if (typeof report === 'string') return { faults: [report] };
  const { motion: _motion, ...shared } = report;
  return { report: shared };
}

// Fits tunings away from the thread that answers. Files have been judged by then.
parentPort?.on('message', (task: FitTask) => parentPort?.postMessage('text' in task ? toRecording(task) : toTargets(task)));
