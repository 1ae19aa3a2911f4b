import type { Browser, BrowserContextOptions, Page } from 'playwright-core';

import { openBrowser as launch } from '../cli/src/siege/browser.ts';

/** Milliseconds that a page is waited for: a busy machine takes many times as long as a quiet one. */
const PATIENCE = 120_000;

/** The browser of this worker: its files share one, each context is a visitor of its own. */
let shared: Promise<Browser> | undefined;

/** Opens the browser, whose pages are waited for. Closed by a file, it loses its contexts and stays for the next file. */
export function openBrowser(): Promise<Browser> {
  shared ??= launch().then((browser) => {
    const open = browser.newContext.bind(browser);
    browser.newContext = async (options) => {
      const context = await open(options);
      context.setDefaultTimeout(PATIENCE);
      return context;
    };
    browser.close = async () => {
      await Promise.all(browser.contexts().map((context) => context.close()));
    };
    return browser;
  });
  return shared;
}

/** A tuning of its own for a test: a copy of the demo's main one. */
async function freshTuning(address: string): Promise<string> {
  const { headers } = await fetch(address, { redirect: 'manual' });
  const main = headers.get('location')?.split('/').at(-1);
  const { file } = (await (await fetch(`${address}/api/v1/tunings/${main}`)).json()) as { file: object };
  return createDocument(address, 'tunings', file);
}

interface Opened {
  page: Page;
  faults: string[];
}

/** The pages that `openPage` opened and nobody closed; a test that fails says what they show. */
export const opened = new Set<Opened>();

/** A page of 1280 × 800 at a path; errors of the page end up in `faults`. */
export async function openPage(browser: Browser, url: string, options: BrowserContextOptions): Promise<Opened> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, ...options });
  const page = await context.newPage();
  const faults: string[] = [];
  page.on('pageerror', (error) => faults.push(String(error)));
  page.on('console', (message) => {
    // A failed request names its address in its location only.
    if (message.type() === 'error') faults.push(`${message.text()} (${message.location().url})`);
  });
  const one = { page, faults };
  opened.add(one);
  page.on('close', () => opened.delete(one));
  await page.goto(url);
  return one;
}

/** The bench with a tuning of its own, ready to be driven, on the Boardwalk or on another ground. */
export async function openBench(browser: Browser, address: string, options: BrowserContextOptions = {}, ground?: string): Promise<Opened> {
  const on = ground ? `?ground=${ground}` : '';
  const bench = await openPage(browser, `${address}/bench/${await freshTuning(address)}${on}`, options);
  await ready(bench.page);
  return bench;
}

/** Makes a project with nothing in it; returns its id. */
export async function createProject(address: string, name: string): Promise<string> {
  const created = await fetch(`${address}/api/v1/projects`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name }),
  });
  if (!created.ok) throw new Error(await created.text());
  return ((await created.json()) as { id: string }).id;
}

/** By how many pixels a page is larger than its window, across and down, at 1280 × 800 and at 1024 × 700. */
export async function overflowOf(page: Page): Promise<number[]> {
  const over: number[] = [];
  for (const [width, height] of [
    [1280, 800],
    [1024, 700],
  ] as const) {
    await page.setViewportSize({ width, height });
    over.push(
      ...(await page.evaluate(() => [
        document.documentElement.scrollWidth - innerWidth,
        document.documentElement.scrollHeight - innerHeight,
      ])),
    );
  }
  return over;
}

