import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { root, stateFolder } from '../cli/src/root.ts';
import { buildIfChanged } from '../cli/src/up/build.ts';
import { startCluster } from '../cli/src/up/cluster.ts';
import { makeDatabase } from '../cli/src/up/database.ts';
import { freePort, startServer, stopServer } from '../cli/src/up/server.ts';
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
async function shootAll(address: string, folder: string): Promise<string[]> {
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

/** Makes the pictures anew, on a server of its own with fresh demo data. */
async function screenshots(): Promise<void> {
  const folder = join(root, 'docs', 'screenshots');
  mkdirSync(folder, { recursive: true });
  buildIfChanged((line) => process.stderr.write(`${line}\n`));
  const cluster = await startCluster(stateFolder, 'test-postgres');
  try {
    await makeDatabase(cluster.url('postgres'), 'zygopod_pictures', true);
    const options = {
      host: '127.0.0.1',
      port: await freePort(),
      databaseUrl: cluster.url('zygopod_pictures'),
      env: { ZYGOPOD_RESET_DEMO: '1' },
    };
    const server = await startServer(options);
    try {
      for (const file of await shootAll(server.address, folder)) process.stdout.write(`${file}\n`);
    } finally {
      await stopServer(server.process);
    }
  } finally {
    cluster.stop();
  }
}

await screenshots();
