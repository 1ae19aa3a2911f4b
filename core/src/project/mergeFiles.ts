import { decide, merge } from '../tuning/merge.ts';
import type { TuningFile } from '../tuning/schema.ts';
import { canonicalText } from './text.ts';

/**
 * Merges two files that grew from common ones (`from`, the newest last), as `decide` has it. `sent` are the files that mine was since then. The
 * paths that both changed, to different values, are listed; there mine counts.
 */
export type MergeFiles = (
  from: readonly object[],
  mine: object,
  theirs: object,
  sent: readonly object[],
) => { file: object; conflicts: string[] };

/** Merges files by the parts at their top. */
export const mergeByParts: MergeFiles = (from, mine, theirs, sent) =>
  mergeParts([...new Set([...Object.keys(mine), ...Object.keys(theirs)])], { ...mine }, from, mine, theirs, sent);

/** Merges the files of tunings parameter by parameter; their names and units are parts like those of the others. */
export const mergeTunings: MergeFiles = (from, mine, theirs, sent) => {
  const { file, conflicts } = merge(from as TuningFile[], mine as TuningFile, theirs as TuningFile, sent as TuningFile[]);
  const whole = mergeParts(['name', 'unit'], { ...file }, from, mine, theirs, sent);
  return { file: whole.file, conflicts: [...conflicts, ...whole.conflicts] };
};

/** Gives `file` those of the parts that only the other side changed. */
function mergeParts(
  parts: readonly string[],
  file: Record<string, unknown>,
  from: readonly object[],
  mine: object,
  theirs: object,
  sent: readonly object[],
): ReturnType<MergeFiles> {
  const conflicts: string[] = [];
  const partOf = (of: object, part: string): unknown => (of as Record<string, unknown>)[part];
  for (const part of parts) {
    const at = (of: object) => canonicalText(partOf(of, part));
    const chosen = decide(at(mine), at(theirs), from.map(at), sent.map(at));
    if (chosen === 'both') conflicts.push(part);
    if (chosen !== 'theirs') continue;
    const value = partOf(theirs, part);
    if (value === undefined) delete file[part];
    else file[part] = value;
  }
  return { file, conflicts };
}
