// @vitest-environment jsdom
import { firstYard, newTuning, readTuning } from '@zygopod/core';
import { act } from 'react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { fakeServer, type Sent } from '../../../testing/fakeServer.ts';
import { type Mounted, mount } from '../../../testing/mount.tsx';
import { Blind } from './Blind.tsx';
import { BlindTrial } from './trial.ts';

// What is driven is drawn on a canvas, which is another test's.
vi.mock('./TrialYard.tsx', () => ({ TrialYard: () => null }));

let answers: ({ status?: number; body?: unknown } | null)[];
let sent: Sent[];
let trial: BlindTrial;
let page: Mounted;

const sideOf = (id: string) => {
  const read = readTuning(newTuning(id));
  if (!read.ok) throw new Error(id);
  return { side: { id, revision: 1, name: id }, short: id, parameters: read.value.parameters };
};

beforeEach(async () => {
  vi.stubGlobal('Worker', class {});
  answers = [];
  sent = fakeServer(({ body }) => {
    const answer =
      answers.length > 0
        ? answers.shift()
        : { body: { ...(body as object), id: `vote-${sent.length}`, createdAt: '2026-01-01T00:00:00Z' } };
    return answer ?? null;
  });
  trial = new BlindTrial(sideOf('day'), sideOf('night'), firstYard('px'), 'ground');
  page = await mount(<Blind trial={trial} leave={() => undefined} />);
});
afterEach(async () => {
  await page.unmount();
  vi.unstubAllGlobals();
});

it('keeps one vote of a double click, and goes on to the next round', async () => {
  await act(async () => {
    page.find('button', 'No difference').click();
    page.find('button', 'No difference').click();
  });
  await vi.waitFor(() => expect(page.says('Kept.')).toBe(true));
  expect(sent).toHaveLength(1);
  expect(trial.$rounds.get()).toHaveLength(1);
  expect(page.says('The tunings are revealed at the end.')).toBe(true);
  await page.click('button', 'Next round');
  expect(page.says('Round 2')).toBe(true);
});

it('keeps the word that was typed where a vote fails, and sends it with the next try', async () => {
  answers = [null];
  await page.type('Reason (optional)', 'it drifts');
  await page.type('Your name', 'Ada');
  await page.click('button', 'No difference');
  expect(page.says('The round is not kept; answer again.')).toBe(true);
  expect((page.find('input', 'Reason (optional)') as HTMLInputElement).value).toBe('it drifts');
  await page.click('button', 'No difference');
  await vi.waitFor(() => expect(page.says('Kept.')).toBe(true));
  expect(sent.map(({ body }) => body)).toEqual([sent[0]?.body, sent[0]?.body]);
  expect(sent[1]?.body).toMatchObject({ who: 'Ada', why: 'it drifts', choice: 'none' });
  // The same request, repeated: it is done once.
  expect(sent[1]?.headers['idempotency-key']).toBe(sent[0]?.headers['idempotency-key']);
});

it('says after a round which was which where that is wanted, and counts the votes', async () => {
  await page.click('input', 'Reveal the tunings after each round');
  const buttons = [...page.element.querySelectorAll('aside button')] as HTMLElement[];
  await act(async () => buttons.find((button) => button.textContent === 'One')?.click());
  await vi.waitFor(() => expect(page.says(/One was (day|night), Two was (day|night)\./)).toBe(true));
  const { first, choice } = (sent[0] as Sent).body as { first: 'a' | 'b'; choice: string };
  expect(page.says(`One was ${first === 'a' ? 'day' : 'night'}`)).toBe(true);
  expect(choice).toBe(first);
  await page.click('button', 'Show the tally');
  expect(page.says(/day|night/)).toBe(true);
});
