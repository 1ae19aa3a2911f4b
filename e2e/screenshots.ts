import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { openBench, openBrowser, until } from './browser.ts';

/** Holds keys for so many milliseconds of the page's time. */
async function hold(page: Page, keys: string[], milliseconds: number): Promise<void> {
  for (const key of keys) await page.keyboard.down(key);
  await page.waitForTimeout(milliseconds);
  for (const key of keys) await page.keyboard.up(key);
}

/** A drive over the Boardwalk, left under way with the right key down. */
async function driveAbout(page: Page): Promise<void> {
  await hold(page, ['KeyD'], 900);
  await hold(page, ['KeyD', 'KeyW'], 700);
  await hold(page, ['KeyD', 'ShiftLeft'], 1500);
  await hold(page, ['KeyS'], 500);
  await page.keyboard.down('ShiftLeft');
  await page.keyboard.down('KeyA');
  await page.waitForTimeout(600);
}

/** Every picture of docs/screenshots: its name, the theme, and how the page gets there. */
const pictures: { name: string; colorScheme: 'light' | 'dark'; act(page: Page): Promise<void> }[] = [
  { name: 'bench', colorScheme: 'light', act: driveAbout },
  { name: 'bench-night', colorScheme: 'dark', act: driveAbout },
];

/** Takes all pictures at 1280 × 800 into `folder`; returns their paths. */
export async function shootAll(address: string, folder: string): Promise<string[]> {
  const browser = await openBrowser();
  const files: string[] = [];
  try {
    for (const { name, colorScheme, act } of pictures) {
      const { page } = await openBench(browser, address, { colorScheme });
      await until(
        () => page.evaluate(() => document.fonts.status),
        (status) => status === 'loaded',
        'the fonts',
      );
      await act(page);
      const path = join(folder, `${name}.png`);
      await page.screenshot({ path });
      files.push(path);
      await page.context().close();
    }
  } finally {
    await browser.close();
  }
  return files;
}
