import { plainUnits, readUnits } from '@zygopod/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { fakeServer, fakeStorage } from '../../testing/fakeServer.ts';
import { choiceOf, HandOffs, type KeptHandOff, keepChoice } from './handOffs.ts';

let storage: Map<string, string>;
beforeEach(() => {
  storage = fakeStorage();
});
afterEach(() => vi.unstubAllGlobals());

const last: KeptHandOff = {
  id: 'H',
  createdAt: '2026-05-12T14:02:00Z',
  tuning: { id: 'T', revision: 7, name: 'Boots' },
  to: 'python',
  units: 'm:32,frame:60,degree',
  label: 'rev 7',
  changedSince: false,
  values: {},
};

describe('what the numbers are handed over as', () => {
  it('is plain at first, then as the last hand-off, then as it was chosen in this browser', () => {
    expect(choiceOf('P', [])).toEqual({ to: 'c', units: plainUnits, style: null, all: false });
    const units = readUnits(last.units);
    if (typeof units === 'string') throw new Error(units);
    expect(choiceOf('P', [{ ...last, to: 'source' }, last])).toEqual({ to: 'python', units, style: null, all: false });
    keepChoice('P', { to: 'lua', units: plainUnits, style: 'SCREAMING_SNAKE', all: true });
    expect(choiceOf('P', [{ ...last, to: 'source' }, last])).toEqual({ to: 'lua', units: plainUnits, style: 'SCREAMING_SNAKE', all: true });
    expect(choiceOf('Q', []).to).toBe('c');
  });

  it('is never lost to what is kept and cannot be read', () => {
    keepChoice('P', { to: 'lua', units: plainUnits, style: null, all: true });
    const [key] = storage.keys();
    const choiceKeptAs = (text: string) => {
      storage.set(key as string, text);
      return choiceOf('P', []);
    };
    expect(choiceKeptAs('{"to":"klingon","style":"shouting","all":3}')).toEqual({ to: 'c', units: plainUnits, style: null, all: false });
    for (const broken of ['{', 'null', '7', '{"units":"furlongs"}', '[]']) expect(() => choiceKeptAs(broken)).not.toThrow();
    storage.set(key as string, '{"units":"furlongs"}');
    expect(choiceOf('P', [{ ...last, to: 'source' }, last]).to).toBe('python');
    expect(choiceOf('P', [{ ...last, units: 'furlongs' }]).units).toEqual(plainUnits);
  });
});

describe('the hand-offs of a tuning', () => {
  it('are fetched with the project’s names; a new one comes first', async () => {
    const sent = fakeServer(({ method, path }) =>
      method === 'POST'
        ? { status: 201, body: { ...last, id: 'new' } }
        : { body: path === '/handoffs' ? { items: [last] } : { names: { 'pace.walkSpeed': 'WALK' } } },
    );
    const handed = new HandOffs('T', 'P');
    await handed.load();
    expect(handed.$names.get()).toEqual({ 'pace.walkSpeed': 'WALK' });
    const { id: _, createdAt: __, ...values } = last;
    await handed.keep(values);
    expect(handed.$kept.get().map(({ id }) => id)).toEqual(['new', 'H']);
    expect(sent.map(({ method, path, query }) => [method, path, query['tuning']])).toEqual([
      ['GET', '/handoffs', 'T'],
      ['GET', '/projects/P', undefined],
      ['POST', '/handoffs', undefined],
    ]);
    expect(sent.at(-1)?.body).toEqual(values);
  });

  it('say why one is not kept or a name not taken, and change nothing', async () => {
    const answers = [
      { body: { items: [last] } },
      { body: { names: { a: 'A' } } },
      { status: 400, body: { title: 'Two are called SPEED' } },
      null,
    ];
    fakeServer(() => answers.shift() ?? null);
    const handed = new HandOffs('T', 'P');
    await handed.load();
    expect(handed.$why.get()).toBeNull();
    await handed.rename({ a: 'SPEED', b: 'SPEED' });
    expect([handed.$why.get(), handed.$names.get()]).toEqual(['Two are called SPEED.', { a: 'A' }]);
    await handed.keep(last);
    expect([handed.$why.get(), handed.$kept.get()]).toEqual(['The server cannot be reached.', [last]]);
  });

  it('show the names though the hand-offs could not be had', async () => {
    fakeServer(({ path }) => (path === '/handoffs' ? null : { body: { names: { a: 'A' } } }));
    const handed = new HandOffs('T', 'P');
    await handed.load();
    expect([handed.$why.get(), handed.$kept.get(), handed.$names.get()]).toEqual(['The server cannot be reached.', [], { a: 'A' }]);
  });
});
