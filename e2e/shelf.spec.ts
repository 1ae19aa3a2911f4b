import { readFileSync } from 'node:fs';
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { violationsOf } from './axe.ts';
import { createProject, keptGround, openBrowser, openPage, overflowOf, ready, until } from './browser.ts';

const address = inject('address');
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

const row = (page: Page, name: string) => page.locator(`li[data-doc="${name}"]`);
const api = async (path: string) =>
  (await (await fetch(`${address}/api/v1${path}`)).json()) as { items: { id: string; name: string; head: number }[] };

/** A project of its own, with nothing in it, and the page of its shelf. */
async function emptyShelf(name: string) {
  const id = await createProject(address, name);
  const { page, faults } = await openPage(browser, `${address}/shelf/${id}`, {});
  await page.getByText('How is your character moved?').waitFor();
  return { id, page, faults };
}
const inProject = (project: string, kind: string, file: object) =>
  fetch(`${address}/api/v1/${kind}?project=${project}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ file }),
  });
const tuning = (name: string, walkSpeed: number) => ({ format: 'zygopod/tuning', version: 2, name, pace: { walkSpeed } });

describe('a newcomer with an empty project', () => {
  it('pastes constants, drives, names, draws a ground, saves, duplicates, changes, compares and takes the file out', async () => {
    const { id, page, faults } = await emptyShelf(`Small game ${Date.now()}`);
    await page.getByRole('button', { name: 'Paste numbers from code' }).click();
    await page.getByRole('textbox', { name: 'Code or data with numbers' }).fill(
      `const float WALK_SPEED = 130f;
const float RUN_MULTIPLIER = 1.6f;
float acceleration = 800f, deceleration = 1000f;
float playerRadius = 10f;
float maxStamina = 90f, staminaDrain = 18f;
int jumpHeight = 40;`,
    );
    await until(
      async () => (await page.getByTestId('pasted').textContent()) ?? '',
      (words) => words === '7 placed, 0 guessed, 1 left in the note',
      'eight constants read',
    );
    await page.getByRole('textbox', { name: 'Name of the tuning' }).fill('Small hero');
    await page.getByRole('button', { name: 'Create tuning' }).click();
    await page.waitForURL(/\/bench\//);
    await ready(page);
    // Drives: it walks at the speed that was pasted.
    await page.keyboard.down('d');
    await page.locator('text=/^130\\.0$/').first().waitFor();
    await page.keyboard.up('d');
    const tuningId = page.url().split('/bench/')[1]?.split('?')[0] as string;
    // Renames it from the shelf, and makes a ground there by drawing.
    await page.goto(`${address}/shelf/${id}`);
    await row(page, 'Small hero').getByRole('button', { name: 'Rename' }).click();
    await page.getByRole('textbox', { name: 'Name' }).fill('Miller');
    await page.getByRole('dialog').getByRole('button', { name: 'Rename' }).click();
    await row(page, 'Miller').waitFor();
    await page.getByRole('button', { name: /^Grounds/ }).click();
    await page.getByRole('button', { name: 'New ground' }).click();
    await page.waitForURL(/\/grounds\//);
    await page.locator('[data-testid=findings][data-fresh=true]').waitFor();
    await page.keyboard.press('4');
    const sheet = await page.getByTestId('ground').boundingBox();
    if (!sheet) throw new Error('there is no sheet');
    await page.mouse.move(sheet.x + sheet.width / 2, sheet.y + sheet.height / 3);
    await page.mouse.down();
    await page.mouse.move(sheet.x + sheet.width / 1.6, sheet.y + sheet.height / 2, { steps: 5 });
    await page.mouse.up();
    const drawn = await keptGround(page, page.url().split('/grounds/')[1]?.split('?')[0] as string);
    expect(drawn.walls.length + drawn.cells.join('').replaceAll('.', '').length).toBeGreaterThan(0);
    // Duplicates, changes the copy, and compares two of its revisions.
    await page.goto(`${address}/shelf/${id}`);
    await row(page, 'Miller').getByRole('button', { name: 'Duplicate' }).click();
    await row(page, 'Miller, a copy').getByRole('button', { name: 'Open' }).click();
    await page.waitForURL(/\/bench\//);
    await ready(page);
    const walk = page.locator('#figure-pace').getByRole('textbox', { name: /^Walk/ });
    await walk.fill('170');
    await walk.press('Enter');
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Save revision' }).click();
    await page.getByRole('textbox', { name: 'Note (optional)' }).fill('Faster');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await page.getByRole('dialog').waitFor({ state: 'detached' });
    await page.goto(`${address}/shelf/${id}`);
    await row(page, 'Miller, a copy').waitFor();
    await row(page, 'Miller, a copy').getByRole('button', { name: 'Miller, a copy' }).click();
    const between = page.getByRole('region', { name: 'Between revisions' });
    await between.getByText('Between rev 1 and rev 2').waitFor();
    await between.getByText('130 → 170 px/s').waitFor();
    await between.getByRole('link', { name: 'Compare the two' }).click();
    await page.waitForURL(/\/compare\//);
    await page.getByText('What differs').waitFor();
    await page.goto(`${address}/shelf/${id}`);
    await row(page, 'Miller').getByRole('button', { name: 'Miller', exact: true }).click();
    const [file] = await Promise.all([page.waitForEvent('download'), row(page, 'Miller').getByRole('button', { name: 'Export' }).click()]);
    expect(file.suggestedFilename()).toBe('miller.tuning.json');
    expect(JSON.parse(readFileSync(await file.path(), 'utf8'))).toMatchObject({
      name: 'Miller',
      pace: { walkSpeed: 130, sprintSpeed: { of: 'pace.walkSpeed', times: 1.6 } },
      stamina: { max: 90, drain: 18 },
    });
    // What could not be placed is in the note.
    const history = (await api(`/tunings/${tuningId}/revisions`)) as unknown as { items: { note: string }[] };
    expect(history.items.at(-1)?.note).toContain('jumpHeight = 40 (line 6)');
    expect(faults).toEqual([]);
    await page.context().close();
  });
});

describe('the shelf', () => {
  it('shows pictures, numbers and standing, finds by name and by number, and keeps that in its address', async () => {
    const { id, page, faults } = await emptyShelf(`Found ${Date.now()}`);
    for (const [name, speed] of [
      ['Otter', 90],
      ['Heron', 160],
      ['Heron chick', 40],
    ] as const)
      await inProject(id, 'tunings', tuning(name, speed));
    await page.reload();
    await row(page, 'Otter').getByTestId('picture').waitFor();
    await row(page, 'Otter').getByText('walk 90').waitFor();
    await row(page, 'Otter').getByTestId('standing').waitFor();
    const find = page.getByRole('searchbox');
    await find.fill('walk > 80');
    await until(
      () => page.locator('li[data-doc]').count(),
      (count) => count === 2,
      'those that walk faster than 80',
    );
    await find.fill('heron, walk < 100');
    await until(
      () => page.locator('li[data-doc]').allTextContents(),
      (all) => all.length === 1 && all[0]?.includes('Heron chick') === true,
      'the slow heron',
    );
    await page.reload();
    await row(page, 'Heron chick').waitFor();
    expect(await find.inputValue()).toBe('heron, walk < 100');
    await find.fill('nobody');
    await page.getByText('Nothing on this board has that').waitFor();
    await find.fill('');
    await page.getByRole('combobox', { name: 'Order' }).selectOption('By name');
    await until(
      () => page.locator('li[data-doc]').evaluateAll((all) => all.map((one) => (one as HTMLElement).dataset['doc'])),
      (names) => names.join() === 'Heron,Heron chick,Otter',
      'the order of names',
    );
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('puts away and brings back, goes back to a revision as a new one, and names one', async () => {
    const { id, page, faults } = await emptyShelf(`Archive ${Date.now()}`);
    const created = await inProject(id, 'tunings', tuning('Coat', 100));
    const { id: coat } = (await created.json()) as { id: string };
    await fetch(`${address}/api/v1/tunings/${coat}/revisions`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'if-match': '"1"' },
      body: JSON.stringify({ file: tuning('Coat', 130), note: 'Wet' }),
    });
    await page.reload();
    const between = page.getByRole('region', { name: 'Between revisions' });
    await between.getByText('100 → 130 px/s').waitFor();
    await row(page, 'Coat').getByText('“Wet”').waitFor();
    await row(page, 'Coat').getByRole('button', { name: 'Revision 1' }).click();
    await between.getByRole('button', { name: 'Name this revision' }).click();
    await page.getByRole('textbox', { name: 'Name' }).fill('alpha');
    await page.getByRole('dialog').getByRole('button', { name: 'Name' }).click();
    await row(page, 'Coat').getByText('alpha').first().waitFor();
    await row(page, 'Coat').getByRole('button', { name: 'Revision 1, alpha' }).click();
    await between.getByRole('button', { name: 'Go back to rev 1' }).click();
    await row(page, 'Coat').getByRole('button', { name: 'Revision 3' }).waitFor();
    const { items } = await api(`/tunings?project=${id}`);
    expect(items).toMatchObject([{ id: coat, head: 3 }]);
    await row(page, 'Coat').getByRole('button', { name: 'Archive' }).click();
    await page.getByText('How is your character moved?').waitFor();
    await page.getByRole('button', { name: /^Archived 1/ }).click();
    await row(page, 'Coat').getByRole('button', { name: 'Restore' }).click();
    await page.getByText('Nothing is archived.').waitFor();
    await page.getByRole('button', { name: /^Tunings 1/ }).click();
    await row(page, 'Coat').waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('makes, renames, switches and puts away projects; one goes out and comes in as a file', async () => {
    const { id, page, faults } = await emptyShelf(`Old mill ${Date.now()}`);
    await inProject(id, 'tunings', tuning('Miller', 100));
    await page.reload();
    await row(page, 'Miller').waitFor();
    await page.getByRole('button', { name: 'Export' }).first().click();
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'The project as one file' }).click(),
    ]);
    const text = readFileSync(await file.path(), 'utf8');
    expect(JSON.parse(text)).toMatchObject({ format: 'zygopod/project', tunings: [{ name: 'Miller' }] });
    const drop = async (files: { name: string; text: string }[]) => {
      const transfer = await page.evaluateHandle((all) => {
        const data = new DataTransfer();
        for (const { name, text } of all) data.items.add(new File([text], name));
        return data;
      }, files);
      await page.dispatchEvent('main', 'drop', { dataTransfer: transfer });
    };
    const renamed = text.replace(/"Old mill \d+"/, `"New mill ${Date.now()}"`);
    await drop([{ name: 'mill.project.json', text: renamed }]);
    await page.getByText('1 document can be imported: Miller.').waitFor();
    await page.getByRole('button', { name: 'Import as a new project' }).click();
    await page.waitForURL((url) => url.pathname.startsWith('/shelf/') && !url.pathname.includes(id));
    await row(page, 'Miller').waitFor();
    await page.getByRole('button', { name: /^Project: New mill/ }).click();
    await page.getByRole('textbox', { name: 'Name of this project' }).fill('Wind mill');
    await page.getByRole('button', { name: 'Rename project' }).click();
    await page.getByRole('button', { name: 'Project: Wind mill' }).click();
    await page.getByRole('button', { name: 'Archive project' }).click();
    await page.waitForURL((url) => url.pathname.startsWith('/shelf/'));
    await page.getByRole('button', { name: /^Project: Saltmarsh Post/ }).click();
    await page.getByRole('region', { name: 'Archived projects' }).getByText('Wind mill').first().waitFor();
    await page
      .getByRole('list', { name: 'Projects in use' })
      .getByRole('button', { name: /^Old mill/ })
      .first()
      .click();
    await row(page, 'Miller').waitFor();
    // Many files at once: good ones are imported, bad ones are listed with their paths.
    await drop([
      { name: 'good.tuning.json', text: JSON.stringify(tuning('漢字 boots', 90)) },
      { name: 'lame.tuning.json', text: JSON.stringify({ ...tuning('Lame', 1), pace: { walkSpeed: 'fast' } }) },
      { name: 'notes.json', text: 'PK not at all' },
    ]);
    await page.getByText('1 document can be imported: 漢字 boots; 2 files have faults.').waitFor();
    await page.getByText('pace.walkSpeed: found "fast"').waitFor();
    await page.getByRole('button', { name: 'Import', exact: true }).last().click();
    await row(page, '漢字 boots').waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });
});

describe('pasting', () => {
  it('asks for units without evidence, and accepts the given ones', async () => {
    const { page } = await emptyShelf(`Units ${Date.now()}`);
    await page.getByRole('button', { name: 'Paste numbers from code' }).click();
    const code = page.getByRole('textbox', { name: 'Code or data with numbers' });
    const create = page.getByRole('button', { name: 'Create tuning' });
    await code.fill('walk_speed = 3.5\nradius = 0.4');
    await page.getByText('Nothing says for sure which units these are.').waitFor();
    expect(await create.isDisabled()).toBe(true);
    await page.getByRole('button', { name: 'Confirm units' }).click();
    await until(
      () => create.isEnabled(),
      (is) => is,
      'the units confirmed',
    );
    await code.fill('-- tiles, seconds; 16 px tiles\nwalk_speed = 3.2\nradius = 0.4');
    await until(
      () => create.isEnabled(),
      (is) => is,
      'the given units',
    );
    expect(await page.getByRole('spinbutton', { name: 'Pixels per tile' }).inputValue()).toBe('16');
    await page.context().close();
  });
});

describe('the screen', () => {
  it('has no accessibility violations, nor has pasting', async () => {
    const { page } = await openPage(browser, `${address}/shelf`, {});
    await page.getByTestId('standing').first().waitFor();
    expect(await violationsOf(page)).toEqual([]);
    await page.getByRole('button', { name: 'Paste numbers from code' }).click();
    await page.getByRole('textbox', { name: 'Code or data with numbers' }).fill('speed = 3.5\njump = 2\nradius = 12');
    await page.getByText('One is a guess').waitFor();
    expect(await violationsOf(page)).toEqual([]);
    await page.keyboard.press('Escape');
    expect(await overflowOf(page)).toEqual([0, 0, 0, 0]);
    await page.context().close();
  });
});
