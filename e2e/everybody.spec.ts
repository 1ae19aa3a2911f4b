import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { violationsOf } from './axe.ts';
import { openBrowser, openPage } from './browser.ts';

const address = inject('address');
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

describe('everybody', () => {
  it('can use the Drills screen, with drills that do not run', async () => {
    const { page } = await openPage(browser, `${address}/drills`, {});
    await page.locator('[data-drill][data-state=not]').first().waitFor();
    expect(await violationsOf(page)).toEqual([]);
    await page.context().close();
  });

  it('can compare two sides', async () => {
    const { page } = await openPage(browser, `${address}/compare`, {});
    await page
      .getByRole('button', { name: /^Remove / })
      .first()
      .waitFor();
    await page.getByRole('region', { name: 'Effects' }).getByRole('row').nth(3).waitFor();
    // One that is muted, too.
    await page.getByRole('button', { name: 'mute' }).last().click();
    expect(await violationsOf(page)).toEqual([]);
    await page.context().close();
  });
});

describe('the check of what keeps anybody out', () => {
  it('finds what it is for', async () => {
    const { page } = await openPage(browser, 'about:blank', {});
    await page.setContent('<html lang="en"><title>Pale</title><main><h1>Pale</h1><button></button><p style="color:#aaa">pale</p></main>');
    expect(await violationsOf(page)).toEqual([
      'light: button-name: button',
      'light: color-contrast: p',
      'dark: button-name: button',
      'dark: color-contrast: p',
    ]);
    await page.context().close();
  });
});
