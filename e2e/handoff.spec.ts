import { readFileSync } from 'node:fs';
import AxeBuilder from '@axe-core/playwright';
import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { makeDocument, openBrowser, openPage, until } from './browser.ts';

const address = inject('address');
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

const tuning = (walkSpeed: number) => ({ format: 'zygopod/tuning', version: 2, name: 'Handed', pace: { walkSpeed } });

describe('the Hand-off', () => {
  it('gives constants in the game’s units and names, and the next one tells what alone differs', async () => {
    const made = await fetch(`${address}/api/v1/projects`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: `Handed ${Date.now()}` }),
    });
    const { id: project } = (await made.json()) as { id: string };
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
    await page.getByRole('spinbutton', { name: 'Pixels of a tile' }).fill('16');
    await text.getByText(/walk_speed += +10, {2}-- tiles\/s/).waitFor();
    // By the game's own name, which the project keeps.
    await page.getByRole('button', { name: 'change', exact: true }).click();
    await page.getByRole('searchbox', { name: 'Find a parameter' }).fill('pace.walkSpeed');
    await page.getByRole('textbox', { name: 'Name of pace.walkSpeed' }).fill('amble');
    await page.getByRole('button', { name: 'Keep these names' }).click();
    await text.getByText(/amble += +10,/).waitFor();
    expect((await (await fetch(`${address}/api/v1/projects/${project}`)).json()) as object).toMatchObject({
      names: { 'pace.walkSpeed': 'amble' },
    });
    await page.getByRole('textbox', { name: 'What it is for' }).fill('build 88');
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save', exact: true }).click()]);
    expect(file.suggestedFilename()).toBe('handed.lua');
    expect(readFileSync(await file.path(), 'utf8')).toMatch(/^-- Handed, rev 1\. Units: tiles:16, second, degree\.\nreturn \{\n/);
    await page.getByText('as handed over with rev 1 (build 88)').waitFor();
    // Another revision: the next hand-off tells just the difference.
    await fetch(`${address}/api/v1/tunings/${id}/revisions`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'if-match': '"1"' },
      body: JSON.stringify({ file: { ...tuning(160), ramp: { decelerate: 800 } } }),
    });
    await page.getByText('since rev 1 (build 88): 1 number').waitFor();
    await page.locator('[data-changed=decelerate]').getByText('75 → 50').waitFor();
    await page.reload();
    await text.getByText(/amble += +10,/).waitFor();
    await page
      .getByRole('region', { name: 'Hand-offs' })
      .getByRole('button', { name: /build 88/ })
      .click();
    await page.getByRole('region', { name: 'Hand-offs' }).getByText('amble').waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('says what cannot be a name before anything is written', async () => {
    const id = await makeDocument(address, 'tunings', { ...tuning(90), name: 'Clash' });
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
    await page.getByRole('alert').getByText('while is a word of C itself').waitFor();
    expect(await page.getByRole('button', { name: 'Save', exact: true }).isDisabled()).toBe(true);
    await name({});
    await page.getByTestId('file-text').waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it.each(['light', 'dark'] as const)('has no accessibility violations, and fits (%s)', async (colorScheme) => {
    const { page } = await openPage(browser, `${address}/handoff`, { colorScheme });
    await page.getByTestId('file-text').waitFor();
    const { violations } = await new AxeBuilder({ page: page as never }).options({ rules: { 'target-size': { enabled: true } } }).analyze();
    expect(violations.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.target.join(' ')).join(', ')}`)).toEqual([]);
    for (const viewport of [
      { width: 1280, height: 800 },
      { width: 1024, height: 700 },
    ]) {
      await page.setViewportSize(viewport);
      await until(
        () => page.evaluate(() => [document.documentElement.scrollWidth - innerWidth, document.documentElement.scrollHeight - innerHeight]),
        (over) => over.join() === '0,0',
        'no scrolling',
      );
    }
    await page.context().close();
  });
});
