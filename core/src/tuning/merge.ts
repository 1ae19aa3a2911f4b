import { specs } from './catalogue/catalogue.ts';
import type { TuningFile } from './schema.ts';
import { withValue, writtenAt } from './tuning.ts';

/**
 * Merges two files that grew from common ones (the newest last): each parameter that only they changed is theirs, every other one is mine. A
 * value that is as in an ancestor was not changed since; where both are, that of the newer one counts. The paths that both changed, to
 * different values, are named.
 */
export function merge(ancestors: readonly TuningFile[], mine: TuningFile, theirs: TuningFile): { file: TuningFile; conflicts: string[] } {
  const conflicts: string[] = [];
  let file = mine;
  for (const path of specs.keys()) {
    const [here, there] = [JSON.stringify(writtenAt(mine, path)), JSON.stringify(writtenAt(theirs, path))];
    if (here === there) continue;
    const were = ancestors.map((ancestor) => JSON.stringify(writtenAt(ancestor, path)));
    const [known, knownThere] = [were.lastIndexOf(here), were.lastIndexOf(there)];
    if (known === -1 && knownThere === -1) conflicts.push(path);
    else if (knownThere === -1 || (known !== -1 && knownThere > known)) file = withValue(file, path, writtenAt(theirs, path));
  }
  return { file, conflicts };
}
