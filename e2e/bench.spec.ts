import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { violationsOf } from './axe.ts';
import { enter, field, inFigure, openBench, openBrowser, place, reading, ready, until } from './browser.ts';

let browser: Browser;
const address = inject('address');

beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

describe('the first visit', () => {
  it('opens the bench on the demo with the one line that a newcomer needs, gone once driven', async () => {
    const page = await (await browser.newContext()).newPage();
    await page.goto(address);
    await ready(page);
    expect(await page.getByRole('button', { name: 'Tuning: Carrier, day boots' }).isVisible()).toBe(true);
    await page.getByText('Drive with').waitFor();
    await page.keyboard.press('KeyD');
    await page.getByText('Drive with').waitFor({ state: 'hidden' });
    await page.context().close();
  });
});

describe('driving', () => {
  it('moves by WASD and by arrows, shows its speed, and stops on release', async () => {
    const { page, faults } = await openBench(browser, address);
    const start = await place(page);
    await page.keyboard.down('KeyD');
    await until(
      () => reading(page, 'speed'),
      (speed) => Math.abs(speed - 140) < 0.05,
      'full walk',
    );
    await until(
      () => place(page),
      (at) => at.x > start.x + 30,
      'a way to the right',
    );
    await page.keyboard.up('KeyD');
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 0,
      'rest',
    );
    const stopped = await place(page);
    expect(stopped.y).toBe(start.y);
    await page.keyboard.down('ArrowUp');
    await until(
      () => place(page),
      (at) => at.y < stopped.y - 10,
      'a way up',
    );
    await page.keyboard.up('ArrowUp');
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('lets go of every key when the window loses the focus', async () => {
    const { page } = await openBench(browser, address);
    await page.keyboard.down('KeyS');
    await until(
      () => reading(page, 'speed'),
      (speed) => speed > 50,
      'motion',
    );
    await page.evaluate(() => window.dispatchEvent(new Event('blur')));
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 0,
      'rest',
    );
    await page.context().close();
  });

  it('does not drive while a field has the focus', async () => {
    const { page } = await openBench(browser, address);
    const before = await place(page);
    await page.locator('#figure-pace').getByRole('textbox', { name: /^Walk/ }).focus();
    await page.keyboard.type('wasd');
    await page.keyboard.press('Escape');
    expect(await place(page)).toEqual(before);
    await page.context().close();
  });
});

