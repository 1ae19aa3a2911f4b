import { documentText, readProject } from '@zygopod/core';
import type { Application } from './application.ts';
import type { Folder } from './folder.ts';
import type { Memory } from './memory.ts';

/** Which way changes go. */
export type Direction = 'both' | 'push' | 'pull';

/** The file that holds what a project is besides its documents; it also tells that the folder is the right one. */
export const PROJECT_FILE = 'project.json';

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** Keeps name, unit and names of a project and its file alike; where both changed, the file's count. */
export async function lookAtProject(
  folder: Folder,
  app: Application,
  memory: Memory,
  direction: Direction,
  lines: string[],
): Promise<void> {
  const { id, name, unit, names } = await app.project(memory.project);
  const text = documentText({ format: 'zygopod/project', version: 1, name, unit, names });
  const here = folder.text(PROJECT_FILE);
  const isDiskChanged = here !== null && here !== text && memory.projectText !== '' && here !== memory.projectText;
  if (isDiskChanged && direction !== 'pull') {
    const read = readProject(parsed(here));
    if (!read.ok) {
      lines.push(`${PROJECT_FILE} is left alone: it is no project`);
      return;
    }
    await app.changeProject(id, { name: read.value.name, unit: read.value.unit, names: read.value.names });
    lines.push(`${PROJECT_FILE}: taken over`);
    memory.projectText = here;
  } else if (here !== text && direction !== 'push') {
    folder.write(PROJECT_FILE, text);
    memory.projectText = text;
  } else if (here === text) memory.projectText = text;
  memory.keep();
}
