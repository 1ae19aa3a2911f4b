import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { violationsOf } from './axe.ts';
import { openBrowser, openPage } from './browser.ts';

let browser: Browser;
const address = inject('address');

beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

describe('the reference of the API', () => {
  it('lists every operation of the description, and sends no request elsewhere', async () => {
    const { paths } = (await (await fetch(`${address}/api/v1/openapi.json`)).json()) as {
      paths: Record<string, Record<string, { operationId: string }>>;
    };
    const { page, faults } = await openPage(browser, `${address}/api`, {});
    const origins = new Set<string>();
    page.on('request', (request) => origins.add(new URL(request.url()).origin));
    await page.reload();
    for (const [path, methods] of Object.entries(paths))
      for (const [method, { operationId }] of Object.entries(methods)) {
        const heading = page.locator(`#${operationId} h3`);
        expect(await heading.innerText()).toBe(`${method.toUpperCase()}/api/v1${path}`);
      }
    await page.getByRole('link', { name: /^PUT .*draft$/ }).click();
    expect(new URL(page.url()).hash).toBe('#putDraft');
    expect([...origins]).toEqual([address]);
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('can be read by everybody', async () => {
    const { page } = await openPage(browser, `${address}/api`, {});
    expect(await violationsOf(page)).toEqual([]);
    await page.context().close();
  });
});
