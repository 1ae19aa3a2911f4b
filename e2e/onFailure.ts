import { afterEach } from 'vitest';
import { opened } from './browser.ts';

/** Adds the page's content to a failure: a fault that occurs once in a hundred runs is seldom seen again. */
afterEach(async ({ task }) => {
  for (const { page, faults } of opened) {
    const error = task.result?.errors?.[0];
    if (error) {
      const shown = await page
        .locator('body')
        .ariaSnapshot({ timeout: 10_000 })
        .catch((why) => `- alert: ${why}`);
      const relevant = shown.split('\n').filter((line) => /- (alert|button|dialog|heading|link|paragraph|status)/.test(line));
      error.message += `\n\n${page.url()} showed:\n${relevant.join('\n')}\nErrors of the page: ${faults.join('\n') || 'none'}`;
    }
    await page
      .context()
      .close()
      .catch(() => undefined);
  }
  opened.clear();
});
