import '../../../testing/provided.ts';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { documentText } from '@zygopod/core';
import { afterEach, beforeEach, expect, inject, it } from 'vitest';
import { type Boots, tuning } from '../testing/boots.ts';
import { Application } from './application.ts';
import { Folder } from './folder.ts';
import { Memory } from './memory.ts';
import { Mirror } from './mirror.ts';

/** A folder that can't be read or written affects only itself: the others stay in sync, and it catches up once it is repaired. */

const app = new Application(inject('address'), undefined);
const ground = (name: string) => ({ format: 'zygopod/ground', version: 1, name, size: { width: 64, height: 64 }, start: { x: 9, y: 9 } });

/** A folder on a disk that refuses to write below a path. */
class RefusingFolder extends Folder {
  refuses: { below: string; code: string } | null = null;

  override write(path: string, text: string): void {
    if (this.refuses && path.startsWith(this.refuses.below)) throw Object.assign(new Error(this.refuses.code), { code: this.refuses.code });
    super.write(path, text);
  }
}

let root: string;
let folder: RefusingFolder;
let project: string;
const look = () => new Mirror(folder, app, new Memory(`${root}-memory.json`), project, 'both', { quiet: 0 }).look();
const walkOf = (path: string) => (JSON.parse(readFileSync(join(root, path), 'utf8')) as Boots).pace.walkSpeed;
const listed = async (name: string) => {
  const one = (await app.list(project)).find((document) => document.name === name);
  if (!one) throw new Error(`${name} is not in the project`);
  return one;
};

beforeEach(async () => {
  root = mkdtempSync(join(tmpdir(), 'zygopod-bad-'));
  folder = new RefusingFolder(root);
  ({ id: project } = await app.createProject({ name: `Bad places ${root}` }));
  folder.write('tunings/boots.tuning.json', documentText(tuning('Boots', 100)));
  folder.write('grounds/yard.ground.json', documentText(ground('Yard')));
  await look();
});
afterEach(() => {
  rmSync(root, { recursive: true });
  rmSync(`${root}-memory.json`, { force: true });
});

/** Both directions of the tunings, while the grounds are in trouble. */
async function tuningsStayAlike(): Promise<string[]> {
  folder.write('tunings/boots.tuning.json', documentText(tuning('Boots', 111)));
  const first = await look();
  const boots = await listed('Boots');
  expect(((await app.file(boots, boots.head)) as Boots).pace.walkSpeed).toBe(111);
  await app.save(boots, boots.head, tuning('Boots', 122), '');
  const { id } = await app.create(project, 'tuning', tuning('New boots', 133), '');
  const second = await look();
  expect(walkOf('tunings/boots.tuning.json')).toBe(122);
  expect(walkOf('tunings/new-boots.tuning.json')).toBe(133);
  expect((await listed('New boots')).id).toBe(id);
  // Nothing of the other folder was taken for removed.
  await listed('Yard');
  return [...first.lines, ...second.lines];
}

it.each([
  ['EACCES', 'no permission'],
  ['EROFS', 'the file system is read-only'],
  ['ENOSPC', 'no space left on the disk'],
])('a folder that refuses to be written (%s)', async (code, words) => {
  folder.refuses = { below: 'grounds/', code };
  const yard = await listed('Yard');
  await app.save(yard, yard.head, { ...ground('Yard'), size: { width: 128, height: 64 } }, '');
  await app.create(project, 'ground', ground('Second yard'), '');
  const before = readFileSync(join(root, 'grounds/yard.ground.json'), 'utf8');
  const lines = await tuningsStayAlike();
  expect(lines.join('\n')).toContain(words);
  expect(readFileSync(join(root, 'grounds/yard.ground.json'), 'utf8')).toBe(before);
  folder.refuses = null;
  await look();
  expect(JSON.parse(readFileSync(join(root, 'grounds/yard.ground.json'), 'utf8'))).toMatchObject({ size: { width: 128 } });
  expect(existsSync(join(root, 'grounds/second-yard.ground.json'))).toBe(true);
});

it('a file where a folder should be', async () => {
  const yard = readFileSync(join(root, 'grounds/yard.ground.json'));
  rmSync(join(root, 'grounds'), { recursive: true });
  writeFileSync(join(root, 'grounds'), 'no folder');
  const lines = await tuningsStayAlike();
  expect(lines.join('\n')).toContain('a file stands where a folder should be');
  rmSync(join(root, 'grounds'));
  folder.write('grounds/yard.ground.json', String(yard));
  await look();
  expect((await look()).lines).toEqual([]);
  await listed('Yard');
});
