import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { createDocument, enter, groundFile, openBench, openBrowser, until } from './browser.ts';

const address = inject('address');
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

const clock = (page: Page) => page.getByRole('region', { name: 'Lap', exact: true });
const list = (page: Page) => page.getByRole('region', { name: 'Laps', exact: true });
const isIn = (page: Page, state: string) => page.locator(`[aria-label="Lap"][data-state="${state}"]`).waitFor();

/** Drives to the right until the lap is finished; `meanwhile` happens while it is driven. */
async function driveLap(page: Page, meanwhile: () => Promise<void> = async () => {}): Promise<void> {
  await isIn(page, 'waiting');
  await page.keyboard.down('KeyD');
  await isIn(page, 'driving');
  await meanwhile();
  await isIn(page, 'finished');
  await page.keyboard.up('KeyD');
}

const gate = (x: number) => ({ from: [x, 20], to: [x, 160] });

describe('laps by hand on the bench', () => {
  it('are timed gate by gate against the best, kept over a reload, looped and deleted', async () => {
    const ground = await createDocument(address, 'grounds', groundFile({ version: 2, course: { gates: [gate(160), gate(300)], laps: 1 } }));
    const { page, faults } = await openBench(browser, address, {}, ground);
    await driveLap(page);
    await list(page).locator('li').waitFor();
    const first = await page.getByTestId('lap-time').textContent();
    // 220 units at no more than 140 a second, and no slower than twice that.
    expect(Number(first)).toBeGreaterThan(220 / 140);
    expect(Number(first)).toBeLessThan(4);
    expect(await page.getByTestId('lap-behind').textContent()).toBe('');
    expect(await list(page).locator('li').getAttribute('data-lap')).toBe(first);

    await page.keyboard.press('r');
    await clock(page).getByText('Best').waitFor();
    await driveLap(page);
    expect(await page.getByTestId('lap-behind').textContent()).toMatch(/^[+−±]\d\.\d\d$/);
    await until(
      () => list(page).locator('li').count(),
      (count) => count === 2,
      'two laps',
    );

    await page.keyboard.press('r');
    await driveLap(page, () => enter(page, 'pace', /^Walk/, '60'));
    await list(page).getByText('tuning changed during the lap').waitFor();
    // The slowest of three, and not the best.
    expect(await list(page).locator('li').last().textContent()).toContain('changed');

    await list(page).getByRole('button', { name: /^Loop/ }).first().click();
    await page.getByRole('button', { name: 'Looping' }).waitFor();
    await clock(page).waitFor({ state: 'detached' });
    await page.keyboard.press('l');
    await clock(page).waitFor();

    await list(page)
      .getByRole('button', { name: /^Delete/ })
      .last()
      .click();
    await until(
      () => list(page).locator('li').count(),
      (count) => count === 2,
      'two laps left',
    );
    await list(page).getByRole('button', { name: 'Let the pilot drive' }).click();
    await page
      .getByTestId('piloted')
      .getByText(/^Pilot: \d+\.\d\d s, 0 touches$/)
      .waitFor();
    await page.getByRole('button', { name: 'Looping' }).waitFor();

    const left = await list(page).locator('li').first().getAttribute('data-lap');
    await page.reload();
    await list(page).locator('li').first().waitFor();
    expect([await list(page).locator('li').count(), await list(page).locator('li').first().getAttribute('data-lap')]).toEqual([2, left]);
    expect(faults).toEqual([]);
  });
});
