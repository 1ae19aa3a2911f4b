import '../../../testing/provided.ts';
import { mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { keepSource, pastedTuning, placeNumbers, proposeUnits, readSource, readTuning, withValue } from '@zygopod/core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { sequence } from '../../../core/src/testing/sequence.ts';
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
  root = mkdtempSync(join(tmpdir(), 'zygopod-linked-'));
  folder = new Folder(join(root, 'game'));
  ({ id: project } = await app.createProject({ name: `Linked ${root}` }));
});
afterAll(() => rmSync(root, { recursive: true }));

const code = `-- tiles, seconds; 16 px tiles
player = {
  walk_speed = 3.2,   -- brisk
  sprint_speed = 5.6,
\taccel = 40,
  friction = 55, radius = 0.4,
  hp = 3,
}
`;

const mirror = (direction: Direction = 'both') => new Mirror(folder, app, new Memory(join(root, 'memory.json')), project, direction);
const look = async (direction: Direction = 'both') => (await mirror(direction).look()).lines.filter((line) => line.startsWith('src/'));
const listed = async (name: string) => (await app.list(project)).find((one) => one.name === name) as Listed;
const numbers = async (name: string) => {
  const { id, head } = await listed(name);
  const read = readTuning(await app.file({ id, kind: 'tuning' }, head));
  if (!read.ok) throw new Error(name);
  return { head, ...read.value };
};
const on = (path: string) => join(folder.root, path);

/** A tuning of a text, and the text linked to a file of the folder. */
async function linked(name: string, text: string, path: string): Promise<string> {
  const source = readSource(text);
  const placed = placeNumbers(source.found).map((one) => ({ ...one, isGuess: false }));
  const { terms } = proposeUnits(placed, source);
  const { file } = pastedTuning(name, placed, terms);
  const { id } = await app.create(project, 'tuning', file, '');
  await relink(id, keepSource(path, text, placed, terms), path);
  return id;
}

async function relink(id: string, source: object, path: string): Promise<void> {
  const answer = await fetch(`${address}/api/v1/tunings/${id}/source`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json', 'if-none-match': '*' },
    body: JSON.stringify({ source, path }),
  });
  expect(answer.status).toBe(201);
}

/** Saves a revision with other values. */
async function save(name: string, values: Record<string, number>): Promise<void> {
  const { file } = await numbers(name);
  const one = await listed(name);
  await app.save(
    one,
    one.head,
    Object.entries(values).reduce((next, [path, value]) => withValue(next, path, value), file),
    '',
  );
}

