import { existsSync } from 'node:fs';
import { setTimeout as pause } from 'node:timers/promises';
import { Application, Away } from '../files/application.ts';
import { QUIET } from '../files/mirror.ts';
import { folderAt, openMirror } from '../files/open.ts';
import { addressOf } from '../files/runningAddress.ts';
import { Failure, FINDING, GOOD, Misuse } from '../misuse.ts';

interface Options {
  project?: string;
  address?: string;
  json?: boolean;
}

/** Merges the changes of a folder and a project once. Exit 1 if files were skipped. */
async function once(path: string, options: Options, direction: 'push' | 'pull'): Promise<number> {
  const app = new Application(addressOf(options.address));
  if (direction === 'push' && !existsSync(path)) throw new Misuse(`${path}: there is no such folder`);
  const folder = folderAt(path);
  try {
    const { mirror, project } = await openMirror(folder, app, options.project, direction);
    const first = await mirror.look();
    let { lines, broken } = first;
    if (first.isWaiting) {
      // What is missing may be back in a moment.
      await pause(QUIET);
      const second = await mirror.look();
      [lines, broken] = [[...lines, ...second.lines], second.broken];
    }
    if (options.json) process.stdout.write(`${JSON.stringify({ project: project.name, done: lines, broken })}\n`);
    else for (const line of lines.length > 0 ? lines : ['nothing has changed']) process.stdout.write(`${line}\n`);
    return broken.length > 0 ? FINDING : GOOD;
  } catch (error) {
    if (error instanceof Away) throw new Failure(error.message);
    throw error;
  }
}

export const push = (path: string, options: Options): Promise<number> => once(path, options, 'push');
export const pull = (path: string, options: Options): Promise<number> => once(path, options, 'pull');
