import { parentPort } from 'node:worker_threads';
import { CannotHold, checkFolder, meetsWalls, motionOf, printerOf, wallsOf } from '@zygopod/code';
import { fileStem, keepAsTargets, metricsOf, readTape, readTargets, readTuning, runDrills } from '@zygopod/core';
import type { CodeAsked, CodeMade } from './maker.ts';

/** Makes code and checks away from the thread that answers. Files have been judged by then. */
function make(asked: CodeAsked): CodeMade {
  const read = readTuning(asked.tuning);
  if (!read.ok) return { why: 'the tuning is none' };
  const { file, parameters } = read.value;
  try {
    if (asked.what === 'code') {
      const printer = printerOf(asked.to);
      const place = (what: string) => `${fileStem(file.name)}-${what}.${printer.extension}`;
      return {
        files: [
          { path: place('motion'), text: printer.file(motionOf(read.value)) },
          ...(meetsWalls(parameters) ? [{ path: place('walls'), text: printer.walls(wallsOf(read.value)) }] : []),
        ],
      };
    }
    const tapes = asked.tapes.flatMap((one) => {
      const tape = readTape(one);
      return tape.ok ? [tape.value] : [];
    });
    const set = asked.targets === null ? null : readTargets(asked.targets);
    const targets = set?.ok
      ? set.value
      : {
          format: 'zygopod/targets' as const,
          version: 1 as const,
          name: `Like ${file.name}`.slice(0, 120),
          note: '',
          targets: keepAsTargets(metricsOf([...runDrills(parameters)])),
        };
    return { files: checkFolder(read.value, targets, tapes).map(({ path, text }) => ({ path, text })) };
  } catch (error) {
    if (error instanceof CannotHold) return { why: error.message };
    throw error;
  }
}

parentPort?.on('message', (asked: CodeAsked) => parentPort?.postMessage(make(asked)));
