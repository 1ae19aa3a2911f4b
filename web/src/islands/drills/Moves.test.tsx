// @vitest-environment jsdom
import { metricsOf, newTuning, readTuning, runDrills, type TuningFile } from '@zygopod/core';
import { act } from 'react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { type Mounted, mount } from '../../testing/mount.tsx';
import { Editing } from '../tuning/editing.ts';
import { DrillsContext, type DrillsWork } from './drillsWork.ts';
import { Moves } from './Moves.tsx';
import { TriedBefore } from './triedBefore.ts';

/** The metrics of one drill of a tuning, as the worker gives them. */
function measured(file: TuningFile) {
  const read = readTuning(file);
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return metricsOf([...runDrills(read.value.parameters)].filter(({ drill }) => drill.name === 'hard-stop'));
}

let calls: { give(): void; fail(why: string): void }[];
let page: Mounted;
let editing: Editing;

beforeEach(async () => {
  calls = [];
  const file = newTuning('Boots');
  editing = new Editing(file, file);
  const desk = {
    call: (work: (remote: unknown) => Promise<unknown>) => {
      const answer = work({
        metrics: async (files: TuningFile[]) => files.map(measured),
        all: async (files: TuningFile[]) => files.map(measured),
      });
      return new Promise((resolve, reject) => {
        calls.push({ give: () => resolve(answer), fail: (why) => reject(new Error(why)) });
      });
    },
  };
  const work = { work: { editing, drive: { world: { ground: null } } }, now: { desk }, tried: new TriedBefore() } as unknown as DrillsWork;
  page = await mount(
    <DrillsContext value={work}>
      <Moves drill="hard-stop" metric="stopDistance" />
    </DrillsContext>,
  );
});
afterEach(() => page.unmount());

const called = (times: number) => vi.waitFor(() => expect(calls).toHaveLength(times), { timeout: 5000 });

it('says why nothing was measured, measures again on request, and lists what moves the metric', async () => {
  expect(page.says('Measuring …')).toBe(true);
  await called(1);
  await act(async () => calls[0]?.fail('It took more than 30 seconds.'));
  await vi.waitFor(() => expect(page.says('Couldn’t be measured: It took more than 30 seconds.')).toBe(true));
  await act(async () => (page.element.querySelector('section button') as HTMLElement).click());
  await called(2);
  await act(async () => calls[1]?.give());
  await vi.waitFor(() => expect(page.says(/Walk\b/)).toBe(true));
  expect(page.says('Couldn’t be measured')).toBe(false);
});

it('shows nothing of an answer that came for a tuning that is another one by now', async () => {
  await called(1);
  await act(async () => void editing.set('pace.walkSpeed', 150, 'walk'));
  await act(async () => calls[0]?.give());
  expect(page.says('Measuring …')).toBe(true);
  await called(2);
  await act(async () => calls[1]?.give());
  await vi.waitFor(() => expect(page.says(/Walk\b/)).toBe(true));
});
