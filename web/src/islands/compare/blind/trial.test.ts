import { newGround, newTuning, readTuning, withValue } from '@zygopod/core';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { fakeServer } from '../../../testing/fakeServer.ts';
import type { KeptRound, Round } from './rounds.ts';
import { type BlindSide, BlindTrial, fetchRounds } from './trial.ts';

afterEach(() => vi.unstubAllGlobals());

const sideOf = (id: string, walkSpeed: number): BlindSide => {
  const read = readTuning(withValue(newTuning(id), 'pace.walkSpeed', walkSpeed));
  if (!read.ok) throw new Error(id);
  return { side: { id, revision: 3, name: id }, short: id, parameters: read.value.parameters };
};
const [a, b] = [sideOf('quick', 300), sideOf('slow', 50)];
const ground = { ...newGround('Trial'), size: { width: 4000, height: 400 }, start: { x: 100, y: 200 } };

/** A trial whose order is drawn as the test wants it. */
function trialWith(...draws: number[]) {
  vi.stubGlobal('crypto', {
    getRandomValues: (into: Uint8Array) => {
      into[0] = draws.shift() ?? 0;
      return into;
    },
  });
  return new BlindTrial(a, b, ground, 'ground-1');
}
const [A_FIRST, B_FIRST] = [200, 3];

/** Drives for a second with the right key down; gives how far that came. */
function driven(trial: BlindTrial): number {
  const from = trial.drive.world.body.x;
  trial.hub.press('keyboard', 'right');
  for (let i = 0; i < 60; i++) trial.drive.advance(1 / 60);
  trial.hub.release('keyboard', 'right');
  return trial.drive.world.body.x - from;
}
const keeps = (round: Round): KeptRound => ({ ...round, id: 'round-1', createdAt: '2026-01-01T00:00:00.000Z' });

describe('a blind trial', () => {
  it('drives what was drawn first as One, and the other one as Two, each from the start', () => {
    for (const [draw, first] of [
      [A_FIRST, 'quick'],
      [B_FIRST, 'slow'],
    ] as const) {
      const trial = trialWith(draw);
      const one = driven(trial);
      trial.choose(1);
      expect(trial.drive.world.body.x).toBe(100);
      const two = driven(trial);
      expect(one > two ? 'quick' : 'slow').toBe(first);
      // And back: at its start again.
      trial.choose(0);
      expect(trial.drive.world.body.x).toBe(100);
    }
  });

  it('lets go of what is held when the other one is chosen', () => {
    const trial = trialWith(A_FIRST);
    trial.hub.press('keyboard', 'right');
    trial.drive.advance(0.5);
    trial.choose(1);
    trial.drive.advance(0.5);
    expect(trial.drive.world.body.x).toBe(100);
  });

  it.each([
    [A_FIRST, 0, 'a'],
    [A_FIRST, 1, 'b'],
    [B_FIRST, 0, 'b'],
    [B_FIRST, 1, 'a'],
    [B_FIRST, null, 'none'],
  ] as const)('keeps what One and Two were (drawn %d, chosen %s: %s)', async (draw, which, choice) => {
    const trial = trialWith(draw);
    const sent = fakeServer(({ body }) => ({ status: 201, body: keeps(body as Round) }));
    await trial.answer(which, ' Moss ', ' less slippery ');
    const round = {
      who: 'Moss',
      choice,
      why: 'less slippery',
      first: draw === A_FIRST ? 'a' : 'b',
      a: a.side,
      b: b.side,
      ground: 'ground-1',
    };
    expect(sent).toMatchObject([{ method: 'POST', path: '/trials', body: round }]);
    expect(trial.$answered.get()).toEqual(keeps(round as Round));
    expect(trial.$rounds.get()).toEqual([keeps(round as Round)]);
    expect(trial.$why.get()).toBeNull();
  });

  it('says that a round was not kept, and takes the answer again', async () => {
    const trial = trialWith(A_FIRST);
    let away = true;
    fakeServer(({ body }) => (away ? null : { status: 201, body: keeps(body as Round) }));
    await trial.answer(1, 'Moss', '');
    expect(trial.$why.get()).toContain('not kept; answer again');
    expect([trial.$answered.get(), trial.$rounds.get()]).toEqual([null, []]);
    away = false;
    await trial.answer(1, 'Moss', '');
    expect(trial.$why.get()).toBeNull();
    expect(trial.$rounds.get()).toHaveLength(1);
  });

  it('draws each round again, and hides the last one’s sides', async () => {
    const trial = trialWith(A_FIRST, B_FIRST);
    fakeServer(({ body }) => ({ status: 201, body: keeps(body as Round) }));
    const before = driven(trial);
    await trial.answer(0, 'Moss', '');
    trial.choose(1);
    trial.next();
    expect([trial.$round.get(), trial.$driven.get(), trial.$answered.get()]).toEqual([2, 0, null]);
    // Kept answers stay revealed.
    expect(trial.$rounds.get()).toHaveLength(1);
    expect(driven(trial)).toBeLessThan(before / 2);
  });

  it('is fair: over many rounds each is first about as often', () => {
    const firsts = Array.from({ length: 400 }, () => (driven(new BlindTrial(a, b, { ...ground, cells: [] }, 'g')) > 150 ? 'a' : 'b'));
    const share = firsts.filter((one) => one === 'a').length / firsts.length;
    // Five standard deviations of a fair coin.
    expect(Math.abs(share - 0.5)).toBeLessThan(5 * Math.sqrt(0.25 / firsts.length));
  });

  it('asks for the rounds that were kept, and says nothing where nobody answers', async () => {
    const sent = fakeServer(() => ({ body: { items: [] } }));
    expect(await fetchRounds('x', 'y')).toEqual([]);
    expect(sent).toMatchObject([{ method: 'GET', path: '/trials', query: { a: 'x', b: 'y' } }]);
    fakeServer(() => null);
    expect(await fetchRounds('x', 'y')).toBeNull();
  });
});
