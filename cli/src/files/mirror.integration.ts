import '../../../testing/provided.ts';
import { mkdtempSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type DocumentKind, documentText } from '@zygopod/core';
import pg from 'pg';
import { afterAll, beforeAll, beforeEach, describe, expect, inject, it } from 'vitest';
import { pull, push } from '../commands/pushPull.ts';
import { type Boots, tuning } from '../testing/boots.ts';
import { Application, type Listed } from './application.ts';
import { Folder } from './folder.ts';
import { Live } from './live.ts';
import { Memory } from './memory.ts';
import { Mirror } from './mirror.ts';
import { type Direction, PROJECT_FILE } from './projectFile.ts';

const address = inject('address');
const app = new Application(address, undefined);
const client = new pg.Client({ connectionString: inject('databaseUrl') });
beforeAll(() => client.connect());
afterAll(() => client.end());

let root: string;
let folder: Folder;
let project: string;
const memoryPath = () => join(root, '..', `${root.split('/').at(-1)}-memory.json`);
const mirrorNow = (direction: Direction = 'both') => new Mirror(folder, app, new Memory(memoryPath()), project, direction, { quiet: 0 });
const look = async (direction: Direction = 'both') => mirrorNow(direction).look();

beforeEach(async () => {
  root = mkdtempSync(join(tmpdir(), 'zygopod-files-'));
  folder = new Folder(root);
  ({ id: project } = await app.createProject({ name: `Mirrored ${root}` }));
});

const fileNow = (path: string) => JSON.parse(readFileSync(join(root, path), 'utf8')) as Boots;
const put = (path: string, file: object | string) => folder.write(path, typeof file === 'string' ? file : documentText(file));
const listed = async (name: string) => (await app.list(project)).find((one) => one.name === name) as Listed;
const onServer = async (name: string) => {
  const one = await listed(name);
  return (await app.file(one, one.head)) as unknown as Boots;
};
const create = (kind: DocumentKind, file: object) => app.create(project, kind, file, '');

const sweep = (name: string, values: number) => ({
  format: 'zygopod/sweep',
  version: 1,
  name,
  note: '',
  tuning: { name: 'Day boots', revision: 1 },
  over: [`pace.walkSpeed=60:320:${values}`],
  metrics: ['stopDistance'],
});

