import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { createDocument, enter, groundFile, keptGround, openBench, openBrowser, openGround, ready, until } from './browser.ts';
import { drag, pointOf } from './sheet.ts';

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

  it('goes from a drawn course to laps by hand, laps of three tunings, and a lap with a band', async () => {
    const { page, faults, id } = await openGround(browser, address);
    const at = await pointOf(page);
    await page.keyboard.press('t');
    for (const x of [192, 320]) await drag(page, at(x, 32), at(x, 160));
    await page.getByTestId('course-path').getByText('Shortest path').waitFor();
    expect((await keptGround(page, id)).course?.gates).toHaveLength(2);

    const times: number[] = [];
    const tunings: string[] = [];
    for (const walkSpeed of [90, 140, 210]) {
      const file = { format: 'zygopod/tuning', version: 2, name: `Walks ${walkSpeed}`, pace: { walkSpeed, sprintSpeed: walkSpeed } };
      const tuning = await createDocument(address, 'tunings', file);
      tunings.unshift(tuning);
      await page.goto(`${address}/bench/${tuning}?ground=${id}`);
      await ready(page);
      await list(page).getByRole('button', { name: 'Let the pilot drive' }).click();
      const words = await page.getByTestId('piloted').textContent();
      times.push(Number(/^Pilot: (\d+\.\d\d) s, 0 touches$/.exec(words ?? '')?.[1]));
    }
    // 240 units in a straight line: no lap is faster than its speed, and ramps cost less than half a second.
    for (const [i, walkSpeed] of [90, 140, 210].entries()) {
      expect(times[i]).toBeGreaterThanOrEqual(240 / walkSpeed - 0.01);
      expect(times[i]).toBeLessThan(240 / walkSpeed + 0.5);
    }
    await page.keyboard.press('l');
    await clock(page).waitFor();
    await page.keyboard.press('r');
    for (let lap = 1; lap <= 2; lap++) {
      await driveLap(page);
      await list(page)
        .locator('li')
        .nth(lap - 1)
        .waitFor();
      await page.keyboard.press('r');
    }

    // The pilot’s laps side by side, the fastest tuning first.
    await page.goto(`${address}/compare/${tunings[0]}?ground=${id}${tunings.map((one) => `&side=${one}`).join('')}&by=pilot`);
    for (const walkSpeed of [140, 90])
      await page
        .getByRole('region', { name: 'Where the time goes' })
        .getByText(`Walks ${walkSpeed} reaches ${walkSpeed} px/s, Walks 210 210`)
        .first()
        .waitFor();

    // The Drills page drives the same lap, in a worker of the page.
    await page.getByRole('link', { name: 'Give the lap a band' }).click();
    const part = page.getByRole('complementary', { name: 'Lap', exact: true });
    await part
      .getByText(`${Number((times[2] as number).toFixed(2))}`)
      .first()
      .waitFor();
    await part.getByRole('button', { name: 'give it a band' }).first().click();
    await part.getByRole('slider', { name: /Upper end of the band of lap/i }).waitFor();
    await page.locator('[data-drill=lap]').getByText('Lap', { exact: true }).first().waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });
});
