import { specs } from './catalogue/catalogue.ts';
import type { TuningFile } from './schema.ts';
import { withValue, writtenAt } from './tuning.ts';

/**
 * Decides between two texts of one value, `here` and `there`. `were` are those of the common ancestors, the newest last: a value that is one of these
 * was not changed since, and if both are, the newer one counts. `sent` are this side's values in transit, any of which the other side may have seen:
 * this side's is newer than they are.
 */
export function decide(
  here: string | undefined,
  there: string | undefined,
  were: readonly (string | undefined)[],
  sent: readonly (string | undefined)[] = [],
): 'mine' | 'theirs' | 'both' {
  if (here === there || sent.includes(there)) return 'mine';
  const [known, knownThere] = [were.lastIndexOf(here), were.lastIndexOf(there)];
  if (known === -1 && knownThere === -1) return 'both';
  return knownThere === -1 || (known !== -1 && knownThere > known) ? 'theirs' : 'mine';
}

/** Merges two files parameter by parameter, as `decide` has it. The paths that both changed, to different values, are listed; there mine counts. */
export function merge(
  ancestors: readonly TuningFile[],
  mine: TuningFile,
  theirs: TuningFile,
  sent: readonly TuningFile[] = [],
): { file: TuningFile; conflicts: string[] } {
  const conflicts: string[] = [];
  let file = mine;
  for (const path of specs.keys()) {
    const at = (one: TuningFile) => JSON.stringify(writtenAt(one, path));
    const chosen = decide(at(mine), at(theirs), ancestors.map(at), sent.map(at));
    if (chosen === 'both') conflicts.push(path);
    else if (chosen === 'theirs') file = withValue(file, path, writtenAt(theirs, path));
  }
  return { file, conflicts };
}
