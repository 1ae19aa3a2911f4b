import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { violationsOf } from './axe.ts';
import { createProject, enter, field, openBrowser, openPage, overflowOf, place, ready, until } from './browser.ts';

const address = inject('address');
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

const schemes = ['Steer', 'Click to go', 'Grid steps', 'Hold course', 'Turn and drive'];

describe('an empty project', () => {
  it('begins on every screen: with a scheme, with numbers from code, or with files', async () => {
    const project = await createProject(address, 'Nothing yet');
    for (const screen of ['bench', 'compare', 'drills', 'handoff', 'grounds', 'shelf']) {
      const path = screen === 'shelf' ? `/shelf/${project}` : `/${screen}?project=${project}`;
      const { page, faults } = await openPage(browser, `${address}${path}`, {});
      await page.getByText('How is your character moved?').waitFor();
      for (const title of schemes) expect(await page.getByRole('button', { name: new RegExp(`^${title}`) }).count(), screen).toBe(1);
      await page.getByRole('button', { name: 'Paste numbers from code' }).waitFor();
      expect(await violationsOf(page), screen).toEqual([]);
      expect(await overflowOf(page), screen).toEqual([0, 0, 0, 0]);
      // Every link leads to this project, and back.
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
    const project = await createProject(address, `For ${title}`);
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

  it('has a bench that drives a tuning of defaults at once, and saves it as a draft once a number is changed', async () => {
    const project = await createProject(address, 'Just driven');
    const { page, faults } = await openPage(browser, `${address}/bench?project=${project}`, {});
    await ready(page);
    const before = await place(page);
    await page.keyboard.down('KeyD');
    await until(
      () => place(page),
      ({ x }) => x > before.x + 40,
      'it moves',
    );
    await page.keyboard.up('KeyD');
    const listed = async (collection: string) =>
      ((await (await fetch(`${address}/api/v1/${collection}?project=${project}`)).json()) as { items: { id: string; head: number }[] })
        .items;
    // Driving leaves nothing behind.
    expect([await listed('tunings'), await listed('grounds')]).toEqual([[], []]);
    expect(await page.getByText('not saved yet').count()).toBe(1);
    await enter(page, 'pace', /^Walk/, '155');
    await page.getByText('draft saved').waitFor();
    const [tuning] = await listed('tunings');
    expect([tuning?.head, (await listed('grounds')).length]).toEqual([1, 1]);
    expect(page.url()).toContain(`/bench/${tuning?.id}`);
    await page.getByText('How is your character moved?').waitFor({ state: 'detached' });
    await page.reload();
    await ready(page);
    await page.getByText('rev 1 + 1 change').waitFor();
    expect(await field(page, 'pace', /^Walk/).inputValue()).toMatch(/^155/);
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('that is not there is said to be none', async () => {
    const answer = await fetch(`${address}/bench?project=00000000-0000-4000-8000-000000000000`);
    expect(answer.status).toBe(404);
    expect(await answer.text()).toContain('There is no such project.');
  });
});
