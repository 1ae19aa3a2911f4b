import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { choose, enter, layer, openBench, openBrowser, place, reading, until } from './browser.ts';

let browser: Browser;
const address = inject('address');

beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

describe('devices', () => {
  it('drives by pad; an unplugged pad lets go', async () => {
    const { page } = await openBench(browser, address);
    const plug = (axes: [number, number] | null) =>
      page.evaluate((stick) => {
        const pad = stick && {
          connected: true,
          mapping: 'standard',
          axes: [...stick, 0, 0],
          buttons: Array.from({ length: 17 }, () => ({ pressed: false, value: 0 })),
        };
        Object.defineProperty(navigator, 'getGamepads', { configurable: true, value: () => [pad] });
      }, axes);
    await plug([0.55, 0]);
    await until(
      () => reading(page, 'speed'),
      (speed) => Math.abs(speed - 70) < 2,
      'half a walk by half a stick',
    );
    expect(await page.getByTestId('devices').textContent()).toMatch(/^pad .*0\.55/);
    await plug(null);
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 0,
      'rest',
    );
    await page.context().close();
  });

  it('shows what a pad presses, and binds the buttons and the stick of one without the standard mapping', async () => {
    const { page } = await openBench(browser, address);
    const hold = (axes: number[], pressed: number[]) =>
      page.evaluate(
        ([axes, pressed]) => {
          const buttons = Array.from({ length: 12 }, (_, i) => ({ pressed: (pressed as number[]).includes(i), value: 0 }));
          const pad = { id: 'Odd stick', connected: true, mapping: '', axes, buttons };
          Object.defineProperty(navigator, 'getGamepads', { configurable: true, value: () => [pad] });
        },
        [axes, pressed],
      );
    await hold([0, 0, 0, 0], []);
    await page.keyboard.press('k');
    const sheet = page.getByRole('dialog', { name: 'Driving keys' });
    await sheet.getByText('“Odd stick” is connected').waitFor();
    await sheet.getByRole('button', { name: 'Add a button for Sprint', exact: true }).click();
    await hold([0, 0, 0, 0], [3]);
    await sheet.getByRole('button', { name: 'button 4' }).waitFor();
    expect(await sheet.getByRole('button', { name: 'button 4' }).getAttribute('data-down')).not.toBeNull();
    await hold([0, 0, 0, 0], []);
    await sheet.locator('[data-down]').waitFor({ state: 'detached' });
    await sheet.getByRole('button', { name: 'Choose another' }).click();
    await hold([0, 0, 0.9, 0], []);
    await until(
      () => sheet.getByTestId('pad-stick').textContent(),
      (words) => words === 'axes 3 and 4',
      'the stick that was pushed',
    );
    await page.keyboard.press('Escape');
    await until(
      () => reading(page, 'speed'),
      (speed) => speed > 100,
      'a drive by it',
    );
    await page.context().close();
  });

  it('drives by the on-screen stick under a finger', async () => {
    const { page } = await openBench(browser, address, { hasTouch: true });
    await layer(page, 'Stick and buttons', true);
    const before = await place(page);
    const stick = await page.getByTestId('screen-stick').boundingBox();
    if (!stick) throw new Error('there is no stick');
    const [x, y] = [stick.x + stick.width / 2, stick.y + stick.height / 2];
    const cdp = await page.context().newCDPSession(page);
    await cdp.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: [{ x, y }] });
    await cdp.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: [{ x: x + 50, y }] });
    await until(
      () => place(page),
      (at) => at.x > before.x + 40,
      'a way to the right',
    );
    await cdp.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 0,
      'rest',
    );
    await page.context().close();
  });

  it('latches a swipe over the yard until the stop key', async () => {
    const { page } = await openBench(browser, address);
    await choose(page, 'hands', 'Scheme', 'latch');
    // However slow the machine that swipes.
    await enter(page, 'hands', /^Swipe time/, '5');
    const yard = await page.getByTestId('yard').boundingBox();
    if (!yard) throw new Error('there is no yard');
    const [x, y] = [yard.x + yard.width / 2, yard.y + yard.height / 2];
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x + 70, y + 8);
    await page.mouse.up();
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 140,
      'a latched walk',
    );
    await page.keyboard.press('KeyX');
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 0,
      'the stop',
    );
    await page.context().close();
  });

  it('drives by another key once it is bound, and says which keys are taken', async () => {
    const { page } = await openBench(browser, address);
    await page.keyboard.press('KeyK');
    const right = page.getByRole('row', { name: /^Right/ });
    await right.getByRole('button', { name: 'Add a key for Right' }).click();
    await right.getByRole('button', { name: 'Press a key …' }).waitFor();
    await page.keyboard.press('KeyW');
    await page.getByRole('alert').getByText('W works “Up”').waitFor();
    await right.getByRole('button', { name: 'Add a key for Right' }).click();
    await right.getByRole('button', { name: 'Press a key …' }).waitFor();
    await page.keyboard.press('KeyJ');
    await page.keyboard.press('Escape');
    const before = await place(page);
    await page.keyboard.down('KeyJ');
    await until(
      () => place(page),
      (at) => at.x > before.x + 20,
      'a way to the right',
    );
    await page.keyboard.up('KeyJ');
    await page.context().close();
  });
});
