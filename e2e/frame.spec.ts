import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { createDocument, createProject, enter, groundFile, openBrowser, openPage, ready, until } from './browser.ts';

const address = inject('address');
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

/** Names of 24 characters in letters of usual width, as long as a name may be to stand whole. */
const names = { project: 'Harbour parcels, autumn ', tuning: 'Carrier with heavy boots', ground: 'Boardwalk behind the inn' };
const screens = ['Bench', 'Compare', 'Drills', 'Sweep', 'Grounds', 'Game', 'Hand-off', 'Shelf'];

/** A project whose tuning is on its ground, all with names of 24 characters. */
async function longNames(): Promise<{ tuning: string; ground: string }> {
  const project = await createProject(address, names.project.trim());
  const tuningFile = { format: 'zygopod/tuning', version: 2, name: names.tuning };
  const tuning = await createDocument(address, 'tunings', tuningFile, project);
  const ground = await createDocument(address, 'grounds', groundFile({ name: names.ground }), project);
  return { tuning, ground };
}

/** The texts in the header that are cut off. */
const cutOff = (page: Page): Promise<string[]> =>
  page
    .getByRole('banner')
    .locator('.truncate')
    .evaluateAll((all) => all.filter((one) => one.scrollWidth > one.clientWidth).map((one) => one.textContent ?? ''));

/** True if anything in the header lies on anything else, or leaves the window. */
const collisions = (page: Page): Promise<string[]> =>
  page.getByRole('banner').evaluate((header) => {
    const parts = [...header.querySelectorAll('a, button, [role=status], .digits')].filter(
      (one) =>
        one.checkVisibility() &&
        !one.closest('button')?.parentElement?.closest('button') &&
        (one.matches('a, button') || !one.closest('a, button')),
    );
    const boxes = parts.map((part) => ({
      name: part.textContent || part.getAttribute('aria-label') || '',
      box: part.getBoundingClientRect(),
    }));
    const found: string[] = [];
    boxes.forEach((a, i) => {
      if (a.box.right > innerWidth || a.box.left < 0) found.push(`${a.name} leaves the window`);
      for (const b of boxes.slice(i + 1)) {
        const across = Math.min(a.box.right, b.box.right) - Math.max(a.box.left, b.box.left);
        const down = Math.min(a.box.bottom, b.box.bottom) - Math.max(a.box.top, b.box.top);
        if (across > 1 && down > 1) found.push(`${a.name} lies on ${b.name}`);
      }
    });
    return found;
  });

