import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { createDocument, openBrowser, until } from './browser.ts';
import { count, demo, snags } from './snags.ts';

const address = inject('address');
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

describe('drills whose worker fails', () => {
  /** A page whose workers die of a call, until it is mended. */
  async function failing(call: string, path: string): Promise<{ page: Page; mend(): Promise<void> }> {
    const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
    await page.addInitScript(`
      window.dies = true;
      const Alive = window.Worker;
      window.Worker = class extends Alive {
        postMessage(message, more) {
          if (window.dies && message.path?.[0] === '${call}') this.dispatchEvent(new ErrorEvent('error', { message: 'out of memory' }));
          else super.postMessage(message, more);
        }
      };`);
    await page.goto(`${address}${path}`);
    const mend = async () => void (await page.evaluate('window.dies = false'));
    return { page, mend };
  }

  it('say so beside the snags, and are run again on request', async () => {
    const { page, mend } = await failing('judge', `/bench/${await createDocument(address, 'tunings', demo('first-draft.tuning'))}`);
    const failed = snags(page).getByRole('alert').getByText('The drills didn’t finish: out of memory');
    await failed.waitFor();
    await mend();
    await snags(page).getByRole('button', { name: 'Try again' }).click();
    await failed.waitFor({ state: 'detached' });
    await until(
      () => count(page),
      (found) => found >= 15,
      'the snags of the first draft',
    );
    await page.context().close();
  });

  it('say so in place of what moves a metric, never that nothing does', async () => {
    const { page, mend } = await failing(
      'metrics',
      `/drills/${await createDocument(address, 'tunings', demo('carrier-day-boots.tuning'))}`,
    );
    const moves = page.getByRole('region', { name: 'What moves it' });
    await moves.getByRole('alert').getByText('Couldn’t be measured: out of memory').waitFor();
    expect(await moves.getByText('No parameter changes it').count()).toBe(0);
    await mend();
    await moves.getByRole('button', { name: 'Try again' }).click();
    await moves.getByRole('listitem').first().waitFor();
    await page.context().close();
  });
});
