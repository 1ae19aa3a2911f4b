import '../../../testing/provided.ts';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { canonicalText, documentText } from '@zygopod/core';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { sequence } from '../../../core/src/testing/sequence.ts';
import { type Boots, tuning } from '../testing/boots.ts';
import { Application } from './application.ts';
import { Folder } from './folder.ts';
import { Memory } from './memory.ts';
import { Mirror } from './mirror.ts';

const app = new Application(inject('address'), undefined);
const client = new pg.Client({ connectionString: inject('databaseUrl') });
let root: string;
let folder: Folder;
let project: string;
beforeAll(async () => {
  await client.connect();
  root = mkdtempSync(join(tmpdir(), 'zygopod-thousand-'));
  folder = new Folder(root);
  ({ id: project } = await app.createProject({ name: `Thousand ${root}` }));
});
afterAll(() => client.end());
const memoryPath = () => `${root}-memory.json`;
const put = (path: string, file: object) => folder.write(path, documentText(file));

/** Somebody pulled the plug. */
class Killed extends Error {}

/** The same object, but each of its methods may be the last thing that is done, before or after it is. */
function dying<T extends object>(living: T, strikes: () => boolean): T {
  return new Proxy(living, {
    get(target, key) {
      const member = Reflect.get(target, key) as unknown;
      if (typeof member !== 'function') return member;
      return (...args: unknown[]) => {
        if (strikes()) throw new Killed();
        const done = (member as (...args: unknown[]) => unknown).apply(target, args);
        const after = (value: unknown) => {
          if (strikes()) throw new Killed();
          return value;
        };
        return done instanceof Promise ? done.then(after) : after(done);
      };
    },
  });
}

describe('a thousand edits on both sides, with kills in between', () => {
  it('end alike, and nothing is lost', async () => {
    const next = sequence(1411);
    const pick = <T>(all: readonly T[]): T => all[Math.floor(next() * all.length)] as T;
    let unique = 1000;
    const value = () => ++unique / 8;
    /** The last value that somebody set, by document and part: the file sets the walk, the application the radius, both the acceleration. */
    const walks = new Map<string, number>();
    const radii = new Map<string, number>();
    const sent = new Set<number>();
    let [edits, kills, names] = [0, 0, 0];
    const broken = new Map<string, Boots>();

    const editDisk = () => {
      const files = [...folder.read().files.values()].flatMap(({ path, file }) =>
        file && path.startsWith('tunings/') ? [{ path, file: file as unknown as Boots }] : [],
      );
      const chance = next();
      if (files.length < 3 || chance < 0.06) {
        const name = `Disk ${++names}`;
        const walk = value();
        walks.set(name, walk);
        put(`tunings/disk-${names}.tuning.json`, tuning(name, walk));
        return;
      }
      const { path, file } = pick(files);
      if (chance < 0.1) {
        rmSync(join(root, path));
        walks.delete(file.name);
        radii.delete(file.name);
      } else if (chance < 0.14) {
        broken.set(path, file);
        writeFileSync(join(root, path), '{ "format": "zygopod/tuning", "name"');
      } else {
        const changed = structuredClone(file);
        if (chance < 0.25) changed.ramp = { accelerate: value() + 1 };
        else {
          changed.pace.walkSpeed = value();
          if (walks.has(file.name)) walks.set(file.name, changed.pace.walkSpeed);
        }
        put(path, changed);
      }
    };
    const mendDisk = () => {
      for (const [path, file] of broken) {
        const mended = structuredClone(file);
        mended.pace.walkSpeed = value();
        if (walks.has(file.name)) walks.set(file.name, mended.pace.walkSpeed);
        put(path, mended);
      }
      broken.clear();
    };
    const editServer = async () => {
      const all = await app.list(project);
      const chance = next();
      if (all.length < 3 || chance < 0.06) {
        const name = `Server ${++names}`;
        const radius = value();
        radii.set(name, radius);
        await app.create(project, 'tuning', tuning(name, 100, radius), '');
        return;
      }
      const one = pick(all);
      if (chance < 0.1) {
        await app.archive(one);
        walks.delete(one.name);
        radii.delete(one.name);
        return;
      }
      const file = (await app.file(one, one.head)) as unknown as Boots;
      if (chance < 0.25) file.ramp = { accelerate: value() + 1 };
      else {
        file.body.radius = value();
        if (radii.has(one.name) || walks.has(one.name)) radii.set(one.name, file.body.radius);
      }
      await app.save(one, one.head, file, '');
    };
    /** A look that may be cut short at any of its steps. */
    const lookOnce = async (mayDie: boolean) => {
      let left = mayDie && next() < 0.6 ? Math.floor(next() * 25) : Infinity;
      const strikes = () => left-- <= 0;
      const before = [...folder.read().files.values()].flatMap(({ file }) => (file ? [file as unknown as Boots] : []));
      const memory = new Memory(memoryPath());
      const mirror = new Mirror(dying(folder, strikes), dying(app, strikes), memory, project, 'both', { quiet: 0 });
      const keep = memory.keep.bind(memory);
      memory.keep = () => {
        if (strikes()) throw new Killed();
        keep();
      };
      try {
        const report = await mirror.look();
        if (!report.lines.some((line) => /changed meanwhile|restored/.test(line)))
          for (const { pace, ramp } of before) sent.add(pace.walkSpeed).add(ramp.accelerate);
        return report;
      } catch (error) {
        if (!(error instanceof Killed)) throw error;
        kills++;
        return null;
      }
    };

    while (edits < 1000) {
      for (let i = Math.ceil(next() * 14); i > 0; i--) {
        if (next() < 0.5) editDisk();
        else await editServer();
        edits++;
      }
      if (next() < 0.3) mendDisk();
      await lookOnce(true);
    }
    mendDisk();
    for (let i = 0; i < 10 && ((await lookOnce(false))?.lines.length ?? 1) > 0; i++);

    // Both sides are the same.
    const documents = await Promise.all((await app.list(project)).map(async (one) => canonicalText(await app.file(one, one.head))));
    const files = [...folder.read().files.values()].map(({ file }) => canonicalText(file));
    expect(files.toSorted()).toEqual(documents.toSorted());
    expect(documents.length).toBeGreaterThan(3);
    expect(kills).toBeGreaterThan(40);
    // Each part is what was set last on the side that sets it.
    for (const text of documents) {
      const { name, pace, body } = JSON.parse(text) as Boots;
      if (walks.has(name)) expect(pace.walkSpeed, `the walk of ${name}`).toBe(walks.get(name));
      if (radii.has(name)) expect(body.radius, `the radius of ${name}`).toBe(radii.get(name));
    }
    // Whatever stood in a file when both sides were made alike is in a revision.
    const { rows } = await client.query('select file from revisions r join documents d on d.id = r.document_id where d.project_id = $1', [
      project,
    ]);
    const kept = new Set(
      rows.flatMap(({ file }: { file: unknown }) =>
        [...JSON.stringify(file).matchAll(/(?:walkSpeed|accelerate)": ?([\d.]+)/g)].map((match) => Number(match[1])),
      ),
    );
    expect([...sent].filter((one) => !kept.has(one))).toEqual([]);
    process.stdout.write(`${edits} edits, ${kills} kills, ${documents.length} documents, ${rows.length} revisions\n`);
  });
});
