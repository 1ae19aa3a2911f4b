import { firstYard, newTuning, tapeOf, withValue } from '@zygopod/core';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { Opening } from '../../server/data/openings.ts';
import { fakeServer, fakeStorage } from '../../testing/fakeServer.ts';
import { MOST_SIDES } from '../work/comparison.ts';
import { Comparing } from './comparing.ts';

const named = (name: string, walk: number) => withValue(newTuning(name), 'pace.walkSpeed', walk);
const opening: Opening = {
  tuning: { id: 'own', head: 1, saved: named('Own', 100), draft: null },
  ground: { id: 'ground', head: 1, saved: firstYard('px'), draft: null },
  tape: null,
  project: { id: 'project', name: 'Game' },
};

/** Pending answers, by the requested path. */
let waiting: { path: string; answer(): void }[];
beforeEach(() => {
  fakeStorage();
  waiting = [];
  fakeServer(({ path }) => {
    if (path.startsWith('/trials') || path === '/targets' || path === '/tunings') return { body: { items: [] } };
    const [, collection, id, , number] = path.split('/');
    const file = collection === 'tapes' ? tapeOf({ name: `Tape ${id}`, hz: 60, ticks: 30, events: [] }) : named(`${id} ${number ?? 1}`, 90);
    return new Promise((give) => {
      waiting.push({ path, answer: () => give({ body: number ? { file, number: Number(number) } : { file, head: 1 } }) });
    });
  });
});
afterEach(() => vi.unstubAllGlobals());

/** Gives the answer to the newest question about a path, or to the oldest one. */
async function answer(path: string, which: 'newest' | 'oldest' = 'oldest'): Promise<void> {
  await vi.waitFor(() => expect(waiting.some((one) => one.path === path)).toBe(true));
  const at = which === 'oldest' ? waiting.findIndex((one) => one.path === path) : waiting.findLastIndex((one) => one.path === path);
  const [one] = waiting.splice(at, 1);
  one?.answer();
  await vi.waitFor(() => undefined);
  for (let i = 0; i < 20; i++) await Promise.resolve();
}

async function compared(): Promise<Comparing> {
  const comparing = new Comparing(opening);
  await comparing.open('');
  return comparing;
}

const names = (comparing: Comparing) => comparing.$sides.get().map(({ name }) => name);
const side = (id: string, revision: number | null = null) => ({ id, revision, rate: null });

it('sides that are added at once are all there, in the order of their answers, and never too many', async () => {
  const comparing = await compared();
  const adding = ['b', 'c', 'd', 'e', 'f', 'g'].map((id) => comparing.add(side(id)));
  for (const id of ['d', 'b', 'c', 'g', 'f', 'e']) await answer(`/tunings/${id}`);
  await Promise.all(adding);
  expect(names(comparing)).toEqual(['Own', 'd 1', 'b 1', 'c 1', 'g 1', 'f 1'].slice(0, MOST_SIDES));
});

it('another revision of a side comes to that side, though another one was taken away meanwhile', async () => {
  const comparing = await compared();
  const adding = [comparing.add(side('b')), comparing.add(side('c'))];
  await answer('/tunings/b');
  await answer('/tunings/c');
  await Promise.all(adding);
  const [, , c] = comparing.$sides.get();
  const changing = comparing.change(c as never, side('c', 4));
  comparing.remove(1);
  await answer('/tunings/c/revisions/4');
  await changing;
  expect(names(comparing)).toEqual(['Own', 'c 4']);
  const gone = comparing.$sides.get()[1];
  const late = comparing.change(gone as never, side('c', 5));
  comparing.remove(1);
  await answer('/tunings/c/revisions/5');
  await late;
  expect(names(comparing)).toEqual(['Own']);
});

it('of two requested revisions or tapes the later one is shown, whichever answer is slower', async () => {
  const comparing = await compared();
  const adding = comparing.add(side('b'));
  await answer('/tunings/b');
  await adding;
  const [, b] = comparing.$sides.get();
  const [first, second] = [comparing.change(b as never, side('b', 2)), comparing.change(b as never, side('b', 3))];
  await answer('/tunings/b/revisions/3');
  await answer('/tunings/b/revisions/2');
  await Promise.all([first, second]);
  expect(names(comparing)).toEqual(['Own', 'b 3']);
  const tapes = [comparing.takeTape({ id: 'slow', revision: null }), comparing.takeTape({ id: 'quick', revision: null })];
  await answer('/tapes/quick');
  await answer('/tapes/slow');
  await Promise.all(tapes);
  expect(comparing.hands.name).toBe('Tape quick');
});

it('a side that comes while the rates are shown is among the sides that they took the place of', async () => {
  const comparing = await compared();
  const adding = comparing.add(side('b'));
  comparing.toggleRates();
  await answer('/tunings/b');
  await adding;
  expect(new Set(names(comparing))).toEqual(new Set(['Own']));
  comparing.toggleRates();
  expect(names(comparing)).toEqual(['Own', 'b 1']);
});
