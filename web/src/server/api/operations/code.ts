import { languageIds } from '@zygopod/code/constants';
import { readGround, readTape, readTargets, readTuning } from '@zygopod/core';
import { z } from 'zod';
import { type CodeRequest, generateCode } from '../../code/generator.ts';
import { Problem } from '../../problem.ts';
import { jsonOfFiles } from '../generatedFiles.ts';
import { judged } from '../judged.ts';
import type { Operation, OperationRequest } from '../operation.ts';
import { streamed } from '../responses.ts';
import { text } from '../shapes.ts';

const file = z.record(z.string(), z.unknown()).meta({ description: 'A file of its format' });
const created = z
  .strictObject({ files: z.array(z.strictObject({ path: text(200), text: z.string() })) })
  .meta({ id: 'MadeFiles', description: 'Files with their paths in a folder' });

async function answer(wanted: CodeRequest, { signal }: Request): Promise<Response> {
  const done = await generateCode(wanted, signal);
  if ('why' in done) throw new Problem(422, `No file can hold it: ${done.why}`);
  return streamed(jsonOfFiles(done.files), { 'content-type': 'application/json', 'cache-control': 'private, no-cache' });
}

const codeBody = z
  .strictObject({
    tuning: file,
    to: z.enum(languageIds).meta({ description: 'The language' }),
  })
  .meta({ id: 'CodeRequest' });

const code: Operation = {
  method: 'POST',
  path: '/code',
  name: 'makeCode',
  words:
    'Generates a tuning’s motion as code from the core’s own stages: one file without dependencies, and a second one for walls if it meets any',
  body: codeBody,
  answers: { 200: { words: 'The files, the motion first', schema: created } },
  run: async ({ body, request }: OperationRequest<object, z.infer<typeof codeBody>>) => {
    judged(readTuning(body.tuning), 'tuning');
    return answer({ what: 'code', tuning: body.tuning, to: body.to }, request);
  },
};

/** Ticks of all tapes together at most: half an hour at 60 a second, and some 12 MB of goldens. */
const MOST_TICKS = 108_000;

/** Bytes of a body with tapes: hours of busy hands. */
const LARGEST_CHECKS = 4 * 1024 * 1024;

const checksBody = z
  .strictObject({
    tuning: file,
    targets: file.nullable().meta({ description: 'Target set; null: a band around each current value' }),
    ground: file.nullable().default(null).meta({ description: 'Ground with a course, for targets of its lap' }),
    tapes: z.array(file).max(12).meta({ description: 'Tapes whose motion the game must repeat' }),
  })
  .meta({ id: 'ChecksRequest' });

const checks: Operation = {
  method: 'POST',
  path: '/checks',
  name: 'makeChecks',
  words: 'Generates a folder for a build server: goldens, and for each language a test that reports where the game diverges from them',
  body: checksBody,
  largest: LARGEST_CHECKS,
  answers: { 200: { words: 'The files of the folder', schema: created } },
  run: async ({ body, request }: OperationRequest<object, z.infer<typeof checksBody>>) => {
    judged(readTuning(body.tuning), 'tuning');
    if (body.targets) judged(readTargets(body.targets), 'target set');
    if (body.ground) judged(readGround(body.ground), 'ground');
    let ticks = 0;
    for (const tape of body.tapes) {
      const read = readTape(tape);
      judged(read, 'tape');
      ticks += read.ok ? read.value.ticks : 0;
    }
    if (ticks > MOST_TICKS)
      throw new Problem(422, `The tapes have ${ticks} ticks together; ${MOST_TICKS} are replayed at most`, {
        found: ticks,
        most: MOST_TICKS,
      });
    return answer({ what: 'checks', ...body }, request);
  },
};

export const codeOperations = [code, checks];
