import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { choose, createDocument, enter, field, groundFile, happened, openBench, openBrowser, place, until } from './browser.ts';

let browser: Browser;
const address = inject('address');

beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

describe('grid steps', () => {
  it('go a cell a press, turn by a buffered press, and bump', async () => {
    const { page, faults } = await openBench(
      browser,
      address,
      {},
      await createDocument(
        address,
        'grounds',
        groundFile({ cells: ['....', '....', '...#', '....'], start: { x: 48, y: 48, facing: 90 } }),
      ),
    );
    await choose(page, 'steps', 'Scheme', 'step');
    await enter(page, 'steps', /^Step time/, '0.4');
    await enter(page, 'steps', /^Buffer/, '0.4');
    await page.keyboard.press('KeyD');
    await page.keyboard.press('KeyS');
    await until(
      () => place(page),
      (at) => at.x === 80 && at.y === 80,
      'a step and a buffered turn',
    );
    await page.keyboard.press('KeyD');
    await until(
      () => happened(page, 'bumped'),
      (count) => count > 0,
      'a bump at the wall',
    );
    expect(await place(page)).toEqual({ x: 80, y: 80 });
    await page.locator('#figure-steps').getByRole('slider', { name: 'Step time' }).press('ArrowRight');
    await until(
      () => field(page, 'steps', /^Step time/).inputValue(),
      (value) => value === '0.41',
      'the step time by its handle',
    );
    expect(faults).toEqual([]);
    await page.context().close();
  });
});
