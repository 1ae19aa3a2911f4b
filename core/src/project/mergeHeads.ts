import { decide } from '../tuning/merge.ts';

/** A project's own values, without its documents. */
export interface ProjectHead {
  name: string;
  unit: 'px' | 'm';
  names: Readonly<Record<string, string>>;
}

/**
 * Merges two states of a project that grew from a common one: its name, its unit, and each of its names by itself. What both changed is listed,
 * and mine counts there. Without a common one (null) names that only one has are kept.
 */
export function mergeHeads(from: ProjectHead | null, mine: ProjectHead, theirs: ProjectHead): { head: ProjectHead; conflicts: string[] } {
  const conflicts: string[] = [];
  const merged = <T extends string | undefined>(path: string, was: T | undefined, here: T, there: T): T => {
    if (from === null && here === undefined) return there;
    if (from === null && there === undefined) return here;
    const chosen = decide(here, there, from === null ? [] : [was]);
    if (chosen === 'both') conflicts.push(path);
    return chosen === 'theirs' ? there : here;
  };
  const own = (names: Readonly<Record<string, string>> | undefined, path: string) =>
    names && Object.hasOwn(names, path) ? names[path] : undefined;
  const paths = [...new Set([...Object.keys(mine.names), ...Object.keys(theirs.names)])].sort();
  const names = paths.flatMap((path): [string, string][] => {
    const name = merged(`names.${path}`, own(from?.names, path), own(mine.names, path), own(theirs.names, path));
    return name === undefined ? [] : [[path, name]];
  });
  return {
    head: {
      name: merged('name', from?.name, mine.name, theirs.name),
      unit: merged('unit', from?.unit, mine.unit, theirs.unit),
      names: Object.fromEntries(names),
    },
    conflicts,
  };
}