describe('the header', () => {
  it.each([
    [1280, 800],
    [1024, 700],
  ])('shows the project, the tuning, its changes and the ground whole at %i × %i, on every screen', async (width, height) => {
    const { tuning, ground } = await longNames();
    const { page, faults } = await openPage(browser, `${address}/bench/${tuning}?ground=${ground}`, { viewport: { width, height } });
    await ready(page);
    await enter(page, 'pace', /^Walk/, '151');
    const header = page.getByRole('banner');
    await header.getByText('rev 1 + 1 change').waitFor();
    await page.locator('[data-testid=save-state][data-state=draft]').waitFor();
    for (const name of Object.values(names)) await header.getByText(name.trim(), { exact: true }).first().waitFor();
    const index = page.getByRole('navigation', { name: 'Screens' });
    expect(await index.getByRole('link').allTextContents()).toEqual(['', ...screens]);
    for (const screen of screens) {
      await index.getByRole('link', { name: screen, exact: true }).click();
      await page.locator(`a[aria-current=page]:has-text("${screen}")`).first().waitFor();
      await page.getByRole('banner').getByText(names.project.trim()).waitFor();
      expect(await cutOff(page), screen).toEqual([]);
      expect(await collisions(page), screen).toEqual([]);
      expect((await page.locator('nav:visible').first().boundingBox())?.width).toBe(30);
    }
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('shows all of a longer name to whoever points at it or comes to it by keyboard', async () => {
    const name = 'A name that nobody would give, because it goes on and on';
    const id = await createDocument(address, 'tunings', { format: 'zygopod/tuning', version: 2, name });
    const { page } = await openPage(browser, `${address}/bench/${id}`, {});
    await ready(page);
    const picker = page.getByRole('button', { name: `Tuning: ${name}` });
    expect(await picker.getAttribute('title')).toContain(name);
    const whole = picker.locator('span').last();
    expect(await whole.isVisible()).toBe(false);
    await page.keyboard.press('Tab');
    for (let i = 0; i < 20 && !(await picker.evaluate((one) => one === document.activeElement)); i++) await page.keyboard.press('Tab');
    expect(await whole.isVisible()).toBe(true);
    expect(await whole.textContent()).toBe(name);
    await page.context().close();
  });

  it('has the index as a menu in a narrow window, on pages without a script too', async () => {
    for (const path of ['/bench', '/shelf', '/api', '/nowhere']) {
      const { page } = await openPage(browser, `${address}${path}`, {
        viewport: { width: 640, height: 400 },
        javaScriptEnabled: path === '/bench' || path === '/shelf',
      });
      const menu = page.locator('header details');
      expect(await collisions(page), path).toEqual([]);
      await menu.locator('summary').click();
      expect(await menu.getByRole('link').allTextContents()).toEqual(screens);
      await menu.getByRole('link', { name: 'Grounds' }).click();
      await page.waitForURL(/\/grounds\//);
      await page.context().close();
    }
  });

  it('has what concerns the application in one small menu', async () => {
    const { page } = await openPage(browser, `${address}/shelf`, {});
    const menu = page.getByRole('button', { name: 'Application menu' });
    await menu.click();
    await page.getByRole('button', { name: /^Light or dark/ }).click();
    await until(
      () => page.evaluate(() => document.documentElement.dataset['theme']),
      (theme) => theme === 'night',
      'the dark theme',
    );
    await menu.click();
    await page.getByRole('button', { name: 'About Zygopod' }).click();
    await page.getByText(/^version \d+\.\d+\.\d+$/).waitFor();
    await page.keyboard.press('Escape');
    await menu.click();
    await page.getByRole('link', { name: 'API reference' }).click();
    await page.waitForURL(/\/api$/);
    await page.context().close();
  });
});

describe('the bench at 1280 × 800', () => {
  it('gives the yard more than a third of the window, and keeps changes, effects and snags in sight', async () => {
    const id = await createDocument(address, 'tunings', { format: 'zygopod/tuning', version: 2, name: 'Measured' });
    const { page, faults } = await openPage(browser, `${address}/bench/${id}`, {});
    await ready(page);
    const yard = await page.getByRole('region', { name: 'Yard' }).boundingBox();
    expect(((yard?.width ?? 0) * (yard?.height ?? 0)) / (1280 * 800)).toBeGreaterThan(0.35);
    const fourth = await page.locator('#figure-edges').boundingBox();
    const index = await page.getByRole('navigation', { name: 'Figures' }).boundingBox();
    expect((fourth?.x ?? 0) + (fourth?.width ?? 0)).toBeLessThanOrEqual((index?.x ?? 0) + 1);

    await enter(page, 'pace', /^Walk/, '151');
    await page.getByRole('region', { name: 'Changes' }).getByText('Walk').first().waitFor();
    await page.getByTestId('bench-effects').getByRole('listitem').first().waitFor();
    const aside = page.getByRole('complementary', { name: 'Calipers, changes, effects, snags and laps' });
    expect(await aside.evaluate((one) => one.scrollHeight - one.clientHeight)).toBeLessThanOrEqual(0);
    // Figures that a change moves, as the drills have them: the walk speed is the mean's ceiling.
    await page.getByTestId('bench-effects').getByText('→').first().waitFor();
    // Both tunings are driven on the ground, whose course one of them would lack otherwise.
    expect(await page.getByTestId('bench-effects').textContent()).not.toContain('not measured');
    await page.getByRole('button', { name: 'Revert Walk' }).click();
    await page.getByText('Nothing yet').waitFor();
    expect(await page.getByTestId('bench-effects').count()).toBe(0);
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('draws nothing while nothing moves, and goes on with the first key', async () => {
    const { page } = await openPage(browser, `${address}/bench`, {});
    await ready(page);
    await page.locator('html[data-asleep]').waitFor({ state: 'attached' });
    await page.keyboard.down('KeyD');
    await page.locator('html:not([data-asleep])').waitFor({ state: 'attached' });
    await until(
      async () => Number.parseFloat((await page.getByTestId('speed').textContent()) ?? ''),
      (speed) => speed > 100,
      'the walk',
    );
    await page.keyboard.up('KeyD');
    await page.locator('html[data-asleep]').waitFor({ state: 'attached' });
    await page.context().close();
  });
});
