import { readGround, readTargets, readTuning } from '@zygopod/core';
import { z } from 'zod';
import { fitInWorker } from '../../fits/search.ts';
import { judged } from '../judged.ts';
import type { Operation, OperationRequest } from '../operation.ts';
import { json } from '../responses.ts';

/** Bytes of a body: a ground of many walls. */
const LARGEST = 4 * 1024 * 1024;

const file = z.record(z.string(), z.unknown()).meta({ description: 'A file of its format' });
const end = z.number().optional();

const body = z
  .strictObject({
    tuning: file,
    targets: z.array(z.record(z.string(), z.unknown())).min(1).max(40).meta({ description: 'Targets, as in a target set' }),
    ground: file.nullable().default(null).meta({ description: 'A ground with a course, for targets of laps' }),
    moves: z
      .array(z.strictObject({ path: z.string().max(60), min: end, max: end }))
      .max(12)
      .default([])
      .meta({ description: 'The numbers that may move, with their ranges; none: those that matter for the targets' }),
  })
  .meta({ id: 'FitRequest' });

const answer = z
  .strictObject({
    met: z.boolean().meta({ description: 'True if all targets are met' }),
    set: z.record(z.string(), z.unknown()).meta({ description: 'The values that change, by path' }),
    held: z
      .record(z.string(), z.strictObject({ low: z.number(), high: z.number() }))
      .meta({ description: 'The range of each number over which all targets hold, the others fitted again' }),
    free: z.array(z.string()).meta({ description: 'The numbers that no target holds' }),
    conflicts: z
      .array(z.strictObject({ targets: z.array(z.string()), through: z.array(z.string()), why: z.string() }))
      .meta({ description: 'The smallest sets of targets that can’t be met together, and the numbers that they meet in' }),
    metrics: z.array(
      z.strictObject({
        name: z.string(),
        before: z.number().nullable(),
        after: z.number().nullable(),
        min: z.number().optional(),
        max: z.number().optional(),
        ok: z.boolean().nullable(),
      }),
    ),
  })
  .meta({ id: 'Fit' });

const fit: Operation = {
  method: 'POST',
  path: '/fits',
  name: 'fitTargets',
  words: 'Finds the numbers that meet targets with the smallest change; nothing is saved',
  body,
  largest: LARGEST,
  answers: { 200: { words: 'The numbers, or the best compromise and what conflicts', schema: answer } },
  run: async ({ body: { tuning, targets, ground, moves }, request }: OperationRequest<object, z.infer<typeof body>>) => {
    judged(readTuning(tuning), 'tuning');
    if (ground !== null) judged(readGround(ground), 'ground');
    const set = readTargets({ format: 'zygopod/targets', version: 1, targets });
    judged(set, 'target set');
    return json(await fitInWorker({ tuning, targets: set.ok ? set.value.targets : [], ground, moves }, request.signal));
  },
};

const recordingBody = z
  .strictObject({
    text: z.string().min(1).max(LARGEST).meta({ description: 'The recording: CSV or JSON lines with time, x and y' }),
    scale: z
      .number()
      .positive()
      .max(1e6)
      .default(1)
      .meta({ description: 'The tuning’s units in one of the recording, such as 32 for tiles of 32 px' }),
    yUp: z.boolean().default(false).meta({ description: 'True if y grows upwards' }),
    start: file.nullable().default(null).meta({ description: 'A tuning whose other values the found one takes' }),
  })
  .meta({ id: 'RecordingRequest' });

const recordingAnswer = z
  .strictObject({
    set: z.record(z.string(), z.unknown()).meta({ description: 'The values that the recording shows, by path' }),
    held: z
      .record(z.string(), z.strictObject({ low: z.number(), high: z.number(), evidence: z.string() }))
      .meta({ description: 'The range of each number with a confidence of 95 %, and what shows it' }),
    unknown: z.array(z.string()).meta({ description: 'The numbers that the recording doesn’t show' }),
    residual: z
      .strictObject({ place: z.number(), speed: z.number() })
      .meta({ description: 'The spread of what is left, in unit and unit/s' }),
    tuning: file,
    tape: file.meta({ description: 'The hands that were found' }),
    notes: z.array(z.string()),
  })
  .meta({ id: 'RecordingFit' });

const fitToRecording: Operation = {
  method: 'POST',
  path: '/fits/recordings',
  name: 'fitRecording',
  words: 'Finds the numbers of a recorded motion; nothing is saved',
  body: recordingBody,
  largest: LARGEST,
  answers: { 200: { words: 'The numbers with their ranges, and what the recording doesn’t show', schema: recordingAnswer } },
  run: async ({ body: { text, scale, yUp, start }, request }: OperationRequest<object, z.infer<typeof recordingBody>>) => {
    if (start !== null) judged(readTuning(start), 'tuning');
    return json(await fitInWorker({ text, scale, isYUp: yUp, start }, request.signal));
  },
};

export const fitOperations = [fit, fitToRecording];
