import '../../../testing/provided.ts';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { documentText } from '@zygopod/core';
import { expect, inject, it } from 'vitest';
import { campaign } from '../../../core/src/testing/campaign.ts';
import { sequence } from '../../../core/src/testing/sequence.ts';
import { Application } from './application.ts';
import { Folder } from './folder.ts';
import { Memory } from './memory.ts';
import { Mirror } from './mirror.ts';

/**
 * A document keeps its id through what version control and editors do with its file: two folders on one project, in which files are renamed,
 * removed, restored, stashed and switched with a branch, with looks of both at any moment. Each document has a number of its own in it, by which
 * the test knows it.
 */

const address = inject('address');
const app = new Application(address, undefined);

/** Sequences of a run. */
const SEQUENCES = campaign(6, 300);

const tuning = (mark: number, name: string, speed: number) => ({
  format: 'zygopod/tuning',
  version: 2,
  name,
  body: { radius: 10 + mark },
  pace: { walkSpeed: speed },
  ramp: { accelerate: 700 + mark, decelerate: 900 + mark },
});
type Tuning = ReturnType<typeof tuning>;

type Files = Map<string, string>;

/** Milliseconds of the test's own clock: what version control does in one go takes a moment of it. */
let clock = 0;

/** A clone: the files of its folder, and what it has of branches and stashes. */
class Clone {
  readonly root = mkdtempSync(join(tmpdir(), 'zygopod-git-'));
  readonly tunings = join(this.root, 'tunings');
  readonly branches: Files[] = [];
  stashed: Files | null = null;
  readonly #mirror: Mirror;

  constructor(project: string) {
    mkdirSync(this.tunings);
    this.#mirror = new Mirror(new Folder(this.root), app, new Memory(`${this.root}-memory.json`), project, 'both', { now: () => clock });
  }

