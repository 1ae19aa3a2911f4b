import { specs, type TuningFile, withValue, writtenAt } from '@zygopod/core';

/**
 * Merges two files that grew from one: each parameter that only they changed is theirs, every other one is mine. The
 * paths that both changed, to different values, are named.
 */
export function merge(base: TuningFile, mine: TuningFile, theirs: TuningFile): { file: TuningFile; conflicts: string[] } {
  const conflicts: string[] = [];
  let file = mine;
  for (const path of specs.keys()) {
    const [was, here, there] = [base, mine, theirs].map((from) => JSON.stringify(writtenAt(from, path)));
    if (here === there || there === was) continue;
    if (here === was) file = withValue(file, path, writtenAt(theirs, path));
    else conflicts.push(path);
  }
  return { file, conflicts };
}
