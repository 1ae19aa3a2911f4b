import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { createDocument, openBench, openBrowser, ready, until } from './browser.ts';

let browser: Browser;
const address = inject('address');
const tuning = (name: string) => ({ format: 'zygopod/tuning', version: 2, name });
/** Names of this run alone: the shelf is everybody's. */
const OWN = `Galosh ${Date.now().toString(36)}`;

beforeAll(async () => {
  browser = await openBrowser();
  for (let i = 0; i < 55; i++) await createDocument(address, 'tunings', tuning(`${OWN} ${i}`));
});
afterAll(() => browser.close());

const names = (page: Page) => page.getByRole('option').locator('span:first-child').allInnerTexts();
const find = async (page: Page, text: string) => {
  await page.getByRole('button', { name: /^Tuning: / }).click();
  await page.getByRole('combobox', { name: 'Find a tuning' }).fill(text);
};

describe('another tuning', () => {
  it('is found by a part of its name, newest first and page by page, and opened by keys', async () => {
    const { page, faults } = await openBench(browser, address);
    await find(page, OWN.toLowerCase());
    const newest = Array.from({ length: 50 }, (_, i) => `${OWN} ${54 - i}`);
    await until(
      () => names(page),
      (shown) => JSON.stringify(shown) === JSON.stringify(newest),
      'the newest fifty',
    );
    await page.getByRole('button', { name: 'Show older' }).click();
    await until(
      () => names(page),
      (shown) => shown.length === 55 && shown.at(-1) === `${OWN} 0`,
      'the oldest',
    );
    await page.getByRole('button', { name: 'Show older' }).waitFor({ state: 'hidden' });
    await page.getByRole('combobox', { name: 'Find a tuning' }).focus();
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await page.waitForURL(/\/bench\//);
    await page.getByRole('button', { name: `Tuning: ${OWN} 53` }).waitFor();
    await ready(page);
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('that does not exist is said so, as is a server that is away; nothing is opened', async () => {
    const { page } = await openBench(browser, address);
    const before = page.url();
    await find(page, 'no boot is called that');
    await page.getByText('Nothing is called that.').waitFor();
    await page.keyboard.press('Enter');
    await page.route('**/api/v1/tunings?*', (route) => route.abort());
    await page.getByRole('combobox', { name: 'Find a tuning' }).fill('boots');
    await page.getByRole('alert').waitFor();
    await page.unroute('**/api/v1/tunings?*');
    await page.getByRole('combobox', { name: 'Find a tuning' }).fill(`${OWN} 7`);
    await until(
      () => names(page),
      (shown) => shown.length === 1,
      'the only one',
    );
    expect(await page.getByRole('alert').count()).toBe(0);
    await page.keyboard.press('Escape');
    await page.getByRole('combobox', { name: 'Find a tuning' }).waitFor({ state: 'hidden' });
    expect(page.url()).toBe(before);
    await page.context().close();
  });

  it('archived leaves the list; its page says so, and it is back once restored', async () => {
    const id = await createDocument(address, 'tunings', tuning(`${OWN} away`));
    const one = `${address}/api/v1/tunings/${id}`;
    expect((await fetch(one, { method: 'DELETE', headers: { 'if-match': '"1"' } })).status).toBe(204);
    const page = await (await browser.newContext()).newPage();
    expect((await page.goto(`${address}/bench/${id}`))?.status()).toBe(404);
    await page.getByText('It was archived').waitFor();
    expect((await fetch(`${one}/back`, { method: 'POST' })).status).toBe(200);
    await page.reload();
    await ready(page);
    await page.context().close();
  });
});
