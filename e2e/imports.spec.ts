import '../testing/provided.ts';
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { openBrowser, until } from './browser.ts';

/** An import goes to the project that it began in, is complete or says where it stopped, and can be continued or undone. */

const address = inject('address');
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

const TOTAL = 24;
const files = Array.from({ length: TOTAL }, (_, i) => ({
  name: `boots-${i}.tuning.json`,
  mimeType: 'application/json',
  buffer: Buffer.from(JSON.stringify({ format: 'zygopod/tuning', version: 2, name: `Boots ${i}` })),
}));

const newProject = async (name: string): Promise<string> => {
  const answer = await fetch(`${address}/api/v1/projects`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name }),
  });
  return ((await answer.json()) as { id: string }).id;
};

/** The names of the tunings in use of a project. */
const namesIn = async (project: string): Promise<string[]> => {
  const { items } = (await (await fetch(`${address}/api/v1/projects/${project}/shelf?kind=tunings&limit=200`)).json()) as {
    items: { name: string }[];
  };
  return items.map(({ name }) => name).sort();
};
const all = files.map((_, i) => `Boots ${i}`).sort();

async function shelfOf(project: string): Promise<Page> {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await page.goto(`${address}/shelf/${project}`);
  return page;
}

/** The shelf's own file input. An empty shelf also shows the start page with its own, from the moment its list has arrived. */
const chooser = (page: Page) => page.getByLabel('Files to import', { exact: true });

/** Chooses the files, and starts their import. */
async function choose(page: Page): Promise<void> {
  await chooser(page).setInputFiles(files);
  await page.getByTestId('brought').getByText(`${TOTAL} documents`).waitFor();
}

/**
 * Starts an import whose requests stall after so many documents, and reloads the page. Returns the number of documents: requests in transit when the
 * page died may create one more each.
 */
async function stopped(page: Page, project: string, after: number): Promise<number> {
  let left = after;
  await page.route('**/api/v1/tunings?**', (route) => (route.request().method() === 'POST' && --left < 0 ? undefined : route.continue()));
  await choose(page);
  await page.getByRole('dialog').getByRole('button', { name: 'Import', exact: true }).click();
  await page.getByText(`${after} of ${TOTAL}`).waitFor();
  page.on('dialog', (dialog) => void dialog.accept());
  await page.evaluate(() => window.location.reload());
  const { there } = await until(
    async () => {
      const notice = await page.getByText(/An import stopped after \d+ of 24 documents/).innerText();
      const now = { shown: Number(/\d+/.exec(notice)?.[0]), there: (await namesIn(project)).length };
      if (now.shown !== now.there) await page.reload();
      return now;
    },
    ({ shown, there }) => shown === there,
    'the number of documents',
  );
  left = Infinity;
  expect(there).toBeGreaterThanOrEqual(after);
  expect(there).toBeLessThan(TOTAL);
  return there;
}

describe('an import of many files', () => {
  it('goes to the project that it began in, though another one is opened meanwhile', async () => {
    const [own, other] = [await newProject('Imported'), await newProject('Looked at meanwhile')];
    const page = await shelfOf(own);
    let first = true;
    await page.route('**/api/v1/tunings?**', async (route) => {
      if (first) {
        first = false;
        const second = await page.context().newPage();
        await second.goto(`${address}/shelf/${other}`);
        await second.close();
      }
      await route.continue();
    });
    await choose(page);
    await page.getByRole('dialog').getByRole('button', { name: 'Import', exact: true }).click();
    await until(
      () => namesIn(own),
      (names) => names.length === TOTAL,
      'all documents',
    );
    expect(await namesIn(own)).toEqual(all);
    expect(await namesIn(other)).toEqual([]);
    await page.context().close();
  });

  it('says where it stopped, and continues with the same files, each once', async () => {
    const project = await newProject('Stopped');
    const page = await shelfOf(project);
    const there = await stopped(page, project, 9);
    await chooser(page).setInputFiles(files);
    await page.getByTestId('brought').getByText(`${there} of 24 documents`).waitFor();
    await page.getByRole('button', { name: 'Import the rest' }).click();
    await until(
      () => namesIn(project),
      (names) => names.length >= TOTAL,
      'all documents',
    );
    expect(await namesIn(project)).toEqual(all);
    await page.reload();
    await page.getByText('Boots 3', { exact: true }).first().waitFor();
    expect(await page.getByText(/An import stopped/).count()).toBe(0);
    await page.context().close();
  });

  it('can be undone after it stopped', async () => {
    const project = await newProject('Undone');
    const page = await shelfOf(project);
    await stopped(page, project, 6);
    await page.getByRole('button', { name: 'Undo import' }).click();
    await page.getByText(/An import stopped/).waitFor({ state: 'detached' });
    expect(await namesIn(project)).toEqual([]);
    await page.context().close();
  });
});
