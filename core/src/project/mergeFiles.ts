import { merge } from '../tuning/merge.ts';
import type { TuningFile } from '../tuning/schema.ts';
import type { MemberKind } from './project.ts';
import { canonicalText } from './text.ts';

/**
 * Merges two files that grew from common ones (the newest last): of a tuning each parameter, of other documents each part at its top, that only
 * they changed is theirs, every other one is mine; what is as in an ancestor was not changed since. The paths that both changed, to different
 * values, are named.
 */
export function mergeFiles<F extends object>(kind: MemberKind, from: readonly F[], mine: F, theirs: F): { file: F; conflicts: string[] } {
  const merged =
    kind === 'tuning'
      ? (merge(from as never, mine as never, theirs as never) as unknown as { file: F & TuningFile; conflicts: string[] })
      : { file: { ...mine }, conflicts: [] };
  const file = merged.file as Record<string, unknown>;
  const conflicts = [...merged.conflicts];
  // A tuning's parameters are merged by now; its name and unit are parts like those of the others.
  const parts = kind === 'tuning' ? ['name', 'unit'] : [...new Set([...Object.keys(mine), ...Object.keys(theirs)])];
  const told = (of: object, part: string) => canonicalText((of as Record<string, unknown>)[part]);
  for (const part of parts) {
    const [here, there] = [told(mine, part), told(theirs, part)];
    if (here === there) continue;
    const were = from.map((ancestor) => told(ancestor, part));
    const [known, knownThere] = [were.lastIndexOf(here), were.lastIndexOf(there)];
    if (known === -1 && knownThere === -1) conflicts.push(part);
    else if (knownThere === -1 || (known !== -1 && knownThere > known)) put(file, part, theirs);
  }
  return { file: file as F, conflicts };
}

/** Gives a file a part as another has it. */
function put(file: Record<string, unknown>, part: string, other: object): void {
  const value = (other as Record<string, unknown>)[part];
  if (value === undefined) delete file[part];
  else file[part] = value;
}
