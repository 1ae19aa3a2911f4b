// @vitest-environment jsdom
import { firstYard, newTuning, withValue } from '@zygopod/core';
import { act } from 'react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { MemoryCopies } from '../../testing/memoryCopies.ts';
import { type Mounted, mount } from '../../testing/mount.tsx';
import { TuningContext, type TuningWork } from '../tuning/context.ts';
import { Editing } from '../tuning/editing.ts';
import { Saving } from '../work/saving/saving.ts';
import { useParameter } from './model.ts';
import { NumberField } from './NumberField.tsx';

const file = withValue(newTuning('Boots'), 'pace.walkSpeed', 140);
let editing: Editing;
let held: unknown[];
let page: Mounted;

const Walk = () => <NumberField model={useParameter('pace.walkSpeed')} />;
const field = () => page.find('input', /Walk/) as HTMLInputElement;
const walk = () => editing.$tuning.get().parameters.pace.walkSpeed;

beforeEach(async () => {
  vi.stubGlobal('fetch', () => Promise.reject(new TypeError('away')));
  editing = new Editing(file, file);
  const saving = new Saving('tunings', { id: 'T', head: 1, saved: file, draftVersion: 0 }, { at: 'saved' }, new MemoryCopies(), 'p');
  held = [];
  vi.spyOn(saving, 'hold').mockImplementation((typed) => void held.push(typed?.() ?? null));
  const work = { editing, saving, drive: { world: { ground: firstYard('px') } } } as Partial<TuningWork> as TuningWork;
  page = await mount(
    <TuningContext value={work}>
      <Walk />
    </TuningContext>,
  );
});
afterEach(async () => {
  await page.unmount();
  vi.unstubAllGlobals();
});

it('takes what is typed with Enter, and holds it in the browser until then', async () => {
  await page.type(/Walk/, '155');
  expect([walk(), field().value]).toEqual([140, '155']);
  expect(held.at(-1)).toMatchObject({ pace: { walkSpeed: 155 } });
  await page.press(/Walk/, 'Enter');
  expect([walk(), field().value, held.at(-1)]).toEqual([155, '155', null]);
  expect(page.says('was 140')).toBe(true);
});

it('leaves the number as it was with Escape', async () => {
  await page.type(/Walk/, '99');
  await page.press(/Walk/, 'Escape');
  expect([walk(), field().value, held.at(-1)]).toEqual([140, '140', null]);
});

it('says what is wrong with an entry, and keeps it to be mended', async () => {
  await page.type(/Walk/, 'fast');
  await page.press(/Walk/, 'Enter');
  expect([walk(), field().value, field().getAttribute('aria-invalid')]).toEqual([140, 'fast', 'true']);
  expect(page.element.querySelector('[role=alert]')?.textContent).toContain('▲');
  await page.type(/Walk/, '150');
  await page.press(/Walk/, 'Enter');
  expect([walk(), page.element.querySelector('[role=alert]')]).toEqual([150, null]);
});

it('goes up and down with the arrows: ten times as far with Shift, a tenth with Alt', async () => {
  await page.press(/Walk/, 'ArrowUp');
  const step = walk() - 140;
  expect(step).toBeGreaterThan(0);
  await page.press(/Walk/, 'ArrowDown', { shiftKey: true });
  expect(walk()).toBeCloseTo(140 + step - 10 * step, 9);
  await page.press(/Walk/, 'ArrowUp', { altKey: true });
  expect(walk()).toBeCloseTo(140 - 9 * step + step / 10, 9);
});

it('does not overwrite a number unseen that became another one while something was typed over it', async () => {
  await page.type(/Walk/, '160');
  await act(async () => void editing.set('pace.walkSpeed', 120, 'elsewhere'));
  await page.press(/Walk/, 'Enter');
  expect(walk()).toBe(120);
  expect(page.says('It became 120 meanwhile')).toBe(true);
  await page.press(/Walk/, 'Enter');
  expect(walk()).toBe(160);
});
