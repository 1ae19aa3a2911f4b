import { type Browser, type BrowserContextOptions, chromium, type Page } from 'playwright-core';

const flags = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

/** Debian's Chromium, without a window and without a profile. */
export function openBrowser(): Promise<Browser> {
  return chromium.launch({ executablePath: '/usr/bin/chromium', args: flags });
}

/** A tuning of its own for a test: a copy of the demo's main one. */
async function freshTuning(address: string): Promise<string> {
  const listed = (await (await fetch(`${address}/api/v1/tunings?limit=200`)).json()) as {
    items: { id: string; name: string; demo: string | null }[];
  };
  const main = listed.items.find(({ demo }) => demo === 'carrier-day-boots.tuning.json');
  const { file } = (await (await fetch(`${address}/api/v1/tunings/${main?.id}`)).json()) as { file: unknown };
  const made = await fetch(`${address}/api/v1/tunings`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ file }),
  });
  return ((await made.json()) as { id: string }).id;
}

/** A page of 1280 × 800 on the bench with a tuning of its own, ready to be driven; errors of the page end up in `faults`. */
export async function openBench(
  browser: Browser,
  address: string,
  options: BrowserContextOptions = {},
): Promise<{ page: Page; faults: string[] }> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, ...options });
  const page = await context.newPage();
  const faults: string[] = [];
  page.on('pageerror', (error) => faults.push(String(error)));
  page.on('console', (message) => {
    if (message.type() === 'error') faults.push(message.text());
  });
  await page.goto(`${address}/bench/${await freshTuning(address)}`);
  await ready(page);
  return { page, faults };
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
  const end = Date.now() + 10_000;
  for (;;) {
    const value = await look();
    if (is(value)) return value;
    if (Date.now() > end) throw new Error(`waited for ${what}; last seen: ${JSON.stringify(value)}`);
    await new Promise((next) => setTimeout(next, 15));
  }
}
