import { decide, merge } from '../tuning/merge.ts';
import type { TuningFile } from '../tuning/schema.ts';
import type { MemberKind } from './project.ts';
import { canonicalText } from './text.ts';

/**
 * Merges two files that grew from common ones (`from`, the newest last): a tuning parameter by parameter, other documents by the parts at their
 * top, as `decide` has it. `sent` are the files that mine was since then. The paths that both changed, to different values, are listed.
 */
export function mergeFiles<F extends object>(
  kind: MemberKind,
  from: readonly F[],
  mine: F,
  theirs: F,
  sent: readonly F[] = [],
): { file: F; conflicts: string[] } {
  const merged =
    kind === 'tuning'
      ? (merge(from as never, mine as never, theirs as never, sent as never) as unknown as { file: F & TuningFile; conflicts: string[] })
      : { file: { ...mine }, conflicts: [] };
  const file = merged.file as Record<string, unknown>;
  const conflicts = [...merged.conflicts];
  // A tuning's parameters are merged by now; its name and unit are parts like those of the others.
  const parts = kind === 'tuning' ? ['name', 'unit'] : [...new Set([...Object.keys(mine), ...Object.keys(theirs)])];
  for (const part of parts) {
    const at = (of: object) => canonicalText((of as Record<string, unknown>)[part]);
    const chosen = decide(at(mine), at(theirs), from.map(at), sent.map(at));
    if (chosen === 'both') conflicts.push(part);
    else if (chosen === 'theirs') put(file, part, theirs);
  }
  return { file: file as F, conflicts };
}

/** Gives a file a part as another has it. */
function put(file: Record<string, unknown>, part: string, other: object): void {
  const value = (other as Record<string, unknown>)[part];
  if (value === undefined) delete file[part];
  else file[part] = value;
}
