import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { choose, createDocument, enter, field, groundFile, layer, openBench, openBrowser, place, reading, until } from './browser.ts';

let browser: Browser;
const address = inject('address');

beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

const contact = (page: Page) => page.getByTestId('now-contact').textContent();

const floor = {
  walls: [
    {
      points: [
        [0, 200],
        [640, 200],
      ],
      closed: false,
    },
  ],
  start: { x: 60, y: 150, facing: 0 },
};
const on = async (over: object) => openBench(browser, address, {}, await createDocument(address, 'grounds', groundFile(over)));

describe('walls', () => {
  it('are slid along at cos 45° of the speed, with the angle shown; stop and friction take effect at once', async () => {
    const { page, faults } = await on(floor);
    await choose(page, 'pace', 'Ramp', 'instant');
    await page.keyboard.down('KeyD');
    await page.keyboard.down('KeyS');
    await until(
      () => contact(page),
      (words) => words === 'slides at 45°',
      'the slide',
    );
    expect(await reading(page, 'speed')).toBeCloseTo(140 * Math.SQRT1_2, 0);
    await enter(page, 'walls', /^Wall friction/, '0.5');
    await until(
      () => reading(page, 'speed'),
      (speed) => Math.abs(speed - 140 * Math.SQRT1_2 * 0.5) < 0.6,
      'half of it by friction',
    );
    await choose(page, 'walls', 'On contact', 'stop');
    await until(
      () => contact(page),
      (words) => words === 'stopped at 45°',
      'the stop',
    );
    await page.keyboard.up('KeyD');
    await page.keyboard.up('KeyS');
    expect(await page.locator('[data-testid=events] [data-event~=wallMet]').count()).toBeGreaterThan(0);
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('the fraction kept is set by drawing, and the scene shows the core’s result', async () => {
    const { page } = await on(floor);
    const handle = page.locator('#figure-walls').getByRole('slider', { name: 'Speed kept along the wall' });
    await handle.press('Shift+ArrowRight');
    await until(
      () => field(page, 'walls', /^Wall friction/).inputValue(),
      (value) => value === '0.1',
      'friction by the handle',
    );
    await choose(page, 'pace', 'Ramp', 'instant');
    await until(
      () => page.getByTestId('slide-kept').textContent(),
      (words) => words === `steady ${Math.round((Math.cos(35 * (Math.PI / 180)) - 0.1 * Math.sin(35 * (Math.PI / 180))) * 100)} %`,
      'the steady slide of the scene',
    );
    await page.context().close();
  });
});

describe('edges', () => {
  it('hold the whole body, or half of it by its centre; wrap brings it in at the other side', async () => {
    const { page } = await on({ start: { x: 560, y: 150, facing: 0 } });
    await page.keyboard.down('KeyD');
    await until(
      () => place(page),
      (at) => at.x === 628,
      'the edge by the whole body',
    );
    expect(await contact(page)).toContain('edge E');
    await choose(page, 'edges', 'Measured by', 'centre');
    await until(
      () => place(page),
      (at) => at.x === 640,
      'the edge by the centre',
    );
    await choose(page, 'edges', 'At the edge', 'wrap');
    await until(
      () => place(page),
      (at) => at.x > 20 && at.x < 300,
      'the other side',
    );
    await page.keyboard.up('KeyD');
    await page.context().close();
  });

  it('insets are dragged in the figure', async () => {
    const { page } = await on({ start: { x: 560, y: 150, facing: 0 } });
    await page.locator('#figure-edges').getByRole('slider', { name: 'Inset right' }).press('Shift+ArrowLeft');
    await page.keyboard.down('KeyD');
    await until(
      () => place(page),
      (at) => at.x === 618,
      'ten before the edge',
    );
    await page.keyboard.up('KeyD');
    await page.context().close();
  });
});

describe('facing', () => {
  it('throws a pebble in each of eight directions, the faced one', async () => {
    const { page } = await on({ start: { x: 320, y: 192, facing: 90 } });
    const encounters = [
      ['E', 'KeyD'],
      ['SE', 'KeyD', 'KeyS'],
      ['S', 'KeyS'],
      ['SW', 'KeyS', 'KeyA'],
      ['W', 'KeyA'],
      ['NW', 'KeyA', 'KeyW'],
      ['N', 'KeyW'],
      ['NE', 'KeyW', 'KeyD'],
    ] as const;
    let thrown = 0;
    for (const [name, ...keys] of encounters) {
      for (const key of keys) await page.keyboard.down(key);
      await until(
        () => page.getByTestId('now-facing').textContent(),
        (words) => words?.startsWith(`${name} `) === true,
        `facing ${name}`,
      );
      await page.keyboard.press('KeyG');
      for (const key of keys) await page.keyboard.up(key);
      thrown++;
      await until(
        () => page.locator(`[data-testid=events] [aria-label*="Pebble thrown, ${name} "]`).count(),
        (count) => count > 0,
        `a pebble to the ${name}`,
      );
    }
    expect(thrown).toBe(8);
    await page.context().close();
  });
});

describe('camera', () => {
  it('is seen through, turned movement goes with it, and its lag is set by drawing', async () => {
    const { page, faults } = await on({ size: { width: 3000, height: 3000 }, start: { x: 1500, y: 1500, facing: 0 } });
    await page.keyboard.press('v');
    await page.getByText('Through the camera').waitFor();
    await enter(page, 'camera', /^Heading/, '90');
    await choose(page, 'hands', 'Relative to', 'camera');
    const before = await place(page);
    await page.keyboard.down('KeyW');
    await until(
      () => place(page),
      (at) => at.x > before.x + 40 && Math.abs(at.y - before.y) < 1,
      'up on the turned view',
    );
    await page.keyboard.up('KeyW');
    await page.keyboard.press('v');
    await page.locator('#figure-camera').getByRole('slider', { name: 'Lag of the view at walk speed' }).press('Shift+ArrowUp');
    await until(
      () => field(page, 'camera', /^Half-life/).inputValue(),
      (value) => Number(value) > 0.15,
      'a longer half-life for ten more of lag',
    );
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('lanes are chosen for the strip', async () => {
    const { page } = await on({});
    await page.getByRole('button', { name: 'Lanes' }).click();
    await page.getByRole('region', { name: 'Tape' }).getByRole('checkbox', { name: 'Pose' }).check();
    await page.getByRole('region', { name: 'Tape' }).getByRole('checkbox', { name: 'Stamina' }).uncheck();
    await page.keyboard.press('Escape');
    await page.reload();
    await page.getByRole('button', { name: 'Lanes' }).click();
    expect(await page.getByRole('region', { name: 'Tape' }).getByRole('checkbox', { name: 'Pose' }).isChecked()).toBe(true);
    expect(await page.getByRole('region', { name: 'Tape' }).getByRole('checkbox', { name: 'Stamina' }).isChecked()).toBe(false);
    await page.context().close();
  });

  it('narrow gaps, reach and room are surveyed in a worker', async () => {
    const { page, faults } = await openBench(browser, address);
    await layer(page, 'Gaps', true);
    await layer(page, 'Reach', true);
    await layer(page, 'Room', true);
    await until(
      () => page.getByTestId('yard').getAttribute('data-surveyed'),
      (count) => Number(count) >= 4,
      'the survey of the Boardwalk',
    );
    expect(faults).toEqual([]);
    await page.context().close();
  });
});
