import { readFileSync } from 'node:fs';
import { strFromU8, unzipSync } from 'fflate';
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { violationsOf } from './axe.ts';
import { createDocument, createProject, openBrowser, openPage, overflowOf } from './browser.ts';

const address = inject('address');
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

const tuning = (walkSpeed: number) => ({ format: 'zygopod/tuning', version: 2, name: 'Handed', pace: { walkSpeed } });

/** The formula of an id as the browser's accessibility tree has it: its fractions, and its words in their order. */
async function spoken(page: Page, id: string): Promise<{ fractions: number; words: string[] }> {
  const session = await page.context().newCDPSession(page);
  const { result } = await session.send('Runtime.evaluate', { expression: `document.querySelector('[data-formula=${id}] math')` });
  const { nodes } = await session.send('Accessibility.queryAXTree', { objectId: result.objectId as string });
  const words = nodes.filter(({ role }) => role?.value === 'StaticText').map(({ name }) => String(name?.value).trim());
  await session.detach();
  return { fractions: nodes.filter(({ role }) => role?.value === 'MathMLFraction').length, words: words.filter(Boolean) };
}

describe('the Hand-off', () => {
  it('gives constants in the game’s units and names, and the next one lists only the differences', async () => {
    const project = await createProject(address, `Handed ${Date.now()}`);
    const answer = await fetch(`${address}/api/v1/tunings?project=${project}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ file: tuning(160) }),
    });
    const { id } = (await answer.json()) as { id: string };
    const { page, faults } = await openPage(browser, `${address}/handoff/${id}`, {});
    const text = page.getByTestId('file-text');
    await text.getByText(/#define WALK_SPEED +160\.0/).waitFor();
    await page.getByText('not handed over yet').waitFor();
    // In tiles, and in Lua.
    await page.getByRole('radio', { name: /^Lua/ }).check();
    await page.getByRole('combobox', { name: 'Unit of length' }).selectOption('tiles');
    await page.getByRole('spinbutton', { name: 'Pixels per tile' }).fill('16');
    await text.getByText(/walk_speed += +10, {2}-- tiles\/s/).waitFor();
    // By the game's own name, which the project keeps.
    await page.getByRole('button', { name: 'change', exact: true }).click();
    await page.getByRole('searchbox', { name: 'Find a parameter' }).fill('pace.walkSpeed');
    await page.getByRole('textbox', { name: 'Name of pace.walkSpeed' }).fill('amble');
    await page.getByRole('button', { name: 'Save names' }).click();
    await text.getByText(/amble += +10,/).waitFor();
    expect((await (await fetch(`${address}/api/v1/projects/${project}`)).json()) as object).toMatchObject({
      names: { 'pace.walkSpeed': 'amble' },
    });
    // A place in the project's folder has to be below it.
    const place = page.getByRole('textbox', { name: 'Path in the folder' });
    await place.fill('../motion.lua');
    await page.getByRole('alert').getByText('expected a place below the folder').waitFor();
    expect(await page.getByRole('button', { name: 'Save', exact: true }).isDisabled()).toBe(true);
    await place.fill('src/motion.lua');
    await page.getByRole('textbox', { name: 'What it is for' }).fill('build 88');
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save', exact: true }).click()]);
    expect(file.suggestedFilename()).toBe('handed.lua');
    expect(readFileSync(await file.path(), 'utf8')).toMatch(/^-- Handed, rev 1\. Units: tiles:16, second, degree\.\nreturn \{\n/);
    await page.getByText('as handed over with rev 1 (build 88)').waitFor();
    expect(await (await fetch(`${address}/api/v1/projects/${project}/handoffs`)).json()).toMatchObject({
      items: [{ path: 'src/motion.lua', to: 'lua', label: 'build 88' }],
    });
    // Another revision: the next hand-off lists only the difference.
    await fetch(`${address}/api/v1/tunings/${id}/revisions`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'if-match': '"1"' },
      body: JSON.stringify({ file: { ...tuning(160), ramp: { decelerate: 800 } } }),
    });
    await page.getByText('since rev 1 (build 88): 1 number').waitFor();
    await page.locator('[data-changed=decelerate]').getByText('75 → 50').waitFor();
    await page.reload();
    await text.getByText(/amble += +10,/).waitFor();
    expect(await place.inputValue()).toBe('src/motion.lua');
    await page
      .getByRole('region', { name: 'Hand-offs' })
      .getByRole('button', { name: /build 88/ })
      .click();
    await page.getByRole('region', { name: 'Hand-offs' }).getByText('amble').waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('gives the motion as code, which follows a change at once, with a second file for walls', async () => {
    const id = await createDocument(address, 'tunings', { ...tuning(137), name: 'Coded' });
    const { page, faults } = await openPage(browser, `${address}/handoff/${id}`, {});
    await page.getByRole('radio', { name: 'Motion code' }).check();
    const text = page.getByTestId('file-text');
    await text.getByText('/* The motion of Coded, made by Zygopod.').waitFor();
    expect(await text.textContent()).toContain('137.0');
    expect(new URL(page.url()).search).toBe('?part=motion');
    await page.getByRole('radio', { name: 'Python' }).check();
    await text.getByText('def motion_tick(b, h, contact=motion_free):').waitFor();
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save', exact: true }).click()]);
    expect(file.suggestedFilename()).toBe('coded-motion.py');
    expect(readFileSync(await file.path(), 'utf8')).toBe(await text.textContent());
    // A revision that is saved elsewhere is in the code, and what it asks of the game.
    const save = (head: number, change: object) =>
      fetch(`${address}/api/v1/tunings/${id}/revisions`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'if-match': `"${head}"` },
        body: JSON.stringify({ file: { ...tuning(211), name: 'Coded', ...change } }),
      });
    await save(1, {});
    await text.getByText('211.0').waitFor();
    await save(2, { route: { enabled: true } });
    await text.getByText('def motion_tick(b, h, contact=motion_free, is_clear=lambda *_: True, plan=motion_straight):').waitFor();
    // What holds it among walls is a file of its own, as long as it meets any.
    await page.getByRole('radio', { name: 'Walls' }).check();
    await text.getByText('Walls for the motion of Coded').waitFor();
    expect(await page.getByTestId('file-name').textContent()).toBe('coded-walls.py');
    await save(3, { contact: { response: 'none' } });
    await page.getByText('This tuning ignores walls').waitFor();
    expect(await page.getByRole('radio', { name: 'Walls' }).isDisabled()).toBe(true);
    expect(await page.getByTestId('file-name').textContent()).toBe('coded-motion.py');
    // A link leads to the same part.
    await page.reload();
    await text.getByText('def motion_tick(b, h):').waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('shows the formulas with the tuning’s numbers, as mathematics and as Markdown', async () => {
    const id = await createDocument(address, 'tunings', { ...tuning(140), name: 'Reckoned', ramp: { model: 'linear', accelerate: 900 } });
    const { page, faults } = await openPage(browser, `${address}/handoff/${id}?part=formulas`, {});
    const rise = page.locator('[data-formula=riseTime] math');
    await rise.waitFor();
    // Drawn as a fraction: what stands over the line is above what stands under it.
    const heights = await rise
      .locator('mfrac')
      .first()
      .evaluate((fraction) => [...fraction.children].map((part) => part.getBoundingClientRect().top));
    expect(heights[0]).toBeLessThan(heights[1] as number);
    expect((await rise.textContent())?.replaceAll(/\s/g, '')).toBe('reachesspeedafter=0.99·walkaccelerate=0.99·140px/s900px/s²=0.154s');
    // What a screen reader is given: a fraction as a fraction, and what is in it word by word, in the order in which it is said.
    const { fractions, words } = await spoken(page, 'riseTime');
    expect(fractions).toBe(await rise.locator('mfrac').count());
    expect(words.join(' ')).toMatch(/^reaches speed after = 0\.99 · walk accelerate = 0\.99 · 140 px\/s 900 px\/s² = 0\.154 s$/);
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save', exact: true }).click()]);
    expect(file.suggestedFilename()).toBe('reckoned-formulas.md');
    expect(readFileSync(await file.path(), 'utf8')).toContain(
      '- reaches speed after = 0.99 · walk / accelerate = 0.99 · 140 px/s / 900 px/s² = **0.154 s**',
    );
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('gives a folder for a build server: goldens of the tapes that are chosen, and a test for each language', async () => {
    const created = await fetch(`${address}/api/v1/projects`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: `Checked ${Date.now()}` }),
    });
    const { id: project } = (await created.json()) as { id: string };
    const own = async (collection: string, file: object) => {
      const answer = await fetch(`${address}/api/v1/${collection}?project=${project}`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ file }),
      });
      return ((await answer.json()) as { id: string }).id;
    };
    const tape = (name: string) => ({ format: 'zygopod/tape', version: 2, name, hz: 60, ticks: 90, events: [{ at: 3, press: 'right' }] });
    const id = await own('tunings', { ...tuning(120), name: 'Checked' });
    await own('tapes', tape('To the right'));
    await own('tapes', tape('Again'));
    const { page, faults } = await openPage(browser, `${address}/handoff/${id}?part=checks`, {});
    const files = page.getByRole('navigation', { name: 'Files of the folder' });
    await files.getByRole('button', { name: 'goldens/to-the-right.csv' }).click();
    await page.getByTestId('file-text').getByText('start,held0,').waitFor();
    await page.getByRole('checkbox', { name: 'Again' }).uncheck();
    await files.getByRole('button', { name: 'goldens/again.csv' }).waitFor({ state: 'detached' });
    const [zip] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save all as ZIP' }).click()]);
    expect(zip.suggestedFilename()).toBe('checked-checks.zip');
    const inside = unzipSync(readFileSync(await zip.path()));
    expect(Object.keys(inside)).toEqual(
      expect.arrayContaining(
        ['README.md', 'motion.c', 'check.lua', 'check.rs', 'check.cs', 'goldens/to-the-right.csv'].map((name) => `checked-checks/${name}`),
      ),
    );
    const golden = strFromU8(inside['checked-checks/goldens/to-the-right.csv'] as Uint8Array)
      .trim()
      .split('\n');
    expect(golden).toHaveLength(91);
    // At the end it goes at its full speed.
    const names = (golden[0] as string).split(',');
    expect(Number((golden.at(-1) as string).split(',')[names.indexOf('is_vx')])).toBe(120);
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('has no accessibility violations in any of its parts, and fits both sizes', async () => {
    const { page } = await openPage(browser, `${address}/handoff`, {});
    for (const part of ['constants', 'motion', 'formulas', 'checks']) {
      if (part !== 'constants') await page.goto(`${address}/handoff?part=${part}`);
      await page
        .getByTestId(part === 'formulas' ? 'formulas' : 'file-text')
        .filter({ hasNotText: 'Being made' })
        .waitFor();
      expect(await violationsOf(page), part).toEqual([]);
      expect(await overflowOf(page), part).toEqual([0, 0, 0, 0]);
    }
    await page.context().close();
  });

  it('says what cannot be a name before anything is written', async () => {
    const id = await createDocument(address, 'tunings', { ...tuning(90), name: 'Clash' });
    const { page, faults } = await openPage(browser, `${address}/handoff/${id}`, {});
    await page.getByTestId('file-text').waitFor();
    const { project } = (await (await fetch(`${address}/api/v1/tunings/${id}`)).json()) as { project: string };
    const name = async (names: object) => {
      await fetch(`${address}/api/v1/projects/${project}`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ names }),
      });
      await page.reload();
    };
    await name({ 'pace.walkSpeed': 'while' });
    await page.getByRole('alert').getByText('while is a reserved word of C').waitFor();
    expect(await page.getByRole('button', { name: 'Save', exact: true }).isDisabled()).toBe(true);
    await name({});
    await page.getByTestId('file-text').waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });
});
