import { readFileSync } from 'node:fs';
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { violationsOf } from './axe.ts';
import { createProject, openBrowser, openPage, overflowOf, ready, until } from './browser.ts';

const address = inject('address');
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

const code = `-- tiles, seconds; 16 px tiles
player = {
  walk_speed = 3.2,
  sprint_speed = 5.6, -- dash
  accel = 40,
  friction = 55,
  radius = 0.4,
  max_stamina = 60,
  drain = 12, regen = 8,
  hp = 3, -- hearts
}
`;

/** The dialog of a project's shelf with code pasted into it. */
async function pasted(project: string, text: string): Promise<{ page: Page; faults: string[] }> {
  const { page, faults } = await openPage(browser, `${address}/shelf/${project}`, {});
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write'], { origin: address });
  await page.getByRole('button', { name: 'Paste numbers from code' }).click();
  await page.getByRole('textbox', { name: 'Code or data with numbers' }).fill(text);
  return { page, faults };
}

async function generated(page: Page): Promise<string> {
  await page.getByRole('button', { name: 'Create tuning' }).click();
  await page.waitForURL(/\/bench\//);
  await ready(page);
  return page.url().split('/bench/')[1]?.split('?')[0] as string;
}

const copied = (page: Page) => page.evaluate(() => navigator.clipboard.readText());
const said = (page: Page, words: string) => page.getByTestId('in-code').getByText(words, { exact: true }).waitFor();

describe('a game’s own code', () => {
  it('is pasted, driven, changed and copied back with only its numbers changed', async () => {
    const project = await createProject(address, `In code ${Date.now()}`);
    const { page, faults } = await pasted(project, code);
    await page.getByRole('textbox', { name: 'Name of the file' }).fill('player.lua');
    const id = await generated(page);
    // On a yard of the game's tiles.
    const ground = (await (await fetch(`${address}/api/v1/grounds/${new URL(page.url()).searchParams.get('ground')}`)).json()) as {
      file: { cell: number };
    };
    expect(ground.file.cell).toBe(16);
    await page.keyboard.down('d');
    await page.locator('text=/^51\\.2$/').first().waitFor();
    await page.keyboard.up('d');
    const sprint = page.locator('#figure-pace').getByRole('textbox', { name: /^Sprint/ });
    await sprint.fill('94.4');
    await sprint.press('Enter');
    await page.locator('[data-testid=save-state][data-state=draft]').waitFor();
    await page.goto(`${address}/handoff/${id}`);
    // Where code is kept, it comes first.
    await said(page, '1 of 8 numbers changes, nothing else');
    expect(await page.getByRole('radio', { name: 'In your code' }).isChecked()).toBe(true);
    await page.getByTestId('effects').getByRole('listitem').first().waitFor();
    await page.getByRole('button', { name: 'Copy', exact: true }).click();
    await page.getByText('Copied').waitFor();
    expect(await copied(page)).toBe(code.replace('5.6', '5.9'));
    await page.getByRole('textbox', { name: 'What it is for' }).fill('build 91');
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save file' }).click()]);
    expect(file.suggestedFilename()).toBe('player.lua');
    expect(readFileSync(await file.path(), 'utf8')).toBe(code.replace('5.6', '5.9'));
    // Both are kept as hand-offs, and the constants still come as they did.
    await until(
      async () => ((await (await fetch(`${address}/api/v1/handoffs?tuning=${id}`)).json()) as { items: { to: string }[] }).items,
      (items) => items.length === 2 && items.every(({ to }) => to === 'source'),
      'two hand-offs',
    );
    await page.getByRole('radio', { name: 'Numbers' }).check();
    await page
      .getByTestId('file-text')
      .getByText(/#define WALK_SPEED/)
      .waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('gets lines for what it lacks, can be pasted again, linked and forgotten', async () => {
    const project = await createProject(address, `Lines ${Date.now()}`);
    const { page } = await pasted(project, code);
    const id = await generated(page);
    const { file } = (await (await fetch(`${address}/api/v1/tunings/${id}`)).json()) as { file: { ramp: object } };
    await fetch(`${address}/api/v1/tunings/${id}/revisions`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'if-match': '"1"' },
      body: JSON.stringify({ file: { ...file, ramp: { ...file.ramp, brake: 1200 } } }),
    });
    await page.goto(`${address}/handoff/${id}`);
    const brake = page.locator('[data-missing="ramp.brake"]');
    await brake.getByText('brake = 75,').waitFor();
    await brake.getByRole('button', { name: 'Add this line' }).click();
    await said(page, 'no number changes, 1 line added');
    await page.getByRole('button', { name: 'Copy', exact: true }).click();
    await page.getByText('Copied').waitFor();
    const withBrake = await copied(page);
    expect(withBrake.split('\n').filter((line) => line.trim() !== 'brake = 75,')).toEqual(code.split('\n'));
    expect(withBrake).toContain('brake = 75,');
    await brake.getByRole('button', { name: 'Not in my game' }).click();
    await page.getByText('Not in your game:').waitFor();
    await page.getByRole('button', { name: 'Brake', exact: true }).click();
    await brake.waitFor();
    // Changed by hand in the game meanwhile: pasted again, the tuning has it.
    await page.getByRole('button', { name: 'Paste it again' }).click();
    await page.getByRole('textbox', { name: 'Code or data with numbers' }).fill(code.replace('3.2', '3.5'));
    await page.getByRole('button', { name: 'Replace the code' }).click();
    await page.getByText('1 number was changed in your code').waitFor();
    await until(
      async () => ((await (await fetch(`${address}/api/v1/tunings/${id}/draft`)).json()) as { file?: { pace: object } }).file?.pace,
      (pace) => JSON.stringify(pace ?? '').includes('"walkSpeed":56'),
      'the tuning with the number',
    );
    await page.getByRole('textbox', { name: 'File to link' }).fill('../player.lua');
    await page.getByRole('alert').getByText('expected a place below the folder').waitFor();
    await page.getByRole('textbox', { name: 'File to link' }).fill('game/player.lua');
    await page.getByRole('button', { name: 'Link' }).click();
    await page.getByRole('button', { name: 'Unlink' }).waitFor();
    await page.getByRole('button', { name: 'Forget' }).click();
    await page.getByRole('button', { name: 'Paste your code' }).waitFor();
    await page.context().close();
  });

  it('remembers in its project what a name was chosen to be', async () => {
    const project = await createProject(address, `Names ${Date.now()}`);
    const odd = 'walk_speed = 140\noddity = 900\n';
    const first = await pasted(project, odd);
    await first.page.getByRole('combobox', { name: 'What oddity is' }).selectOption('ramp.accelerate');
    await generated(first.page);
    await first.page.context().close();
    const { page } = await pasted(project, odd.replace('900', '700'));
    await page.locator('[data-number=oddity][data-path="ramp.accelerate"]').waitFor();
    await page.getByText('known from this project').waitFor();
    await page.context().close();
  });

  it('has no accessibility violations on its screen, and fits the window', async () => {
    const { page } = await pasted(await createProject(address, `Axe ${Date.now()}`), code);
    const id = await generated(page);
    await page.goto(`${address}/handoff/${id}`);
    await page.getByTestId('difference').waitFor();
    expect(await violationsOf(page)).toEqual([]);
    expect(await overflowOf(page)).toEqual([0, 0, 0, 0]);
    await page.context().close();
  });
});
