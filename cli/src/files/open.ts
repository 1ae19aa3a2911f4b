import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, statSync } from 'node:fs';
import { basename, join, resolve } from 'node:path';
import { collections } from '@zygopod/core';
import { Misuse } from '../misuse.ts';
import { stateFolder } from '../root.ts';
import type { Application, ProjectHead } from './application.ts';
import { Folder } from './folder.ts';
import { Memory } from './memory.ts';
import { Mirror } from './mirror.ts';
import { type Direction, headIn, PROJECT_FILE } from './projectFile.ts';

/** A folder that can hold a project's files; made where there is none. */
export function folderAt(path: string): Folder {
  const root = resolve(path);
  if (existsSync(root) && !statSync(root).isDirectory()) throw new Misuse(`${path}: found a file, expected a folder`);
  try {
    mkdirSync(root, { recursive: true });
  } catch (error) {
    throw new Misuse(`${path} cannot be created: ${error instanceof Error ? error.message : error}`);
  }
  return new Folder(root);
}

const holdsFiles = (folder: Folder) =>
  collections.some((name) => existsSync(join(folder.root, name)) && readdirSync(join(folder.root, name)).length > 0);

/**
 * The project of a folder: the requested one, else the one named in its project file, created if necessary; a new one for files without one. An empty
 * folder takes the first project.
 */
async function projectOf(folder: Folder, app: Application, given: string | undefined): Promise<ProjectHead> {
  const projects = await app.projects();
  const head = headIn(folder.text(PROJECT_FILE));
  const wanted = given ?? head?.name ?? null;
  const found = projects.find(({ name, id }) => name === wanted || id === wanted);
  if (found) return found;
  if (given !== undefined) throw new Misuse(`--project: found ${given}, expected one of ${projects.map(({ name }) => name).join(', ')}`);
  if (wanted === null && !holdsFiles(folder)) {
    const [first] = projects;
    if (first) return first;
  }
  return app.createProject({ name: basename(folder.root).slice(0, 120) || 'Project', ...head });
}

/** Lays a folder and its project side by side. */
export async function openMirror(
  folder: Folder,
  app: Application,
  given: string | undefined,
  direction: Direction,
): Promise<{ mirror: Mirror; project: ProjectHead }> {
  const project = await projectOf(folder, app, given);
  const key = createHash('sha256').update(`${folder.root} ${project.id}`).digest('hex').slice(0, 24);
  const memory = new Memory(join(stateFolder, 'files', `${key}.json`));
  return { mirror: new Mirror(folder, app, memory, project.id, direction), project };
}
