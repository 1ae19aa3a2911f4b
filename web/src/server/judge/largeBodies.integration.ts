import '../../../../testing/provided.ts';
import { describe, expect, inject, it } from 'vitest';

const address = inject('address');
const api = `${address}/api/v1`;
const headers = { 'content-type': 'application/json' };
const tape = (events: unknown) => ({ format: 'zygopod/tape', version: 2, name: 'Crowd', hz: 60, ticks: 1_000_000, events });
const ground = (walls: unknown, more = {}) => ({
  format: 'zygopod/ground',
  version: 1,
  name: 'Crowd',
  size: { width: 4000, height: 4000 },
  start: { x: 1, y: 1 },
  walls,
  ...more,
});
const many = <T>(count: number, itemAt: (i: number) => T) => Array.from({ length: count }, (_, i) => itemAt(i));

/** The longest that another request had to wait (ms) while this one was answered. */
async function longestWait(work: Promise<unknown>): Promise<number> {
  let isOver = false;
  void work.finally(() => {
    isOver = true;
  });
  let longest = 0;
  while (!isOver) {
    const begun = performance.now();
    const answer = await fetch(`${api}/tunings?limit=1`);
    await answer.arrayBuffer();
    longest = Math.max(longest, performance.now() - begun);
    await new Promise((next) => setTimeout(next, 5));
  }
  return longest;
}

/** How long others may wait: 100 ms, and as much again for a machine at half speed that also makes and sends what is judged. */
const PATIENCE = 200;

/** Attempts: a server that is held up is held up each time, a machine that is busy elsewhere isn't. */
const TRIES = 4;

describe('while a large body is judged others are answered', () => {
  it.each([
    ['a tape of a million empty events', 'tapes', tape(many(1_000_000, () => ({}))), 422],
    ['a tape of half a million good events', 'tapes', tape(many(500_000, (at) => ({ at, press: 'up' }))), 201],
    ['a ground of 100,000 bad points', 'grounds', ground([{ points: many(100_000, () => [null, 'x']), closed: false }]), 422],
    [
      'a ground of 60,000 walls',
      'grounds',
      ground(
        many(60_000, (i) => ({
          points: [
            [i % 4000, 1],
            [i % 3999, 2 + i / 20],
          ],
        })),
      ),
      201,
    ],
    [
      'a ground of a wall that crosses itself 20,000 times',
      'grounds',
      ground([{ points: many(20_000, (i) => [(i * 7919) % 4000, (i * 104_729) % 4000]), closed: true }]),
      0,
    ],
    ['keys without end', 'tunings', { ...Object.fromEntries(many(15_000, (i) => [`key${i}`, i])) }, 422],
  ])('%s', async (_, kind, file, expected) => {
    const body = JSON.stringify({ file });
    let longest = Infinity;
    for (let left = TRIES; left > 0 && longest >= PATIENCE; left--) {
      const sent = fetch(`${api}/${kind}`, { method: 'POST', headers, body });
      longest = await longestWait(sent);
      const answer = await sent;
      const text = await answer.text();
      if (expected) expect(answer.status).toBe(expected);
      expect(answer.status).toBeLessThan(500);
      expect(text.length).toBeLessThan(30_000);
    }
    expect(longest).toBeLessThan(PATIENCE);
  });

  it('lists nested without end', async () => {
    for (const depth of [5000, 100_000, 400_000]) {
      const body = `{"file":${'['.repeat(depth)}${']'.repeat(depth)}}`;
      const sent = fetch(`${api}/grounds`, { method: 'POST', headers, body });
      expect(await longestWait(sent)).toBeLessThan(PATIENCE);
      expect([400, 422]).toContain((await sent).status);
    }
  });
});
