import { parentPort } from 'node:worker_threads';
import { CannotHold, checkFolder, meetsWalls, motionOf, printerOf, wallsOf } from '@zygopod/code';
import { fileStem, keepAsTargets, metricsOf, readGround, readTape, readTargets, readTuning, runDrills } from '@zygopod/core';
import type { CodeRequest, GeneratedCode } from './generator.ts';

/** Makes code and checks away from the thread that answers. Files have been judged by then. */
function generate(request: CodeRequest): GeneratedCode {
  const read = readTuning(request.tuning);
  if (!read.ok) return { why: 'it isn’t a tuning' };
  const { file, parameters } = read.value;
  try {
    if (request.what === 'code') {
      const printer = printerOf(request.to);
      const place = (what: string) => `${fileStem(file.name)}-${what}.${printer.extension}`;
      return {
        files: [
          { path: place('motion'), text: printer.file(motionOf(read.value)) },
          ...(meetsWalls(parameters) ? [{ path: place('walls'), text: printer.walls(wallsOf(read.value)) }] : []),
        ],
      };
    }
    const tapes = request.tapes.flatMap((one) => {
      const tape = readTape(one);
      return tape.ok ? [tape.value] : [];
    });
    const set = request.targets === null ? null : readTargets(request.targets);
    const on = request.ground === null ? null : readGround(request.ground);
    const ground = on?.ok ? on.value : null;
    const targets = set?.ok
      ? set.value
      : {
          format: 'zygopod/targets' as const,
          version: 1 as const,
          name: `Like ${file.name}`.slice(0, 120),
          note: '',
          targets: keepAsTargets(metricsOf([...runDrills(parameters, { ground })])),
        };
    return { files: checkFolder(read.value, targets, tapes, ground).map(({ path, text }) => ({ path, text })) };
  } catch (error) {
    if (error instanceof CannotHold) return { why: error.message };
    throw error;
  }
}

parentPort?.on('message', (request: CodeRequest) => parentPort?.postMessage(generate(request)));
