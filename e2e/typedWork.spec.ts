import '../testing/provided.ts';
import type { Browser, BrowserContext, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { createDocument, enter, openBrowser, ready, until } from './browser.ts';

/** A person's typing is on the page, in the browser or on the server, or its loss is announced before it happens. */

const address = inject('address');
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(async () => {
  await browser.close();
});

const json = { 'content-type': 'application/json' };
const tuning = { format: 'zygopod/tuning', version: 2, name: 'Boots in the post' };
const api = (path: string, method = 'GET', body?: unknown, headers = {}) =>
  fetch(`${address}/api/v1/tunings${path}`, {
    method,
    headers: { ...(body ? json : {}), ...headers },
    body: body ? JSON.stringify(body) : null,
  });

const walk = (page: Page) => page.locator('#figure-pace').getByRole('textbox', { name: /^Walk/ });
const at = (page: Page) => page.getByTestId('save-state').getAttribute('data-state');
const isAt = (page: Page, state: string) =>
  until(
    () => at(page),
    (now) => now === state,
    `the state ${state}`,
  );
const trouble = (page: Page) => page.getByTestId('save-trouble');

async function type(page: Page, value: string): Promise<void> {
  await walk(page).fill(value);
  await walk(page).press('Enter');
}

/** A tuning on the bench of a browser of its own. */
async function opened(): Promise<{ id: string; page: Page; context: BrowserContext }> {
  const id = await createDocument(address, 'tunings', tuning);
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  return { id, context, page: await bench(context, id) };
}

async function bench(context: BrowserContext, id: string): Promise<Page> {
  const page = await context.newPage();
  await page.goto(`${address}/bench/${id}`);
  await ready(page);
  return page;
}

/** The draft on the server, once it has this walk. */
const draftHas = (id: string, value: number) =>
  until(
    async () => ((await (await api(`/${id}/draft`)).json()) as { file?: { pace?: { walkSpeed?: number } } }).file?.pace?.walkSpeed,
    (found) => found === value,
    `the draft with ${value}`,
  );

describe('a number that was typed', () => {
  it('and stands in a conflict is offered after a reload', async () => {
    const { id, page, context } = await opened();
    await page.route('**/draft', (route) => route.abort());
    await type(page, '150');
    await isAt(page, 'offline');
    await api(`/${id}/draft`, 'PUT', { file: { ...tuning, pace: { walkSpeed: 160 } }, base: 1 }, { 'if-none-match': '*' });
    await page.unroute('**/draft');
    await page.getByRole('button', { name: 'Try now' }).click();
    await isAt(page, 'conflict');
    await page.reload();
    await ready(page);
    expect(await walk(page).inputValue()).toBe('160');
    await page.getByTestId('kept-work').getByText('Walk 150 (there 160)').waitFor();
    await page.reload();
    await ready(page);
    await page.getByRole('button', { name: 'Use the kept values' }).click();
    await draftHas(id, 150);
    await isAt(page, 'draft');
    await page.reload();
    await ready(page);
    expect(await page.getByTestId('kept-work').count()).toBe(0);
    await context.close();
  });

  it('offline is merged into a revision that somebody saves meanwhile', async () => {
    const { id, page, context } = await opened();
    await page.route('**/api/v1/**', (route) => route.abort());
    await type(page, '151');
    await isAt(page, 'offline');
    await page.close();
    await api(`/${id}/revisions`, 'POST', { file: { ...tuning, ramp: { accelerate: 777 } } }, { 'if-match': '"1"' });
    const again = await bench(context, id);
    expect(await walk(again).inputValue()).toBe('151');
    await draftHas(id, 151);
    await context.close();
  });

  it('is there after a reload at once, though the server says nothing, and though it was not entered', async () => {
    const { id, page, context } = await opened();
    await page.route('**/draft', () => undefined);
    const sent = page.waitForRequest('**/draft');
    await type(page, '152');
    await isAt(page, 'keeping');
    // The first is in transit, the next one only typed.
    await sent;
    await walk(page).fill('153');
    await page.reload();
    await ready(page);
    expect(await walk(page).inputValue()).toBe('153');
    await page.unroute('**/draft');
    await page.reload();
    await ready(page);
    expect(await walk(page).inputValue()).toBe('153');
    await draftHas(id, 153);
    await context.close();
  });

  it('in two tabs offline is there of both', async () => {
    const { id, page, context } = await opened();
    const other = await bench(context, id);
    await context.route('**/draft', (route) => route.abort());
    await type(page, '154');
    await isAt(page, 'offline');
    await enter(other, 'pace', /^Brake/, '2500');
    await isAt(other, 'offline');
    await page.close();
    await other.close();
    await context.unroute('**/draft');
    const again = await bench(context, id);
    expect(await walk(again).inputValue()).toBe('154');
    await draftHas(id, 154);
    const { file } = (await (await api(`/${id}/draft`)).json()) as { file: { ramp?: { brake?: number } } };
    expect(file.ramp?.brake).toBe(2500);
    await context.close();
  });

  it('is kept though the browser’s small store is full of other things', async () => {
    const { page, context } = await opened();
    await page.evaluate(() => {
      for (let size = 1 << 20; size > 1; size >>= 1)
        for (let i = 0; ; i++)
          try {
            localStorage.setItem(`fill ${size} ${i}`, 'x'.repeat(size));
          } catch {
            break;
          }
    });
    await page.route('**/draft', (route) => route.abort());
    await type(page, '155');
    await isAt(page, 'offline');
    await trouble(page).getByText('kept in this browser').waitFor();
    await page.reload();
    await ready(page);
    expect(await walk(page).inputValue()).toBe('155');
    await context.close();
  });

  it('and cannot be kept anywhere is not lost without a word', async () => {
    const { id, context, page: first } = await opened();
    await first.close();
    await context.addInitScript(() => {
      Object.defineProperty(window, 'indexedDB', { value: undefined });
      Storage.prototype.setItem = () => {
        throw new DOMException('full', 'QuotaExceededError');
      };
    });
    const page = await bench(context, id);
    await page.route('**/draft', (route) => route.abort());
    await type(page, '156');
    await trouble(page).getByText("can't keep your changes").waitFor();
    const requests = page.waitForEvent('dialog');
    const leaving = page.evaluate(() => window.location.reload()).catch(() => undefined);
    const dialog = await requests;
    expect(dialog.type()).toBe('beforeunload');
    await dialog.dismiss();
    await leaving;
    expect(await walk(page).inputValue()).toBe('156');
    await page.unroute('**/draft');
    await draftHas(id, 156);
    await context.close();
  });
});

describe('a server that says no', () => {
  it('because the tuning was archived says so; it is restored, or saved as a copy', async () => {
    const { id, page, context } = await opened();
    await api(`/${id}`, 'DELETE', undefined, { 'if-match': '"1"' });
    await trouble(page).getByText('was archived').waitFor();
    await type(page, '157');
    await page.getByRole('button', { name: 'Restore tuning' }).click();
    await draftHas(id, 157);
    await api(`/${id}`, 'DELETE', undefined, { 'if-match': '"1"' });
    await trouble(page).getByText('was archived').waitFor();
    await type(page, '158');
    await page.getByRole('button', { name: 'Save as a copy' }).click();
    await page.waitForURL((url) => !url.pathname.endsWith(id));
    await ready(page);
    expect(await walk(page).inputValue()).toBe('158');
    await context.close();
  });

  it('because the tuning was archived does not hide what was typed when it is opened again', async () => {
    const { id, page, context } = await opened();
    await page.route('**/draft', (route) => route.abort());
    await type(page, '159');
    await isAt(page, 'offline');
    await page.close();
    await api(`/${id}`, 'DELETE', undefined, { 'if-match': '"1"' });
    const again = await context.newPage();
    await again.goto(`${address}/bench/${id}`);
    await again.getByText('This browser keeps changes to it that were not sent').waitFor();
    await again.getByRole('button', { name: 'Save as a new tuning' }).click();
    await again.waitForURL((url) => url.pathname.startsWith('/bench/') && !url.pathname.endsWith(id));
    await ready(again);
    expect(await walk(again).inputValue()).toBe('159');
    await context.close();
  });

  it.each([
    [413, { title: 'A tuning has at most 262144 bytes', found: 17_200_000, most: 16_777_216 }, /17\.2 MB.*16\.8 MB/, 'Export tuning'],
    [422, { title: 'Not valid', errors: [{ path: 'pace.walkSpeed', found: '9', expected: '8' }] }, /pace\.walkSpeed: found 9/, 'Undo'],
    [401, { title: 'An access token is needed' }, /access token/, 'Sign in'],
    [403, { title: 'Writes from another origin are refused' }, /another origin/, 'Try now'],
    [500, { title: 'The server failed' }, /The server failed/, 'Try now'],
  ])('with %i says why and what to do, and is not retried without end', async (status, problem, words, choice) => {
    const { id, page, context } = await opened();
    let requests = 0;
    await page.route('**/draft', (route) => {
      requests++;
      return route.fulfill({ status, contentType: 'application/problem+json', body: JSON.stringify({ ...problem, status }) });
    });
    await type(page, '161');
    await isAt(page, 'refused');
    await trouble(page).getByText(words).waitFor();
    await trouble(page).getByText('kept in this browser').waitFor();
    await page.getByRole('alert').getByRole('button', { name: choice }).waitFor();
    expect(requests).toBe(1);
    await page.unroute('**/draft');
    await page.reload();
    await ready(page);
    expect(await walk(page).inputValue()).toBe('161');
    await draftHas(id, 161);
    await context.close();
  });
});