describe('a source that is linked to a file of the folder', () => {
  it('gets the numbers of each revision, and gives its tuning those that are changed by hand; nothing else changes on either side', async () => {
    folder.write('src/hero.lua', code);
    await linked('Hero', code, 'src/hero.lua');
    expect(await look()).toEqual([]);
    await save('Hero', { 'pace.sprintSpeed': 94.4, 'ramp.decelerate': 1085 });
    expect(await look()).toEqual(['src/hero.lua: rev 2 of Hero written: 2 numbers']);
    const written = code.replace('5.6', '5.9').replace('55', '68');
    expect(folder.text('src/hero.lua')).toBe(written);
    expect(await look()).toEqual([]);
    // 1085 px/s² are 67.8 tiles/s²: that the file has 68 is no change by hand.
    expect((await numbers('Hero')).parameters.ramp.decelerate).toBe(1085);
    writeFileSync(on('src/hero.lua'), written.replace('walk_speed = 3.2', 'walk_speed = 3.5').replace('hp = 3', 'hp = 4'));
    expect(await look()).toEqual(['src/hero.lua: Walk 56 changed by hand: rev 3 of Hero']);
    const { head, parameters } = await numbers('Hero');
    expect([head, parameters.pace.walkSpeed, parameters.ramp.decelerate, parameters.pace.sprintSpeed]).toEqual([3, 56, 1085, 94.4]);
    expect(await look()).toEqual([]);
    // Both at once: each number from where it was changed.
    await save('Hero', { 'ramp.accelerate': 800 });
    writeFileSync(on('src/hero.lua'), (folder.text('src/hero.lua') ?? '').replace('radius = 0.4', 'radius = 0.5'));
    expect(await look()).toEqual([
      'src/hero.lua: Radius 8 changed by hand: rev 5 of Hero',
      'src/hero.lua: rev 5 of Hero written: 1 number',
    ]);
    expect(folder.text('src/hero.lua')).toContain('accel = 50,');
    expect(folder.text('src/hero.lua')).toContain('radius = 0.5,');
    expect((await numbers('Hero')).parameters.ramp.accelerate).toBe(800);
  });

  it('keeps line ends, a byte order mark and bytes that aren’t UTF-8, and is skipped where it can’t be what it was', async () => {
    const bytes = Buffer.concat([
      Buffer.from('walk_speed = 140 '),
      Buffer.from([0x23, 0x20, 0xe9, 0xff]),
      Buffer.from('\r\naccel = 900\r\n'),
    ]);
    folder.write('src/old.py', '');
    writeFileSync(on('src/old.py'), bytes);
    await linked('Old', bytes.toString('latin1'), 'src/old.py');
    expect(await look()).toEqual([]);
    await save('Old', { 'pace.walkSpeed': 150 });
    expect(await look()).toEqual(['src/old.py: rev 2 of Old written: 1 number']);
    expect(readFileSync(on('src/old.py'))).toEqual(Buffer.from(bytes.toString('latin1').replace('140', '150'), 'latin1'));
    writeFileSync(on('src/old.py'), 'print("another file")\n');
    expect((await look()).join()).toContain('src/old.py is skipped: it contains none of the numbers');
    await save('Old', { 'pace.walkSpeed': 160 });
    await look();
    expect(folder.text('src/old.py')).toBe('print("another file")\n');
    rmSync(on('src/old.py'));
    expect((await look()).join()).toContain('src/old.py is skipped: it is not there');
    // There again, as it was on another branch.
    writeFileSync(on('src/old.py'), bytes);
    expect((await look()).join()).toContain('Walk 140 changed by hand: rev 4 of Old');
  });

  it('never leads out of the folder, is only read by a push and only written by a pull', async () => {
    writeFileSync(join(root, 'outside.lua'), code);
    symlinkSync(join(root, 'outside.lua'), on('src/link.lua'));
    await linked('Outside', code, 'src/link.lua');
    expect(await look()).toEqual(['src/link.lua is skipped: a link leads out of the folder']);
    await save('Outside', { 'pace.walkSpeed': 64 });
    await look();
    expect(readFileSync(join(root, 'outside.lua'), 'utf8')).toBe(code);
    await app.archive(await listed('Outside'));
    folder.write('src/one.lua', code);
    await linked('One way', code, 'src/one.lua');
    await look();
    await save('One way', { 'ramp.accelerate': 800 });
    expect(await look('push')).toEqual([]);
    expect(folder.text('src/one.lua')).toBe(code);
    writeFileSync(on('src/one.lua'), code.replace('3.2', '3.5'));
    expect(await look('pull')).toContain('src/one.lua is skipped: 1 of its numbers were changed by hand');
    expect((await numbers('One way')).head).toBe(2);
    expect((await look('push')).join()).toContain('Walk 56 changed by hand: rev 3');
    expect((await look('pull')).join()).toContain('rev 3 of One way written: 1 number');
  });

  it('belongs to one tuning: another one that is linked to the same file by another name changes nothing', async () => {
    folder.write('src/both.lua', code);
    await linked('First of two', code, 'src/both.lua');
    symlinkSync(on('src/both.lua'), on('src/same.lua'));
    await linked('Second of two', code, 'src/same.lua');
    expect((await look()).filter((line) => /both|same/.test(line))).toEqual([
      expect.stringContaining('is skipped: another tuning is linked to it'),
    ]);
    await save('Second of two', { 'ramp.accelerate': 800 });
    await save('First of two', { 'pace.walkSpeed': 64 });
    await look();
    await look();
    const [first, second] = [await numbers('First of two'), await numbers('Second of two')];
    expect([first.head, second.head]).toEqual([2, 2]);
    for (const name of ['First of two', 'Second of two']) await app.archive(await listed(name));
  });

  it('has both sides equal after any sequence of changes, each seen by a new process', async () => {
    const next = sequence(2207);
    folder.write('src/many.lua', code);
    await linked('Many', code, 'src/many.lua');
    const held = { walk: 3.2, accel: 40 };
    for (let i = 0; i < 12; i++) {
      const inFile = next() < 0.5;
      const value = Math.round(10 + next() * 400) / 10;
      if (inFile) {
        held.walk = value;
        writeFileSync(on('src/many.lua'), (folder.text('src/many.lua') ?? '').replace(/walk_speed = [\d.]+/, `walk_speed = ${value}`));
      } else {
        held.accel = Math.round(value);
        await save('Many', { 'ramp.accelerate': held.accel * 16 });
      }
      if (next() < 0.7) await look();
    }
    await look();
    expect(await look()).toEqual([]);
    const { parameters } = await numbers('Many');
    expect([parameters.pace.walkSpeed, parameters.ramp.accelerate]).toEqual([expect.closeTo(held.walk * 16, 6), held.accel * 16]);
    expect(folder.text('src/many.lua')).toBe(
      code.replace('walk_speed = 3.2', `walk_speed = ${held.walk}`).replace('accel = 40', `accel = ${held.accel}`),
    );
  });
});
