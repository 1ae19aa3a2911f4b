import { readFileSync } from 'node:fs';
import type { Locator, Page } from 'playwright-core';

/** A file of the demo. */
export const demo = (name: string) => JSON.parse(readFileSync(new URL(`../demo/${name}.json`, import.meta.url), 'utf8')) as object;

/** The snags beside the bench, and how many of them there are. */
export const snags = (page: Page) => page.getByRole('region', { name: 'Snags' });
export const count = async (page: Page) => Number(await snags(page).getAttribute('data-found'));

/** Shows all kinds of snags. */
export async function showAllKinds(page: Page): Promise<void> {
  const all = snags(page).getByRole('button', { name: /^Show all/ });
  if ((await all.count()) > 0) await all.click();
}

/** Opens a kind of snag; gives its place in the list. */
export async function openKind(page: Page, id: string): Promise<Locator> {
  const kind = snags(page).locator(`[data-snag="${id}"]`);
  await kind.waitFor();
  const line = kind.locator('button[aria-expanded]');
  if ((await line.getAttribute('aria-expanded')) === 'false') await line.click();
  return kind;
}
