import { mkdirSync, mkdtempSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { documentText } from '@zygopod/core';
import { Application, Away, type Listed } from '../files/application.ts';
import { Folder } from '../files/folder.ts';
import { Memory } from '../files/memory.ts';
import { Mirror } from '../files/mirror.ts';
import { Dice } from './dice.ts';

/**
 * A document keeps its id through what version control and editors do with its file: two folders on one project, in which files are renamed,
 * removed, restored, copied, merged, stashed and switched with a branch, with looks of both at any moment, also while the application is being
 * killed. Each document has a number of its own in it, its mark, by which it is known here.
 */

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

const markOf = (text: string) => (JSON.parse(text) as Tuning).body.radius - 10;
const pause = (milliseconds: number) => new Promise<void>((over) => setTimeout(over, milliseconds));

/** Repeats work until the application can be reached. */
async function patiently<T>(work: () => Promise<T>): Promise<T> {
  for (let left = 150; ; left--)
    try {
      return await work();
    } catch (error) {
      if (!(error instanceof Away) || left === 0) throw error;
      await pause(200);
    }
}

/** A clone: the files of its folder, its branches and its stash. */
class Clone {
  readonly root = mkdtempSync(join(tmpdir(), 'zygopod-git-'));
  readonly branches: Files[] = [];
  stashed: Files | null = null;
  readonly #tunings = join(this.root, 'tunings');
  readonly #mirror: Mirror;

  constructor(app: Application, project: string, now: () => number) {
    mkdirSync(this.#tunings);
    this.#mirror = new Mirror(new Folder(this.root), app, new Memory(`${this.root}-memory.json`), project, 'both', { now });
  }

  /** Syncs the folder and the project. Returns a line for each change, null while the application can't be reached. */
  async look(): Promise<string[] | null> {
    try {
      return (await this.#mirror.look()).lines.filter((line) => !line.startsWith('project.json'));
    } catch (error) {
      if (error instanceof Away) return null;
      throw error;
    }
  }

  files(): Files {
    return new Map(readdirSync(this.#tunings).map((name) => [name, readFileSync(join(this.#tunings, name), 'utf8')]));
  }

  write(name: string, file: Tuning): void {
    writeFileSync(join(this.#tunings, name), documentText(file));
  }

  rename(name: string, to: string): void {
    renameSync(join(this.#tunings, name), join(this.#tunings, to));
  }

  remove(name: string): void {
    rmSync(join(this.#tunings, name));
  }

  /** Checks out other files: removes those that are not among them, and writes those that differ. */
  async become(files: Files, between: () => Promise<unknown>): Promise<void> {
    const now = this.files();
    for (const name of now.keys()) if (!files.has(name)) this.remove(name);
    await between();
    for (const [name, text] of files)
      if (now.get(name) !== text) {
        rmSync(join(this.#tunings, name), { force: true });
        await between();
        writeFileSync(join(this.#tunings, name), text);
      }
  }

  clear(): void {
    rmSync(this.root, { recursive: true });
    rmSync(`${this.root}-memory.json`, { force: true });
  }
}

/** One sequence of operations, by its seed. `play` returns its faults; none if all is well. */
export class Clones {
  readonly #app: Application;
  readonly #dice: Dice;
  readonly #seed: number;
  readonly #history: string[] = [];
  /** The id of each document, by its mark. */
  readonly #ids = new Map<number, string>();
  #clones: readonly Clone[] = [];
  #project = '';
  #marks = 0;
  #speed = 100;
  /** Simulated clock (ms): one operation of version control takes a moment of it. */
  #clock = 0;

  constructor(address: string, seed: number) {
    this.#app = new Application(address, undefined);
    this.#seed = seed;
    this.#dice = new Dice(seed * 7919 + 1);
  }

  async play(): Promise<string[]> {
    ({ id: this.#project } = await patiently(() => this.#app.createProject({ name: `Git ${this.#seed} ${Math.random()}` })));
    this.#clones = [0, 1].map(() => new Clone(this.#app, this.#project, () => this.#clock));
    try {
      for (let i = 0; i < 3; i++) await this.#create(this.#clones[0] as Clone, null);
      for (let step = 0; step < 14; step++) {
        const clone = this.#dice.one(this.#clones);
        await this.#step(clone, step);
        this.#clock += this.#dice.is(0.7) ? 5000 : 30;
        if (this.#dice.is(0.7)) await clone.look();
      }
      const faults = (await this.#rest()) ?? (await this.#faults());
      return faults.length > 0 ? [`seed ${this.#seed}`, ...faults, ...this.#history] : [];
    } finally {
      for (const clone of this.#clones) clone.clear();
    }
  }

  /** Looks now and then in the middle of things. */
  readonly #between = async () => {
    this.#clock += 20;
    return this.#dice.is(0.3) ? this.#dice.one(this.#clones).look() : null;
  };

  async #step(clone: Clone, step: number): Promise<void> {
    const dice = this.#dice;
    const files = clone.files();
    const names = [...files.keys()];
    const name = names.length > 0 ? dice.one(names) : undefined;
    const fileOf = (own: string) => JSON.parse(files.get(own) as string) as Tuning;
    const what = dice.next();
    if (what < 0.1 && this.#marks < 9) {
      this.#history.push('makes one');
      await this.#create(clone, null);
    } else if (what < 0.16 && this.#marks < 9 && name) {
      this.#history.push(`copies ${name}`);
      await this.#create(clone, fileOf(name));
    } else if (what < 0.3 && name) {
      const to = `renamed-${step}.tuning.json`;
      this.#history.push(`renames ${name} to ${to}`);
      clone.rename(name, to);
      // And it is changed in the same go: another name, another speed.
      if (dice.is(0.4)) clone.write(to, { ...fileOf(name), name: `Renamed ${step}`, pace: { walkSpeed: ++this.#speed } });
    } else if (what < 0.43 && name) {
      this.#history.push(`edits ${name}`);
      clone.remove(name);
      await this.#between();
      clone.write(name, { ...fileOf(name), pace: { walkSpeed: ++this.#speed } });
    } else if (what < 0.53 && name) {
      this.#history.push(`removes ${name}`);
      clone.branches.push(files);
      clone.remove(name);
    } else if (what < 0.65) {
      this.#history.push('keeps a branch');
      clone.branches.push(files);
    } else if (what < 0.76 && clone.branches.length > 0) {
      this.#history.push('checks a branch out, and back');
      await clone.become(dice.one(clone.branches), this.#between);
      await this.#between();
      if (dice.is(0.7)) await clone.become(files, this.#between);
    } else if (what < 0.88 && clone.branches.length > 0) {
      this.#history.push('merges a branch');
      await clone.become(this.#merged(files, dice.one(clone.branches)), this.#between);
    } else if (clone.stashed) {
      this.#history.push('takes its stash');
      await clone.become(clone.stashed, this.#between);
      clone.stashed = null;
    } else {
      this.#history.push('stashes');
      clone.stashed = files;
    }
  }

  /** Merges two branches: each document once, with the name and the contents of either; one that a branch removed may be removed. */
  #merged(mine: Files, theirs: Files): Files {
    const byMark = (files: Files) => new Map([...files].map(([name, text]) => [markOf(text), { name, text }]));
    const [here, there] = [byMark(mine), byMark(theirs)];
    const merged: Files = new Map();
    for (const mark of new Set([...here.keys(), ...there.keys()])) {
      const both = [here.get(mark), there.get(mark)].filter((one) => one !== undefined);
      if (both.length === 1 && this.#dice.is(0.3)) continue;
      const { name } = this.#dice.one(both);
      merged.set(merged.has(name) ? `merged-${mark}.tuning.json` : name, this.#dice.one(both).text);
    }
    return merged;
  }

  /** Makes a document with a file of a clone, a copy of another one's or from nothing, and a draft on it. */
  async #create(clone: Clone, from: Tuning | null): Promise<void> {
    const mark = ++this.#marks;
    // A copy may keep the name.
    const name = from && this.#dice.is(0.5) ? from.name : `Boots ${mark}`;
    clone.write(`made-${mark}.tuning.json`, tuning(mark, name, from ? from.pace.walkSpeed : ++this.#speed));
    const one = await this.#found(mark);
    this.#ids.set(mark, one.id);
    const draft = { file: tuning(mark, name, 1000 + mark), base: 1 };
    await patiently(async () => {
      const answer = await fetch(`${this.#app.address}/api/v1/tunings/${one.id}/draft`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json', 'if-none-match': '*' },
        body: JSON.stringify(draft),
      }).catch(() => null);
      // An answer that was lost left the draft there.
      if (!answer?.ok && answer?.status !== 409) throw new Away('the draft');
    });
  }

  /** The document of a mark, once the clones have read it. */
  async #found(mark: number): Promise<Listed> {
    for (let left = 100; left > 0; left--) {
      for (const clone of this.#clones) await clone.look();
      for (const one of await patiently(() => this.#app.list(this.#project))) {
        if ([...this.#ids.values()].includes(one.id)) continue;
        const file = (await patiently(() => this.#app.file(one, one.head))) as Tuning | null;
        if (file?.body.radius !== 10 + mark) continue;
        // Let each clone see it: two new documents of one name, created at the same time, count as one.
        for (const clone of this.#clones) while ((await clone.look()) === null) await pause(100);
        return one;
      }
      await pause(50);
    }
    throw new Error(`seed ${this.#seed}: the document of mark ${mark} is not made\n${this.#history.join('\n')}`);
  }

  /** Syncs until nothing changes any more. Returns faults if it never comes to rest. */
  async #rest(): Promise<string[] | null> {
    // Rounds in which the application was away prove nothing.
    for (let round = 0, quiet = 0, away = 0; quiet < 3; ) {
      this.#clock += 5000;
      const looks = [await this.#clones[0]?.look(), await this.#clones[1]?.look()];
      if (looks.some((lines) => !lines)) {
        if (++away > 300) return ['the application stays away'];
        await pause(200);
        continue;
      }
      // A missing file is only believed at the second look.
      quiet = looks.every((lines) => lines?.length === 0) ? quiet + 1 : 0;
      if (++round > 14 && quiet === 0) return [`does not come to rest: ${looks.flat().join('; ')}`];
    }
    return null;
  }

  async #faults(): Promise<string[]> {
    const { address } = this.#app;
    const faults: string[] = [];
    const get = (path: string) =>
      patiently(async () => {
        const answer = await fetch(`${address}/api/v1${path}`).catch(() => null);
        if (!answer || answer.status >= 500) throw new Away(path);
        return (await answer.json()) as never;
      });
    const listed = async (away: boolean) =>
      ((await get(`/projects/${this.#project}/shelf?limit=200${away ? '&away=true' : ''}`)) as { items: { id: string }[] }).items.map(
        ({ id }) => id,
      );
    const used = await listed(false);
    const all = new Set([...used, ...(await listed(true))]);
    const known = new Set(this.#ids.values());
    // No document twice, not even among those that are archived.
    for (const id of all) if (!known.has(id)) faults.push(`${id} was made beside those that are meant`);
    for (const [mark, id] of this.#ids) if (!all.has(id)) faults.push(`the document of mark ${mark} is gone`);
    for (const [i, clone] of this.#clones.entries()) {
      const marks = [...clone.files().values()].map(markOf);
      if (new Set(marks).size < marks.length) faults.push(`clone ${i} has a mark twice: ${marks}`);
      const ids = marks.map((mark) => this.#ids.get(mark)).sort();
      if (ids.join() !== used.toSorted().join()) faults.push(`clone ${i} holds ${ids}, in use are ${used}`);
    }
    for (const id of used) {
      const mark = [...this.#ids].find(([, own]) => own === id)?.[0] ?? 0;
      const draft: { file?: Tuning } = await get(`/tunings/${id}/draft`);
      if (draft.file?.pace.walkSpeed !== 1000 + mark) faults.push(`the draft of mark ${mark} is lost`);
      const { file }: { file: Tuning } = await get(`/tunings/${id}`);
      if (file.body.radius - 10 !== mark) faults.push(`the document of mark ${mark} holds that of ${file.body.radius - 10}`);
    }
    return faults;
  }
}
