import '../../../../testing/provided.ts';
import { type FileValue, merge, newTuning, type TuningFile, withValue, writtenAt } from '@zygopod/core';
import { afterAll, beforeAll, describe, expect, inject, it, vi } from 'vitest';
import { campaign } from '../../../../core/src/testing/campaign.ts';
import { sequence } from '../../../../core/src/testing/sequence.ts';
import type { Opened } from '../../server/data/openings.ts';
import { MemoryCopies } from '../../testing/memoryCopies.ts';
import { begin } from '../work/saving/opened.ts';
import { Saving } from '../work/saving/saving.ts';

const address = inject('address');

beforeAll(() => {
  const plain = globalThis.fetch;
  vi.stubGlobal('fetch', (path: string, init?: RequestInit) => plain(`${address}${path}`, init));
});
afterAll(() => vi.unstubAllGlobals());

async function get<T>(path: string): Promise<T | null> {
  const answer = await fetch(path);
  return answer.ok ? ((await answer.json()) as T) : null;
}

/** A document as a page is given it: as it was at one moment. */
async function openedNow(id: string): Promise<Opened<TuningFile>> {
  for (;;) {
    const opened = await openHead(id);
    const { head } = (await get<{ head: number }>(`/api/v1/tunings/${id}`)) as { head: number };
    if (head === opened.head) return opened;
  }
}

async function openHead(id: string): Promise<Opened<TuningFile>> {
  const path = `/api/v1/tunings/${id}`;
  const document = (await get<{ head: number; file: TuningFile }>(path)) as { head: number; file: TuningFile };
  const draft = await get<{ version: number; base: number; file: TuningFile }>(`${path}/draft`);
  if (!draft) return { id, head: document.head, saved: document.file, draft: null };
  const base = (await get<{ file: TuningFile }>(`${path}/revisions/${draft.base}`)) as { file: TuningFile };
  return { id, head: document.head, saved: document.file, draft: { ...draft, from: base.file } };
}

/** Somebody with one number of their own in a tuning, who brings drafts together as the banner's first button does. */
class Person {
  readonly #id: string;
  readonly path: string;
  #saving: Saving<TuningFile> | null = null;
  #now: TuningFile | null = null;
  /** The last number that was entered. */
  number: number | undefined;

  constructor(id: string, path: string) {
    this.#id = id;
    this.path = path;
  }

  async open(): Promise<void> {
    if (this.#saving) return;
    const { now, origin, state } = begin(await openedNow(this.#id));
    this.#now = now;
    this.#saving = new Saving('tunings', origin, state, new MemoryCopies(), 'page');
    await this.#settle();
  }

  /** Enters a number; it is sent to the server at once, or a little later. */
  async enter(number: number, at: 'once' | 'later'): Promise<void> {
    await this.open();
    this.number = number;
    this.#now = withValue(this.#now as TuningFile, this.path, number as FileValue);
    this.#saving?.keep(this.#now);
    if (at === 'once') await this.send();
  }

  async send(): Promise<void> {
    await this.#saving?.flush();
    await this.#settle();
  }

  async save(): Promise<void> {
    await this.open();
    const file = this.#now as TuningFile;
    await this.#saving?.saveRevision(file, '');
    await this.#settle();
  }

  /** Leaves, as a page that is closed does: what is pending is sent, and then nobody is there to settle anything. */
  async close(): Promise<void> {
    await this.send();
    this.#saving = null;
  }

  async #settle(): Promise<void> {
    for (let round = 0; round < 20; round++) {
      const state = this.#saving?.$state.get();
      if (state?.at !== 'conflict') return;
      const { file } = merge(state.from, this.#now as TuningFile, state.theirs, state.sent);
      this.#now = file;
      this.#saving?.settle(file);
      await this.#saving?.flush();
    }
    throw new Error('two drafts could not be brought together');
  }
}

/** Two people who draft, save, close and open in an order of this seed; at the end both numbers are there. */
async function interleave(seed: number): Promise<void> {
  const next = sequence(seed * 7919);
  const created = await fetch('/api/v1/tunings', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ file: newTuning(`Shared ${seed}`) }),
  });
  const { id } = (await created.json()) as { id: string };
  const people = [new Person(id, 'pace.walkSpeed'), new Person(id, 'ramp.accelerate')] as const;
  let number = 200;
  const history: string[] = [];
  const act = (who: 0 | 1): Promise<void> => {
    const person = people[who];
    const what = next();
    if (what < 0.45) {
      number++;
      const at = next() < 0.6 ? 'once' : 'later';
      history.push(`${who} enters ${number} ${at}`);
      return person.enter(number, at);
    }
    if (what < 0.65) {
      history.push(`${who} saves`);
      return person.save();
    }
    history.push(what < 0.85 ? `${who} closes` : `${who} opens`);
    return what < 0.85 ? person.close() : person.open();
  };
  for (let step = 0; step < 8; step++) {
    if (next() < 0.3) await Promise.all([act(0), act(1)]);
    else await act(next() < 0.5 ? 0 : 1);
  }
  for (const person of people) await person.close();
  const last = new Person(id, 'pace.walkSpeed');
  await last.open();
  await last.close();
  const end = await openedNow(id);
  const file = end.draft?.file ?? end.saved;
  for (const person of people) expect(writtenAt(file, person.path), `seed ${seed}: ${history.join(', ')}`).toBe(person.number);
}

/** Interleavings of a run. */
const INTERLEAVINGS = campaign(160, 500);

/** Interleavings that run at a time, each on a tuning of its own. */
const LANES = 6;

describe('two people on one tuning', () => {
  it('keep the numbers of both, however they draft, save, close and open', async () => {
    let seed = 0;
    const lane = async () => {
      while (seed < INTERLEAVINGS) await interleave(++seed);
    };
    await Promise.all(Array.from({ length: LANES }, lane));
  });
});
