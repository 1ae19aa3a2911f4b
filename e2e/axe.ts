import AxeBuilder from '@axe-core/playwright';
import type { Page } from 'playwright-core';

/**
 * Lists the accessibility violations of a page in both themes, by axe's rules and that of the minimum target size: each rule with the places
 * that break it. There are no frames in the application, so nothing has to be gathered from them in a page of its own, which takes longer than
 * the rest.
 */
export async function violationsOf(page: Page): Promise<string[]> {
  const found: string[] = [];
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme });
    found.push(...(await violationsNow(page)).map((violation) => `${colorScheme}: ${violation}`));
  }
  return found;
}

async function violationsNow(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page: page as never })
    .setLegacyMode(true)
    .options({ rules: { 'target-size': { enabled: true } }, resultTypes: ['violations'] })
    .analyze();
  return violations.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.target.join(' ')).join(', ')}`);
}
