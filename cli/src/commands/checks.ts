import { existsSync, mkdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { CannotHold, checkFolder, type FolderFile, registry } from '@zygopod/code';
import { type Ground, keepAsTargets, metricsOf, printable, runDrills, type TargetSet } from '@zygopod/core';
import { groundFile, tapeFile, targetsFile, tuningFile, writeText } from '../files.ts';
import { FINDING, GOOD } from '../misuse.ts';

interface ChecksOptions {
  output: string;
  tape: string[];
  targets?: string;
  ground?: string;
}

/** Writes the folder for a build server; an existing `game.py` is yours and stays. */
export async function checks(path: string, { output, tape, targets, ground }: ChecksOptions): Promise<number> {
  const tuning = tuningFile(path);
  const tapes = tape.map((one) => tapeFile(one));
  const lapGround = ground ? groundFile(ground) : null;
  const set = targets ? targetsFile(targets) : targetsLike(tuning, lapGround);
  let files: FolderFile[];
  try {
    files = checkFolder(tuning, set, tapes, lapGround);
  } catch (error) {
    if (!(error instanceof CannotHold)) throw error;
    process.stderr.write(`can’t create goldens: ${printable(error.message)}\n`);
    return FINDING;
  }
  for (const { path: name, text, stays } of files) {
    const at = join(output, name);
    mkdirSync(dirname(at), { recursive: true });
    if (!stays || !existsSync(at)) writeText(at, text);
  }
  const languages = registry.map(({ title }) => title).join(', ');
  process.stdout.write(`${output}: ${tapes.length} goldens, ${set.targets.length} targets, tests in ${languages}\n`);
  return GOOD;
}

/** Targets in a band round each metric of today. */
const targetsLike = ({ file, parameters }: ReturnType<typeof tuningFile>, ground: Ground | null): TargetSet => ({
  format: 'zygopod/targets',
  version: 1,
  name: `Like ${file.name}`.slice(0, 120),
  note: '',
  targets: keepAsTargets(metricsOf([...runDrills(parameters, { ground })])),
});
