import { canonicalText, documentText, type ProjectHead as Head, mergeHeads, readProject } from '@zygopod/core';
import type { Application } from './application.ts';
import type { Folder } from './folder.ts';
import type { Memory } from './memory.ts';

/** The direction of changes. */
export type Direction = 'both' | 'push' | 'pull';

/** The file with a project's own values; it also marks the folder as a project's. */
export const PROJECT_FILE = 'project.json';

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** Reads a project file; null if it isn't one, or also holds documents: such a file belongs to somebody else. */
export function headIn(text: string | null): Head | null {
  const read = text === null ? null : readProject(parsed(text));
  if (!read?.ok) return null;
  const { name, unit, names, tunings, grounds, tapes, targets } = read.value;
  return tunings.length + grounds.length + tapes.length + targets.length === 0 ? { name, unit, names } : null;
}

const textOf = ({ name, unit, names }: Head): string => documentText({ format: 'zygopod/project', version: 1, name, unit, names });
const isSame = (a: Head, b: Head) => canonicalText(textOf(a)) === canonicalText(textOf(b));

/**
 * Keeps name, unit and names of a project and its file in sync: both are merged from their last common version. Without one, as in a fresh clone,
 * values on one side only are kept. If both changed the same value, the file's is used, or, with `pull`, the project's.
 */
export async function lookAtProject(
  folder: Folder,
  app: Application,
  memory: Memory,
  direction: Direction,
  lines: string[],
): Promise<void> {
  const project = await app.project(memory.project);
  const { name, unit, names } = project;
  const there: Head = { name, unit, names };
  const text = folder.text(PROJECT_FILE);
  const here = headIn(text);
  if (text !== null && here === null) {
    if (memory.projectText !== text) lines.push(`${PROJECT_FILE} is skipped: it is not a project file without documents`);
    memory.projectText = text;
    memory.keep();
    return;
  }
  const from = headIn(memory.projectText);
  const isFileFirst = direction !== 'pull';
  const { head, conflicts } = !here
    ? { head: there, conflicts: [] }
    : isFileFirst
      ? mergeHeads(from, here, there)
      : mergeHeads(from, there, here);
  const loser = isFileFirst ? 'project' : 'file';
  for (const path of from ? conflicts : [])
    lines.push(`${PROJECT_FILE}: both changed ${path}: the ${isFileFirst ? 'file' : 'project'} counts, not the ${loser}`);
  if (direction !== 'pull' && !isSame(head, there)) {
    await app.changeProject(project, head as typeof project);
    lines.push(`${PROJECT_FILE}: taken over`);
  }
  if (direction !== 'push' && (!here || !isSame(head, here))) {
    folder.write(PROJECT_FILE, textOf(head));
  }
  const [nowThere, nowHere] = [direction === 'pull' ? there : head, direction === 'push' ? here : head];
  // Where one side was left as it is, both are not alike yet.
  if (nowHere && isSame(nowThere, nowHere)) memory.projectText = textOf(head);
  memory.keep();
}
