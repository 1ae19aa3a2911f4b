import { parentPort } from 'node:worker_threads';
import { defaultOptions, deviceFault, driveLaps, readGround, readTuning } from '@zygopod/core';
import type { LapRequest, LapResult } from './pilot.ts';

/** Drives laps away from the thread that answers. Files have been judged by then. */
function drive({ tuning, ground, options, laps }: LapRequest): LapResult {
  const read = readTuning(tuning);
  const on = readGround(ground);
  if (!read.ok || !on.ok) return { why: 'The tuning or the ground is not valid' };
  const { parameters } = read.value;
  const device = options.device ?? defaultOptions(parameters).device;
  const fault = deviceFault(parameters, device);
  return fault ? { why: `The device ${device} does not suit the tuning: ${fault}` } : driveLaps(parameters, on.value, options, laps);
}

parentPort?.on('message', (request: LapRequest) => parentPort?.postMessage(drive(request)));
