import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { violationsOf } from './axe.ts';
import { makeProject, openBrowser, openPage, overflowOf, ready } from './browser.ts';

const address = inject('address');
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

const schemes = ['Steer', 'Click to go', 'Grid steps', 'Hold course', 'Turn and drive'];

describe('an empty project', () => {
  it('begins on every screen: with a scheme, with numbers from code, or with files', async () => {
    const project = await makeProject(address, 'Nothing yet');
    for (const screen of ['bench', 'compare', 'drills', 'handoff', 'grounds', 'shelf']) {
      const path = screen === 'shelf' ? `/shelf/${project}` : `/${screen}?project=${project}`;
      const { page, faults } = await openPage(browser, `${address}${path}`, {});
      await page.getByText('How is your character moved?').waitFor();
      for (const title of schemes) expect(await page.getByRole('button', { name: new RegExp(`^${title}`) }).count(), screen).toBe(1);
      await page.getByRole('button', { name: 'Paste numbers from code' }).waitFor();
      expect(await violationsOf(page), screen).toEqual([]);
      expect(await overflowOf(page), screen).toEqual([0, 0, 0, 0]);
      // Every way on leads to this project, and back.
      const links = await page
        .getByRole('navigation', { name: 'Screens' })
        .getByRole('link')
        .evaluateAll((all) => all.slice(1).map((one) => one.getAttribute('href')));
      for (const link of links) expect(link).toContain(project);
      expect(faults).toEqual([]);
      await page.context().close();
    }
  });

  it.each(schemes)('has its first tuning with one click: %s, and it can be driven at once', async (title) => {
    const project = await makeProject(address, `For ${title}`);
    const { page, faults } = await openPage(browser, `${address}/bench?project=${project}`, {});
    await page.getByRole('button', { name: new RegExp(`^${title}`) }).click();
    await page.waitForURL(/\/bench\//);
    await ready(page);
    await page.getByRole('button', { name: `Tuning: New tuning, ${title.toLowerCase()}` }).waitFor();
    await page.getByRole('button', { name: 'Ground: Yard' }).waitFor();
    const { items } = (await (await fetch(`${address}/api/v1/tunings?project=${project}`)).json()) as { items: { id: string }[] };
    const { file } = (await (await fetch(`${address}/api/v1/tunings/${items[0]?.id}`)).json()) as {
      file: { scheme?: string; route?: { enabled?: boolean } };
    };
    const wanted = { Steer: 'steer', 'Click to go': 'steer', 'Grid steps': 'step', 'Hold course': 'latch', 'Turn and drive': 'turn' }[
      title
    ];
    expect([file.scheme ?? 'steer', file.route?.enabled ?? false]).toEqual([wanted, title === 'Click to go']);
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('that is not there is said to be none', async () => {
    const answer = await fetch(`${address}/bench?project=00000000-0000-4000-8000-000000000000`);
    expect(answer.status).toBe(404);
    expect(await answer.text()).toContain('There is no such project.');
  });
});