/** Makes a document from a file, in the first project or in another one; gives its id. */
export async function createDocument(
  address: string,
  collection: 'grounds' | 'tunings' | 'tapes' | 'targets',
  file: object,
  project?: string,
): Promise<string> {
  const created = await fetch(`${address}/api/v1/${collection}${project ? `?project=${project}` : ''}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ file }),
  });
  if (!created.ok) throw new Error(await created.text());
  return ((await created.json()) as { id: string }).id;
}

/** An empty ground of 640 × 384 with whatever is put on it. */
export function groundFile(over: object = {}): object {
  return {
    format: 'zygopod/ground',
    version: 1,
    name: 'Test ground',
    size: { width: 640, height: 384 },
    start: { x: 80, y: 80, facing: 0 },
    ...over,
  };
}

/** The Grounds screen with a ground of its own, surveyed. */
export async function openGround(
  browser: Browser,
  address: string,
  over: object = {},
  options: BrowserContextOptions = {},
): Promise<Opened & { id: string }> {
  const id = await createDocument(address, 'grounds', groundFile(over));
  const editor = await openPage(browser, `${address}/grounds/${id}`, options);
  await editor.page.locator('[data-testid=findings][data-fresh=true]').waitFor();
  return { ...editor, id };
}

/** Waits until the bench has drawn its first frame. */
export async function ready(page: Page): Promise<void> {
  await page.locator('[data-testid=now-at]:not(:empty)').waitFor();
}

/** The number in an element with a test id; NaN while there is none. */
export async function reading(page: Page, testId: string): Promise<number> {
  return Number.parseFloat(((await page.getByTestId(testId).textContent()) ?? '').replace(/[^\d.,-]/g, ' '));
}

/** Where the character is, by the panel. */
export async function place(page: Page): Promise<{ x: number; y: number }> {
  const [x, y] = ((await page.getByTestId('now-at').textContent()) ?? '').split(',').map(Number) as [number, number];
  return { x, y };
}

/** Waits until `look` gives what `is` wants, looking every few milliseconds. */
export async function until<T>(look: () => Promise<T>, is: (value: T) => boolean, what: string): Promise<T> {
  const end = Date.now() + PATIENCE;
  for (;;) {
    const value = await look();
    if (is(value)) return value;
    if (Date.now() > end) throw new Error(`waited for ${what}; last seen: ${JSON.stringify(value)}`);
    await new Promise((next) => setTimeout(next, 15));
  }
}

/** The ground as the server has it once the draft has come there. */
export async function keptGround(
  page: Page,
  id: string,
): Promise<{
  walls: { points: number[][]; closed: boolean }[];
  cells: string[];
  course?: { gates: object[]; laps: number };
  [key: string]: unknown;
}> {
  await until(
    () => page.getByTestId('save-state').getAttribute('data-state'),
    (state) => state === 'draft',
    'the draft',
  );
  return ((await (await fetch(`${new URL(page.url()).origin}/api/v1/grounds/${id}/draft`)).json()) as { file: never }).file;
}

/** The number of marks on the strip for an event. */
export const happened = (page: Page, name: string) => page.locator(`[data-testid=events] [data-event~=${name}]`).count();

/** Opens a figure with all its rows, works on it, and closes it again: what it covers is free then. */
export async function inFigure<T>(page: Page, figure: string, work: () => Promise<T>): Promise<T> {
  const all = page.locator(`#figure-${figure} [data-all]`);
  const wasOpen = (await all.getAttribute('aria-expanded')) === 'true';
  if (!wasOpen) await all.click();
  const result = await work();
  if (!wasOpen) await all.click();
  await all.blur();
  return result;
}

/** A row of a figure with options, by the beginning of its name: a changed one says what it was behind it. */
const choice = (page: Page, figure: string, name: string) =>
  page.locator(`#figure-${figure}`).getByRole('combobox', { name: new RegExp(`^${name.replace(/[()]/g, '\\$&')}`) });

/** Chooses an option in a row of a figure. */
export const choose = (page: Page, figure: string, name: string, option: string) =>
  inFigure(page, figure, () => choice(page, figure, name).selectOption(option));

/** A row of a figure with a number. */
export const field = (page: Page, figure: string, name: RegExp) => page.locator(`#figure-${figure}`).getByRole('textbox', { name });

/** Types a number into a row of a figure and leaves the field. */
export const enter = (page: Page, figure: string, name: RegExp, text: string) =>
  inFigure(page, figure, async () => {
    await field(page, figure, name).fill(text);
    await field(page, figure, name).press('Enter');
    await field(page, figure, name).blur();
  });

/** Shows or hides a layer of the yard. */
export async function layer(page: Page, name: string, isOn: boolean): Promise<void> {
  await page.getByRole('button', { name: /^Layers/ }).click();
  await page.getByRole('checkbox', { name, exact: true }).setChecked(isOn);
  await page.keyboard.press('Escape');
}

/** Sets one of the yard's views, and returns the places of its points on the page. */
export async function seenAs(
  page: Page,
  mode: 'Whole' | 'Follow' | 'Free',
  canvas = 'yard',
): Promise<(x: number, y: number) => [number, number]> {
  await page.getByRole('button', { name: /^(Whole|Follow|Free)$/ }).click();
  await page.getByRole('radio', { name: mode }).check();
  await page.keyboard.press('Escape');
  return placesOn(page, canvas);
}

/** Where points of the ground are on the page, as it is seen now. */
export async function placesOn(page: Page, canvas = 'yard'): Promise<(x: number, y: number) => [number, number]> {
  // A view that was just chosen is there with the next frame.
  await page.evaluate(() => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn))));
  const box = await page.getByTestId(canvas).boundingBox();
  const view = await page.getByTestId(canvas).getAttribute('data-view');
  if (!box || !view) throw new Error(`there is no ${canvas}`);
  const [scale, left, top] = view.split(' ').map(Number) as [number, number, number];
  return (x, y) => [box.x + (x - left) * scale, box.y + (y - top) * scale];
}
