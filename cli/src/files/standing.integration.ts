import '../../../testing/provided.ts';
import { mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readSource } from '@zygopod/core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { Application, type Listed } from './application.ts';
import { Folder } from './folder.ts';
import { Memory } from './memory.ts';
import { Mirror } from './mirror.ts';
import type { Direction } from './projectFile.ts';

const address = inject('address');
const app = new Application(address, undefined);
let root: string;
let project: string;
let folder: Folder;
beforeAll(async () => {
  root = mkdtempSync(join(tmpdir(), 'zygopod-standing-'));
  folder = new Folder(join(root, 'game'));
  folder.write('keep', '');
  ({ id: project } = await app.createProject({ name: `Standing ${root}`, names: { 'pace.walkSpeed': 'amble' } }));
});
afterAll(() => rmSync(root, { recursive: true }));

const look = async (direction: Direction = 'both') =>
  (await new Mirror(folder, app, new Memory(join(root, 'memory.json')), project, direction).look()).lines.filter((line) =>
    /handed over|not written|by hand/.test(line),
  );
const tuning = (walkSpeed: number, name = 'Boots') => ({ format: 'zygopod/tuning', version: 2, name, pace: { walkSpeed } });
const listed = async (name = 'Boots') => (await app.list(project)).find((one) => one.name === name) as Listed;

/** Keeps that a tuning was handed over, as the Hand-off screen does. */
async function handOver(id: string, values: object, name = 'Boots'): Promise<number> {
  const answer = await fetch(`${address}/api/v1/handoffs`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({
      tuning: { id, revision: 1, name },
      changedSince: false,
      to: 'c',
      units: 'px,second,degree',
      label: '',
      values: {},
      ...values,
    }),
  });
  return answer.status;
}
const numberIn = (path: string, name: string) =>
  readSource(readFileSync(join(folder.root, path), 'utf8')).found.find((found) => found.name.split('.').at(-1) === name)?.value;

describe('hand-offs with a place in the folder', () => {
  it('are written once they are handed over, and by each saved revision, in their units and the project’s names', async () => {
    const { id } = await app.create(project, 'tuning', tuning(160), '');
    expect(await handOver(id, {})).toBe(201);
    await look();
    expect(folder.text('src/motion.h')).toBeNull();
    expect(await handOver(id, { path: 'src/motion.h' })).toBe(201);
    expect(await handOver(id, { path: 'data/motion.json', to: 'json', units: 'tiles:16,second,degree' })).toBe(201);
    expect(await look()).toEqual(['data/motion.json: rev 1 of Boots handed over', 'src/motion.h: rev 1 of Boots handed over']);
    expect(numberIn('src/motion.h', 'AMBLE') ?? numberIn('src/motion.h', 'amble')).toBe(160);
    expect(JSON.parse(folder.text('data/motion.json') ?? '')).toMatchObject({ amble: 10 });
    expect(await look()).toEqual([]);
    for (const walkSpeed of [176, 192]) {
      const one = await listed();
      await app.save(one, one.head, tuning(walkSpeed), '');
      expect(await look()).toHaveLength(2);
      expect(JSON.parse(folder.text('data/motion.json') ?? '')).toMatchObject({ amble: walkSpeed / 16 });
      expect(folder.text('src/motion.h')).toContain(`, rev ${one.head + 1}.`);
    }
    // By a file that was changed in the folder, too: that is a revision.
    folder.write('tunings/boots.tuning.json', JSON.stringify(tuning(208)));
    expect(await look()).toEqual([expect.stringContaining('data/motion.json: rev 4'), expect.stringContaining('src/motion.h: rev 4')]);
    expect(JSON.parse(folder.text('data/motion.json') ?? '')).toMatchObject({ amble: 13 });
  });

  it('stay as edited by hand, and the new content is reported', async () => {
    for (const path of ['src/motion.h', 'data/motion.json']) {
      const ours = (folder.text(path) ?? '').replace(/(amble\D*)[\d.]+/i, '$17');
      writeFileSync(join(folder.root, path), ours);
      const one = await listed();
      await app.save(one, one.head, tuning(220 + one.head), '');
      expect((await look()).join()).toContain(`${path} was changed by hand and is not overwritten; rev ${one.head + 1} has `);
      expect(folder.text(path)).toBe(ours);
      // Taken away by hand it is written again.
      rmSync(join(folder.root, path));
      expect((await look()).join()).toContain(`${path}: rev ${one.head + 1}`);
    }
  });

  it('say what cannot be said in the language, and are written by no push', async () => {
    const { id } = await app.create(project, 'tuning', tuning(150, 'Clash'), '');
    await handOver(id, { path: 'clash.lua', to: 'lua' }, 'Clash');
    expect(await look('push')).toEqual([]);
    await app.changeProject(await app.project(project), { names: { 'pace.walkSpeed': 'end' } });
    expect((await look()).join()).toContain('clash.lua is not written: pace.walkSpeed: end is a reserved word of Lua');
    expect(folder.text('clash.lua')).toBeNull();
    await app.changeProject(await app.project(project), { names: {} });
    expect((await look()).join()).toContain('clash.lua: rev 1 of Clash handed over');
    // Nothing is written for an archived tuning.
    await app.archive(await listed('Clash'));
    rmSync(join(folder.root, 'clash.lua'));
    await look();
    expect(folder.text('clash.lua')).toBeNull();
  });

  it('never get out of the folder', async () => {
    const { id } = await listed();
    for (const path of ['../out.h', '/tmp/out.h', 'tunings/out.tuning.json', '.git/hooks/run'])
      expect(await handOver(id, { path }), path).toBe(422);
    symlinkSync(root, join(folder.root, 'link'));
    expect(await handOver(id, { path: 'link/out.h' })).toBe(201);
    expect((await look()).join()).toContain('link/out.h is not written: a link leads out of the folder');
    expect(new Folder(root).text('out.h')).toBeNull();
  });
});
