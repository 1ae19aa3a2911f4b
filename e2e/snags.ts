import { readFileSync } from 'node:fs';
import type { Page } from 'playwright-core';

/** A file of the demo. */
export const demo = (name: string) => JSON.parse(readFileSync(new URL(`../demo/${name}.json`, import.meta.url), 'utf8')) as object;

/** The snags beside the bench, and how many their heading tells. */
export const snags = (page: Page) => page.getByRole('region', { name: 'Snags' });
export const count = async (page: Page) => Number((await snags(page).getByRole('heading').textContent())?.replace(/\D/g, ''));