describe('tuning', () => {
  it('obeys a dragged handle while driving, keeps the draft, saves, and finds all again after a reload', async () => {
    const { page, faults } = await openBench(browser, address);
    await page.keyboard.down('KeyD');
    await until(
      () => reading(page, 'speed'),
      (speed) => Math.abs(speed - 140) < 0.05,
      'full walk',
    );
    const handle = page.getByRole('slider', { name: 'Walk speed and time to it' });
    const box = await handle.boundingBox();
    if (!box) throw new Error('the handle has no place');
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 - 12, { steps: 4 });
    const faster = await until(
      () => reading(page, 'speed'),
      (speed) => speed > 155,
      'a faster walk under way',
    );
    await page.mouse.up();
    await page.keyboard.up('KeyD');

    const walk = page.locator('#figure-pace').getByRole('textbox', { name: /^Walk/ });
    expect(Number(await walk.inputValue())).toBeCloseTo(faster, 0);
    const sprint = page.locator('#figure-pace').getByRole('textbox', { name: /^Sprint/ });
    expect(Number(await sprint.inputValue())).toBeCloseTo(Number(await walk.inputValue()) * 1.75, 1);

    await until(
      () => page.getByTestId('save-state').getAttribute('data-state'),
      (state) => state === 'draft',
      'the draft to be kept',
    );
    const dragged = await walk.inputValue();
    await page.reload();
    await ready(page);
    expect(await walk.inputValue()).toBe(dragged);

    await walk.fill('+10%');
    await walk.press('Enter');
    const raised = await walk.inputValue();
    expect(Number(raised)).toBeCloseTo(Number(dragged) * 1.1, 2);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Control+KeyZ');
    expect(await walk.inputValue()).toBe(dragged);
    await page.keyboard.press('Control+Shift+KeyZ');
    expect(await walk.inputValue()).toBe(raised);

    await page.getByRole('button', { name: 'Save revision' }).click();
    await page.getByLabel('Note (optional)').fill('A quicker walk');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await until(
      () => page.getByTestId('save-state').getAttribute('data-state'),
      (state) => state === 'saved',
      'the revision',
    );
    await page.reload();
    await ready(page);
    expect(await walk.inputValue()).toBe(raised);
    expect(await page.locator('header').textContent()).toContain('rev 2');
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('says in place why an entry is wrong, changes nothing, and gives back with Escape', async () => {
    const { page } = await openBench(browser, address);
    const walk = page.locator('#figure-pace').getByRole('textbox', { name: /^Walk/ });
    const before = await walk.inputValue();
    await walk.fill('fast');
    await walk.press('Enter');
    await page.getByRole('alert').getByText('isn’t a number of the tuning').waitFor();
    await walk.press('Escape');
    expect(await walk.inputValue()).toBe(before);
    expect(await page.getByRole('alert').count()).toBe(0);
    await page.context().close();
  });

  it('scrubs a number by its label, as one step of undo', async () => {
    const { page } = await openBench(browser, address);
    const walk = page.locator('#figure-pace').getByRole('textbox', { name: /^Walk/ });
    const label = page.locator('#figure-pace label').filter({ hasText: /^Walk$/ });
    const box = await label.boundingBox();
    if (!box) throw new Error('the label has no place');
    await page.mouse.move(box.x + 10, box.y + 6);
    await page.mouse.down();
    await page.mouse.move(box.x + 50, box.y + 6, { steps: 8 });
    await page.mouse.up();
    expect(Number(await walk.inputValue())).toBe(160);
    await page.getByRole('button', { name: 'Undo' }).click();
    expect(Number(await walk.inputValue())).toBe(140);
    await page.context().close();
  });

  it('keeps the draft here while the server is away, says so, and sends it later', async () => {
    const { page } = await openBench(browser, address);
    const walk = page.locator('#figure-pace').getByRole('textbox', { name: /^Walk/ });
    const state = () => page.getByTestId('save-state').getAttribute('data-state');
    await page.route('**/api/v1/**', (route) => route.abort());
    await walk.fill('155');
    await walk.press('Enter');
    await until(state, (now) => now === 'offline', 'the loss of the server');
    await page.getByRole('alert').getByText('kept in this browser').waitFor();
    await page.getByRole('button', { name: 'Save revision' }).click();
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await page.getByRole('alert').getByText('Your draft is kept').waitFor();
    await page.keyboard.press('Escape');
    await page.unroute('**/api/v1/**');
    await until(state, (now) => now === 'draft', 'the draft on the server');
    await page.reload();
    await ready(page);
    expect(await walk.inputValue()).toBe('155');
    await page.context().close();
  });

  it('flips between now and before with one key while driving', async () => {
    const { page } = await openBench(browser, address);
    const walk = page.locator('#figure-pace').getByRole('textbox', { name: /^Walk/ });
    const saved = Number(await walk.inputValue());
    await walk.fill(String(saved - 50));
    await walk.press('Enter');
    await walk.press('Escape');
    await page.keyboard.down('KeyD');
    await until(
      () => reading(page, 'speed'),
      (speed) => Math.abs(speed - saved + 50) < 0.1,
      'the new walk',
    );
    await page.keyboard.press('KeyB');
    await until(
      () => reading(page, 'speed'),
      (speed) => Math.abs(speed - saved) < 0.1,
      'the walk before',
    );
    await page.keyboard.press('KeyB');
    await until(
      () => reading(page, 'speed'),
      (speed) => Math.abs(speed - saved + 50) < 0.1,
      'the new walk again',
    );
    await page.keyboard.up('KeyD');
    await page.context().close();
  });

  it('shows a change made in another tab instead of overwriting it, and keeps both', async () => {
    const { page } = await openBench(browser, address);
    const other = await page.context().newPage();
    await other.goto(page.url());
    await ready(other);
    await enter(other, 'pace', /^Brake/, '2500');
    await until(
      () => other.getByTestId('save-state').getAttribute('data-state'),
      (state) => state === 'draft',
      'the other draft',
    );
    await enter(page, 'pace', /^Decelerate/, '1500');
    await page.getByRole('button', { name: 'Keep both' }).click();
    await until(
      () => page.getByTestId('save-state').getAttribute('data-state'),
      (state) => state === 'draft',
      'the merged draft',
    );
    await inFigure(page, 'pace', async () => {
      expect(await field(page, 'pace', /^Brake/).inputValue()).toBe('2500');
      expect(await field(page, 'pace', /^Decelerate/).inputValue()).toBe('1500');
    });
    await page.context().close();
  });
});

describe('the screen', () => {
  it('has no accessibility violations, and fits 1280 × 800 and 1024 × 700 without scrolling the page', async () => {
    const { page } = await openBench(browser, address);
    expect(await violationsOf(page)).toEqual([]);
    for (const viewport of [
      { width: 1280, height: 800 },
      { width: 1024, height: 700 },
    ]) {
      await page.setViewportSize(viewport);
      const overflow = await page.evaluate(() => [
        document.documentElement.scrollWidth - innerWidth,
        document.documentElement.scrollHeight - innerHeight,
      ]);
      expect(overflow).toEqual([0, 0]);
    }
    await page.context().close();
  });

  it('runs a command from the list, by keyboard alone', async () => {
    const { page } = await openBench(browser, address);
    await page.keyboard.press('Control+KeyK');
    await page.keyboard.type('dark');
    await page.keyboard.press('Enter');
    await until(
      () => page.evaluate(() => document.documentElement.dataset['theme']),
      (theme) => theme === 'night',
      'the night chart',
    );
    await page.context().close();
  });
});