  look = async () => (await this.#mirror.look()).lines.filter((line) => !line.startsWith('project.json'));

  files(): Files {
    return new Map(readdirSync(this.tunings).map((name) => [name, readFileSync(join(this.tunings, name), 'utf8')]));
  }

  /** What a checkout does: removes what the other state doesn't have, and writes what differs. */
  async become(files: Files, between: () => Promise<unknown>): Promise<void> {
    const now = this.files();
    for (const name of now.keys()) if (!files.has(name)) rmSync(join(this.tunings, name));
    await between();
    for (const [name, text] of files)
      if (now.get(name) !== text) {
        rmSync(join(this.tunings, name), { force: true });
        await between();
        writeFileSync(join(this.tunings, name), text);
      }
  }
}

async function play(seed: number): Promise<void> {
  const next = sequence(seed * 7919 + 1);
  const dice = (end: number) => Math.floor(next() * end);
  const { id: project } = await app.makeProject({ name: `Git ${seed} ${Math.random()}` });
  const clones = [new Clone(project), new Clone(project)] as const;
  const told: string[] = [];
  const ids = new Map<number, string>();
  let marks = 0;
  let speed = 100;
  /** Looks now and then in the middle of things. */
  const between = async () => {
    clock += 20;
    return next() < 0.3 ? clones[dice(2)]?.look() : null;
  };
  const listed = async () => {
    const { items } = (await (await fetch(`${address}/api/v1/projects/${project}/shelf?limit=200`)).json()) as { items: { id: string }[] };
    const away = (await (await fetch(`${address}/api/v1/projects/${project}/shelf?limit=200&away=true`)).json()) as {
      items: { id: string }[];
    };
    return { used: items, all: [...items, ...away.items] };
  };
  const markOf = (text: string) => (JSON.parse(text) as Tuning).body.radius - 10;
  const create = async (clone: Clone) => {
    const mark = ++marks;
    writeFileSync(join(clone.tunings, `made-${mark}.tuning.json`), documentText(tuning(mark, `Boots ${mark}`, ++speed)));
    for (const one of clones) await one.look();
    const one = (await app.list(project)).find(({ name }) => name === `Boots ${mark}`);
    ids.set(mark, one?.id ?? '');
    const draft = { file: tuning(mark, `Boots ${mark}`, 1000 + mark), base: 1 };
    await fetch(`${address}/api/v1/tunings/${one?.id}/draft`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json', 'if-none-match': '*' },
      body: JSON.stringify(draft),
    });
  };
  for (let i = 0; i < 3; i++) await create(clones[0]);
  for (let step = 0; step < 14; step++) {
    const clone = clones[dice(2)] as Clone;
    const files = clone.files();
    const names = [...files.keys()];
    const name = names[dice(names.length)];
    const what = next();
    if (what < 0.12 && marks < 8) {
      told.push('makes one');
      await create(clone);
    } else if (what < 0.3 && name) {
      const to = `renamed-${step}.tuning.json`;
      told.push(`renames ${name} to ${to}`);
      renameSync(join(clone.tunings, name), join(clone.tunings, to));
      if (next() < 0.4) {
        // And it is changed in the same go: another name, another speed.
        const file = JSON.parse(files.get(name) as string) as Tuning;
        writeFileSync(join(clone.tunings, to), documentText({ ...file, name: `Renamed ${step}`, pace: { walkSpeed: ++speed } }));
      }
    } else if (what < 0.45 && name) {
      const file = JSON.parse(files.get(name) as string) as Tuning;
      told.push(`edits ${name}`);
      rmSync(join(clone.tunings, name));
      await between();
      writeFileSync(join(clone.tunings, name), documentText({ ...file, pace: { walkSpeed: ++speed } }));
    } else if (what < 0.55 && name) {
      told.push(`removes ${name}`);
      clone.branches.push(files);
      rmSync(join(clone.tunings, name));
    } else if (what < 0.7) {
      told.push('keeps a branch');
      clone.branches.push(files);
    } else if (what < 0.85 && clone.branches.length > 0) {
      told.push('checks a branch out, and back');
      await clone.become(clone.branches[dice(clone.branches.length)] as Files, between);
      await between();
      if (next() < 0.7) await clone.become(files, between);
    } else if (clone.stashed) {
      told.push('takes its stash');
      await clone.become(clone.stashed, between);
      clone.stashed = null;
    } else {
      told.push('stashes');
      clone.stashed = files;
    }
    clock += next() < 0.7 ? 5000 : 30;
    if (next() < 0.7) await clone.look();
  }
  for (let round = 0; ; round++) {
    clock += 5000;
    const lines = [...(await clones[0].look()), ...(await clones[1].look())];
    // What is missing is looked at twice.
    if (lines.length === 0 && round > 1) break;
    if (round > 12) throw new Error(`seed ${seed} does not come to rest: ${lines.join('; ')}\n${told.join('\n')}`);
  }
  const story = `seed ${seed}\n${told.join('\n')}`;
  const { used, all } = await listed();
  // No document twice, not even among those that are archived.
  expect(new Set(all.map(({ id }) => id)), story).toEqual(new Set(ids.values()));
  for (const clone of clones) {
    const marksHere = [...clone.files().values()].map(markOf).sort();
    expect(marksHere, story).toEqual([...new Set(marksHere)]);
    expect(marksHere.map((mark) => ids.get(mark)).sort(), story).toEqual(used.map(({ id }) => id).sort());
  }
  for (const { id } of used) {
    const mark = [...ids].find(([, own]) => own === id)?.[0] as number;
    const draft = (await (await fetch(`${address}/api/v1/tunings/${id}/draft`)).json()) as { file: Tuning };
    expect(draft.file?.pace.walkSpeed, story).toBe(1000 + mark);
    const { file } = (await (await fetch(`${address}/api/v1/tunings/${id}`)).json()) as { file: Tuning };
    expect(file.body.radius - 10, story).toBe(mark);
  }
  for (const { root } of clones) rmSync(root, { recursive: true });
}

it('documents keep their ids and drafts through what version control does with their files', async () => {
  for (let seed = 1; seed <= SEQUENCES; seed++) await play(seed);
}, 1_200_000);