describe('a folder and a project', () => {
  it('become alike, in the catalogue’s order, and stay so', async () => {
    await create('tuning', tuning('Day boots', 140));
    await create('targets', { format: 'zygopod/targets', version: 1, name: 'Brisk', targets: [{ metric: 'riseTime', max: 0.2 }] });
    put('tunings/storm.tuning.json', tuning('Storm boots', 118));
    await create('sweep', sweep('Stops', 40));
    await look();
    expect(readFileSync(join(root, 'tunings/day-boots.tuning.json'), 'utf8')).toBe(documentText(tuning('Day boots', 140)));
    expect(folder.text('targets/brisk.targets.json')).toContain('riseTime');
    expect(folder.text('sweeps/stops.sweep.json')).toBe(documentText(sweep('Stops', 40)));
    put('sweeps/stops.sweep.json', sweep('Stops', 50));
    await look();
    expect(await onServer('Stops')).toEqual(sweep('Stops', 50));
    expect(await onServer('Storm boots')).toMatchObject({ pace: { walkSpeed: 118 } });
    expect(folder.text(PROJECT_FILE)).toContain('"format": "zygopod/project"');
    expect((await look()).lines).toEqual([]);
  });

  it('take changes in both directions, and merge concurrent ones by parameter', async () => {
    put('tunings/boots.tuning.json', tuning('Boots'));
    await look();
    const one = await listed('Boots');
    await app.save(one, 1, tuning('Boots', 100, 13), 'Rounder');
    put('tunings/boots.tuning.json', tuning('Boots', 130));
    await look();
    expect(fileNow('tunings/boots.tuning.json')).toEqual(tuning('Boots', 130, 13));
    expect(await onServer('Boots')).toEqual(tuning('Boots', 130, 13));
    // What both changed is the file's; the other is in the history, and named.
    await app.save(one, 3, tuning('Boots', 150, 13), '');
    put('tunings/boots.tuning.json', tuning('Boots', 160, 13));
    const { lines } = await look();
    expect(lines.join()).toContain('both changed pace.walkSpeed');
    expect((await onServer('Boots')).pace.walkSpeed).toBe(160);
    expect((await app.file(one, 4)) as unknown).toMatchObject({ pace: { walkSpeed: 150 } });
    const { rows } = await client.query('select note from revisions where document_id = $1 order by number desc limit 1', [one.id]);
    expect(rows[0].note).toContain('rev 4 has the other');
    expect((await look()).lines).toEqual([]);
  });

  it('archive what the other side removed, unless it was changed since', async () => {
    for (const name of ['One', 'Two', 'Three']) put(`tunings/${name.toLowerCase()}.tuning.json`, tuning(name));
    await look();
    rmSync(join(root, 'tunings/one.tuning.json'));
    await app.archive(await listed('Two'));
    await app.archive(await listed('Three'));
    put('tunings/three.tuning.json', tuning('Three', 170));
    await look();
    await look();
    expect((await app.list(project)).map(({ name }) => name)).toEqual(['Three']);
    expect(folder.text('tunings/two.tuning.json')).toBeNull();
    expect((await onServer('Three')).pace.walkSpeed).toBe(170);
  });

  it('leave a broken file alone, name it, and go on with the others', async () => {
    put('tunings/boots.tuning.json', tuning('Boots'));
    put('tunings/coat.tuning.json', tuning('Coat'));
    await look();
    put('tunings/boots.tuning.json', '{ "format": "zygopod/tuning", <<<<<<<');
    put('tunings/coat.tuning.json', tuning('Coat', 77));
    const { broken, lines } = await look();
    expect(broken).toEqual([expect.stringMatching(/^tunings\/boots\.tuning\.json: found invalid JSON/)]);
    expect(lines.join()).toContain('tunings/boots.tuning.json is skipped');
    expect((await onServer('Coat')).pace.walkSpeed).toBe(77);
    expect((await listed('Boots')).head).toBe(1);
    expect(folder.text('tunings/boots.tuning.json')).toContain('<<<<<<<');
    put('tunings/boots.tuning.json', tuning('Boots', 88));
    await look();
    expect((await onServer('Boots')).pace.walkSpeed).toBe(88);
  });

  it('take a folder that is away, or empty at once, for no removal', async () => {
    put('tunings/boots.tuning.json', tuning('Boots'));
    await look();
    renameSync(root, `${root}-away`);
    await expect(look()).rejects.toThrow('is unavailable');
    mkdtempSync(`${root}-`);
    folder.write('.keep', '');
    await expect(look()).rejects.toThrow('is empty');
    rmSync(root, { recursive: true });
    renameSync(`${root}-away`, root);
    expect((await look()).lines).toEqual([]);
    expect((await listed('Boots')).head).toBe(1);
  });

  it('keep documents of one name, and of any script, apart', async () => {
    const long = '長'.repeat(120);
    for (const name of ['Boots', 'boots', 'BOOTS!', '漢字', long]) await create('tuning', tuning(name));
    await create('tuning', tuning('Boots', 200));
    await look();
    const files = [...folder.read().files.values()].map(({ file }) => file?.name);
    expect(files.toSorted()).toEqual(['Boots', 'Boots', 'boots', 'BOOTS!', '漢字', long].toSorted());
    expect((await look()).lines).toEqual([]);
  });

  it('find each other again where nothing is remembered', async () => {
    put('tunings/boots.tuning.json', tuning('Boots'));
    put('tunings/coat.tuning.json', tuning('Coat'));
    await look();
    rmSync(memoryPath());
    put('tunings/coat.tuning.json', tuning('Coat', 140));
    await look();
    expect(await app.list(project)).toHaveLength(2);
    expect((await onServer('Coat')).pace.walkSpeed).toBe(140);
    expect(folder.read().files.size).toBe(2);
  });

  it('go in one direction on request', async () => {
    put('tunings/boots.tuning.json', tuning('Boots'));
    await create('tuning', tuning('Coat'));
    await look('push');
    expect(folder.read().files.size).toBe(1);
    expect(await app.list(project)).toHaveLength(2);
    put('tunings/hat.tuning.json', tuning('Hat'));
    await look('pull');
    expect(folder.text('tunings/coat.tuning.json')).not.toBeNull();
    expect(await app.list(project)).toHaveLength(2);
  });

  it('are merged by push and pull, which list what they did and what they skipped', async () => {
    put('tunings/boots.tuning.json', tuning('Boots', 120));
    put('grounds/yard.ground.json', '{');
    const said: string[] = [];
    const write = process.stdout.write;
    const run = async (work: typeof push) => {
      said.length = 0;
      process.stdout.write = ((text: string) => said.push(text) > 0) as typeof write;
      try {
        return await work(root, { address: `${address}/`, project });
      } finally {
        process.stdout.write = write;
      }
    };
    expect(await run(push)).toBe(1);
    expect(said.join('')).toContain('grounds/yard.ground.json is skipped: found invalid JSON');
    expect((await onServer('Boots')).pace.walkSpeed).toBe(120);
    rmSync(join(root, 'grounds/yard.ground.json'));
    await create('tuning', tuning('Coat'));
    expect([await run(push), said]).toEqual([0, ['nothing has changed\n']]);
    expect([await run(pull), said]).toEqual([0, ['tunings/coat.tuning.json: written, rev 1\n']]);
    await expect(push(join(root, 'none'), { address })).rejects.toThrow('there is no such folder');
    await expect(pull(root, { address: 'ftp://x' })).rejects.toThrow('expected an address');
    await expect(pull(root, { address: 'http://127.0.0.1:9' })).rejects.toThrow('cannot be reached');
    await expect(pull(root, { address, project: 'Nobody' })).rejects.toThrow('found Nobody');
    await expect(pull(join(root, 'tunings/boots.tuning.json'), { address })).rejects.toThrow('expected a folder');
  });

  it('show a change at once as long as they are kept alike', async () => {
    put('tunings/boots.tuning.json', tuning('Boots'));
    const live = new Live();
    const lines: string[] = [];
    live.start(mirrorNow(), folder, app, (line) => lines.push(line));
    const until = async (is: () => Promise<boolean>) => {
      const begun = performance.now();
      while (!(await is())) {
        if (performance.now() - begun > 10_000) throw new Error(`not within 10 s: ${lines.join('; ')}`);
        await new Promise((next) => setTimeout(next, 5));
      }
      return performance.now() - begun;
    };
    await until(async () => (await listed('Boots')) !== undefined);
    await until(async () => folder.text(PROJECT_FILE) !== null);
    put('tunings/boots.tuning.json', tuning('Boots', 155));
    const there = await until(async () => (await onServer('Boots')).pace.walkSpeed === 155);
    const one = await listed('Boots');
    await app.save(one, one.head, tuning('Boots', 166), '');
    const back = await until(async () => fileNow('tunings/boots.tuning.json').pace.walkSpeed === 166);
    await live.stop();
    process.stdout.write(`a changed file is a revision after ${there.toFixed(0)} ms, a revision is a file after ${back.toFixed(0)} ms\n`);
  });
});
