import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { choose, enter, field, happened, inFigure, openBench, openBrowser, reading, until } from './browser.ts';

let browser: Browser;
const address = inject('address');

beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

const gait = (page: Page) => page.getByTestId('gait').textContent();

describe('sprint and stamina', () => {
  it('runs empty, is spent, recovers; a refused sprint is seen', async () => {
    const { page, faults } = await openBench(browser, address);
    await enter(page, 'stamina', /^Maximum/, '12');
    await enter(page, 'stamina', /^Drain/, '0.8 s to empty');
    await enter(page, 'stamina', /^Recover to/, '9');
    await enter(page, 'stamina', /^Start at/, '1');
    await page.keyboard.down('KeyD');
    await page.keyboard.down('ShiftLeft');
    await until(
      () => gait(page),
      (now) => now === 'Sprint',
      'a sprint',
    );
    await until(
      () => gait(page),
      (now) => now === 'Spent',
      'an empty bar',
    );
    await page.keyboard.up('ShiftLeft');
    // A key that is up for less than a tick has not been let go for the feet.
    await until(
      () => page.getByTestId('devices').textContent(),
      (words) => !/sprint/.test(words ?? ''),
      'the sprint key up',
    );
    await page.keyboard.down('ShiftLeft');
    await until(
      () => happened(page, 'sprintRefused'),
      (count) => count > 0,
      'a refused sprint on the strip',
    );
    await page.keyboard.up('ShiftLeft');
    await page.keyboard.up('KeyD');
    await until(
      () => happened(page, 'recovered'),
      (count) => count > 0,
      'the recovery',
    );
    await until(
      () => reading(page, 'stamina'),
      (level) => level === 12,
      'a full bar',
    );
    expect(await page.locator('[data-event~=emptied]').first().getAttribute('aria-label')).toContain('Stamina empty, locked until 9');
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('toggle and hold side by side, and auto-run on and off', async () => {
    const { page } = await openBench(browser, address);
    await choose(page, 'pace', 'Sprint key', 'both');
    await choose(page, 'pace', 'Auto-run', 'walk');
    await page.keyboard.down('KeyD');
    await page.keyboard.press('KeyC');
    await until(
      () => gait(page),
      (now) => now === 'Sprint',
      'a toggled sprint',
    );
    await page.keyboard.down('ShiftLeft');
    await page.keyboard.up('ShiftLeft');
    await until(
      () => happened(page, 'toggledOff'),
      (count) => count === 0,
      'a toggle that a hold does not touch',
    );
    expect(await gait(page)).toBe('Sprint');
    await page.keyboard.press('KeyC');
    await until(
      () => gait(page),
      (now) => now === 'Walk',
      'a walk',
    );
    await page.keyboard.up('KeyD');
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 0,
      'rest',
    );
    // From the start again: there is room ahead of an auto-run.
    await page.keyboard.press('KeyR');
    await page.keyboard.press('KeyQ');
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 140,
      'auto-run',
    );
    await page.keyboard.press('KeyQ');
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 0,
      'rest again',
    );
    await page.context().close();
  });
});

describe('figures', () => {
  it('set by drawing what a number can set: lumps, the full bar, pace while spent, walking regain, swipes', async () => {
    const { page } = await openBench(browser, address);
    for (const [figure, handle, key, name, value] of [
      ['stamina', 'Tick interval', 'Shift+ArrowRight', /^Tick interval/, '0.5'],
      ['stamina', 'Full bar', 'Shift+ArrowUp', /^Maximum/, '110'],
      ['stamina', 'Speed when spent', 'ArrowUp', /^Speed when spent/, '1.05'],
      ['stamina', 'Time to regain half a bar walking', 'ArrowUp', /^Regain moving/, '0.55'],
      ['hands', 'Swipe time and length', 'ArrowUp', /^Swipe length/, '41'],
      ['hands', 'Swipe time and length', 'ArrowRight', /^Swipe time/, '0.42'],
    ] as const) {
      await page.locator(`#figure-${figure}`).getByRole('slider', { name: handle }).press(key);
      await inFigure(page, figure, () =>
        until(
          () => field(page, figure, name).inputValue(),
          (text) => text === value,
          `${handle} at ${value}`,
        ),
      );
    }
    await page.context().close();
  });

  it('two devices that fight for the body are made by a setting, and seen', async () => {
    const { page } = await openBench(browser, address);
    await choose(page, 'hands', 'Two devices', 'newest');
    await page.keyboard.down('KeyD');
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 140,
      'a walk',
    );
    // A pad that drifts inside its dead zone takes the body from the keys.
    await page.evaluate(() => {
      const buttons = Array.from({ length: 17 }, () => ({ pressed: false, value: 0 }));
      const pad = { connected: true, mapping: 'standard', axes: [0.08, 0, 0, 0], buttons };
      Object.defineProperty(navigator, 'getGamepads', { configurable: true, value: () => [pad] });
    });
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 0,
      'a stop with the key still down',
    );
    expect(await page.getByTestId('devices').textContent()).toMatch(/keyboard right .*pad .*0\.08/);
    await choose(page, 'hands', 'Two devices', 'larger');
    await until(
      () => reading(page, 'speed'),
      (speed) => speed > 100,
      'the key in force again',
    );
    await page.keyboard.up('KeyD');
    await page.context().close();
  });
});

describe('trying', () => {
  it('a held key multiplies the number focused last, and then restores it', async () => {
    const { page } = await openBench(browser, address);
    const walk = field(page, 'pace', /^Walk/);
    await walk.hover();
    await page.keyboard.down('KeyD');
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 140,
      'a walk',
    );
    await page.keyboard.down('BracketRight');
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 280,
      'twice the walk',
    );
    await page.keyboard.up('BracketRight');
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 140,
      'the walk as it was',
    );
    await page.keyboard.up('KeyD');
    expect(await page.getByTestId('save-state').textContent()).toBe('saved');
    await page.context().close();
  });

  it('with per-frame stepping a tick is as long as its frame', async () => {
    const { page } = await openBench(browser, address);
    await choose(page, 'clock', 'Stepping', 'perFrame');
    await choose(page, 'clock', 'Frames (bench)', '30');
    await page.keyboard.down('KeyD');
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 140,
      'a walk',
    );
    await page.keyboard.up('KeyD');
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 0,
      'rest',
    );
    await page.context().close();
  });
});
