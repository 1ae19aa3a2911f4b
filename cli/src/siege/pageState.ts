import type { BrowserContext, Page } from 'playwright-core';

/** State of unsent work, as a page shows it. */
interface Notices {
  texts: string[];
  isPressed: boolean;
}

/** Runs on the page. */
function press(): Notices {
  const alerts = [...document.querySelectorAll<HTMLElement>('[role="alert"]')];
  const texts = alerts.map(({ innerText }) => innerText);
  const choice = alerts
    .flatMap((alert) => [...alert.querySelectorAll('button')])
    .find(({ innerText }) => /^(Try now|Keep both|Use the kept)/.test(innerText));
  choice?.click();
  return { texts, isPressed: choice !== undefined };
}

/** Returns the texts of a page's notices, and clicks the button that sends, merges or uses unsent work, in one go. */
export const useNotices = (page: Page): Promise<Notices> => page.evaluate(press).catch(() => ({ texts: [], isPressed: false }));

/** Uses up the browser's storage for the origin of a page, or frees it. */
export async function fillStorage(context: BrowserContext, page: Page, origin: string, isFull: boolean): Promise<void> {
  const session = await context.newCDPSession(page);
  await session.send('Storage.overrideQuotaForOrigin', { origin, ...(isFull && { quotaSize: 1 }) });
  await session.detach();
  await page.evaluate((fill) => {
    for (const key of Object.keys(localStorage)) if (key.startsWith('fill')) localStorage.removeItem(key);
    for (let size = 1 << 20; fill && size > 1; size >>= 1)
      for (let i = 0; ; i++)
        try {
          localStorage.setItem(`fill ${size} ${i}`, 'x'.repeat(size));
        } catch {
          break;
        }
  }, isFull);
}
