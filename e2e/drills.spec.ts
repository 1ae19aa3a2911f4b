import { readFileSync } from 'node:fs';
import { VERSION } from '@zygopod/core';
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { createDocument, openBrowser, openPage, ready, until } from './browser.ts';
import { count, demo, openKind, showAllKinds, snags } from './snags.ts';

const address = inject('address');
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

describe('snags on the bench', () => {
  it('name the faults of a first draft; each is tried, mended with a click, and given back by undo', async () => {
    const id = await createDocument(address, 'tunings', demo('first-draft.tuning'));
    const { page, faults } = await openPage(browser, `${address}/bench/${id}`, {});
    await ready(page);
    await until(
      () => count(page),
      (found) => found >= 15,
      'the snags of the first draft',
    );
    await showAllKinds(page);
    for (const name of [
      'Sprint is not faster',
      'Sprint continues when empty',
      'Diagonals are faster',
      'Part of the body leaves the screen',
      'No dead zone',
    ])
      await snags(page).getByText(name).first().waitFor();
    // Pointed at, a mend is driven; nothing is changed by that.
    const sprint = page.locator('#figure-pace').getByRole('textbox', { name: /^Sprint/ });
    const mend = (await openKind(page, 'sprint-not-faster')).getByRole('button', { name: 'Sprint at 1.75 × walk' });
    await mend.hover();
    await until(
      () => sprint.inputValue(),
      (text) => text.includes('245') || text.includes('1.75'),
      'the mend tried',
    );
    await page.mouse.move(400, 200);
    await until(
      () => sprint.inputValue(),
      (text) => text.startsWith('130'),
      'the number as it was',
    );
    await mend.click();
    await mend.waitFor({ state: 'detached' });
    await page.getByRole('button', { name: 'Undo' }).click();
    await openKind(page, 'sprint-not-faster');
    await mend.waitFor();
    // A snag leads to its row.
    await (await openKind(page, 'dead-zone-none')).getByRole('button', { name: 'Show its row' }).click();
    await page.locator('#figure-hands').waitFor();

    const grounds = ['gap-too-narrow', 'gap-tight'];
    // Guided by the snags alone, until none is left but the ground's own.
    for (let left = await count(page); ; ) {
      await showAllKinds(page);
      const kinds = await snags(page)
        .locator('[data-snag]')
        .evaluateAll((rows) => rows.map((row) => row.getAttribute('data-snag') ?? ''));
      const id = kinds.find((kind) => !grounds.includes(kind));
      if (!id) break;
      await (await openKind(page, id)).locator('button[data-mend]').first().click();
      const before = left;
      left = await until(
        () => count(page),
        (now) => now < before,
        `${id} cured`,
      );
    }
    expect(await snags(page).locator('[data-snag=gap-too-narrow]').count()).toBeGreaterThan(0);
    await page.keyboard.press('Control+s');
    await page.getByRole('textbox', { name: 'Note (optional)' }).fill('Mended');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await page.getByRole('dialog').waitFor({ state: 'detached' });
    const { file } = (await (await fetch(`${address}/api/v1/tunings/${id}`)).json()) as { file: { stamina: object } };
    // What is as the default has it need not be written.
    expect((file.stamina as { emptyEndsSprint?: boolean }).emptyEndsSprint ?? true).toBe(true);
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('of a looped tape are listed with their moment, and disappear once mended', async () => {
    const id = await createDocument(address, 'tunings', { format: 'zygopod/tuning', version: 2, name: 'Flipped', facing: { flip: 'x' } });
    const { page, faults } = await openPage(browser, `${address}/bench/${id}`, {});
    await ready(page);
    await page.getByRole('button', { name: /^Loop “/ }).click();
    const seen = (await openKind(page, 'facing-wrong-way')).getByRole('button', { name: /^At \d/ }).first();
    await seen.waitFor();
    await seen.click();
    await page.getByRole('button', { name: 'Held' }).waitFor();
    // The strip marks the moment, and leads there, too.
    const moment = page.locator('[data-snag-at=facing-wrong-way]').first();
    expect(await moment.getAttribute('aria-label')).toMatch(/^Fault at \d+\.\d\d s: Faces the wrong direction$/);
    await moment.click();
    const time = Number(await moment.getAttribute('data-time'));
    await until(
      async () => Number.parseFloat((await page.getByTestId('loop-now').textContent()) ?? ''),
      (now) => Math.abs(now - time) < 0.05,
      'the moment of the snag',
    );
    await snags(page).getByRole('button', { name: 'Restore the sign' }).first().click();
    await until(
      () => snags(page).locator('[data-snag=facing-wrong-way]').count(),
      (left) => left === 0,
      'all of them gone',
    );
    expect(faults).toEqual([]);
    await page.context().close();
  });
});

describe('the Drills screen', () => {
  const drill = (page: Page, name: string) => page.locator(`[data-drill=${name}]`);

  it('runs all drills, puts those out of their band first, and shows one in full', async () => {
    const id = await createDocument(address, 'tunings', {
      format: 'zygopod/tuning',
      version: 2,
      name: 'Long stop',
      ramp: { decelerate: 300 },
      stamina: { enabled: true },
    });
    const { page, faults } = await openPage(browser, `${address}/drills/${id}`, {});
    await drill(page, 'hard-stop').waitFor();
    await page.getByText('Brisk carrier').waitFor();
    await until(
      () => page.locator('[data-drill]').first().getAttribute('data-drill'),
      (first) => first === 'hard-stop',
      'the drill that is out first',
    );
    expect(await drill(page, 'hard-stop').getAttribute('data-state')).toBe('out');
    expect(await drill(page, 'click-tour').getAttribute('data-state')).toBe('not');
    expect(Number(await page.getByTestId('drills').getAttribute('data-ticks'))).toBeGreaterThan(3000);
    await page.getByLabel('In order of work').check();
    expect(await page.locator('[data-drill]').first().getAttribute('data-drill')).toBe('standing-start');
    await drill(page, 'hard-stop').click();
    const chosen = page.getByRole('complementary', { name: 'Hard stop' });
    await chosen.getByText('Stops within').waitFor();
    await page.getByRole('region', { name: 'What moves it' }).getByText('Walk').waitFor();
    await page.getByRole('region', { name: 'What moves it' }).getByText('Decelerate').waitFor();
    await page.getByRole('region', { name: 'Over the revisions' }).waitFor();
    // A wider band takes it in.
    const grip = chosen.getByRole('slider', { name: /Upper end of the band of stops within/ });
    await grip.focus();
    for (let i = 0; i < 80 && (await drill(page, 'hard-stop').getAttribute('data-state')) === 'out'; i++)
      await page.keyboard.press('ArrowRight');
    expect(await drill(page, 'hard-stop').getAttribute('data-state')).toBe('in');
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('keeps what is right as a target set of its own, and gives it as a file', async () => {
    const id = await createDocument(address, 'tunings', { format: 'zygopod/tuning', version: 2, name: 'Right as it is' });
    const { page, faults } = await openPage(browser, `${address}/drills/${id}`, {});
    await drill(page, 'hard-stop').waitFor();
    await page.getByRole('button', { name: 'Targets from current values' }).click();
    await until(
      () => page.locator('[data-state=out]').count(),
      (out) => out === 0,
      'nothing out of its band',
    );
    await page.getByRole('button', { name: 'Save these targets' }).click();
    const name = `Right ${Date.now()}`;
    await page.getByRole('textbox', { name: 'Name' }).fill(name);
    await page.getByRole('button', { name: 'Keep', exact: true }).click();
    await page.getByRole('dialog').waitFor({ state: 'detached' });
    await page.getByText(name).waitFor();
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Check for a build server' }).click(),
    ]);
    const set = JSON.parse(readFileSync(await file.path(), 'utf8')) as { name: string; targets: { metric: string }[] };
    expect(set.name).toBe(name);
    for (const [form, name, words] of [
      ['JSON', /right-as-it-is\.drills\.json$/, '"riseTime"'],
      ['CSV', /\.drills\.csv$/, 'hard-stop,stopDistance'],
      ['JUnit', /\.drills\.xml$/, '<testcase classname="hard-stop" name="stopDistance"'],
      ['SVG', /\.drills\.svg$/, '>Hard stop</text>'],
    ] as const) {
      const [report] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: form, exact: true }).click()]);
      expect(report.suggestedFilename()).toMatch(name);
      expect(readFileSync(await report.path(), 'utf8')).toContain(words);
    }
    expect(set.targets.map(({ metric }) => metric)).toEqual(expect.arrayContaining(['riseTime', 'stopDistance', 'slideKept']));
    // It is what this tuning is judged by from now on.
    await page.reload();
    await page.getByText(name).waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('opens a drill on the bench as a tape on its ground', async () => {
    const id = await createDocument(address, 'tunings', { format: 'zygopod/tuning', version: 2, name: 'To the bench' });
    const { page, faults } = await openPage(browser, `${address}/drills/${id}`, {});
    await drill(page, 'turn-round').click();
    await page.getByRole('button', { name: 'Open on the bench' }).click();
    await page.waitForURL(/\/bench\//);
    await page.getByRole('button', { name: 'Looping' }).waitFor();
    await page.getByText('Drill: Turn-round').waitFor();
    // What is kept already is not kept once more.
    const grounds = async () => {
      const found = (await (await fetch(`${address}/api/v1/grounds?q=${encodeURIComponent('Drill: Turn-round')}`)).json()) as {
        items: unknown[];
      };
      return found.items.length;
    };
    const kept = await grounds();
    await page.goto(`${address}/drills/${id}`);
    await drill(page, 'turn-round').click();
    await page.getByRole('button', { name: 'Open on the bench' }).click();
    await page.waitForURL(/\/bench\//);
    expect(await grounds()).toBe(kept);
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('keeps reports, and compares with one of them', async () => {
    const id = await createDocument(address, 'tunings', {
      format: 'zygopod/tuning',
      version: 2,
      name: 'Reported',
      ramp: { decelerate: 300 },
    });
    const { page, faults } = await openPage(browser, `${address}/drills/${id}`, {});
    await drill(page, 'hard-stop').waitFor();
    await page.getByText('Brisk carrier').waitFor();
    await page.getByRole('button', { name: 'Save this report' }).click();
    const report = page.getByRole('region', { name: 'Saved reports' }).getByRole('button', { name: /^rev 1/ });
    await report.waitFor();
    expect(await report.textContent()).toMatch(/\d+ of \d+/);
    const { items } = (await (await fetch(`${address}/api/v1/reports?tuning=${id}`)).json()) as {
      items: { tuning: { revision: number }; ground: { name: string }; core: string; metrics: { stopDistance: number } }[];
    };
    expect(items).toHaveLength(1);
    expect(items[0]).toMatchObject({ tuning: { revision: 1 }, core: VERSION });
    // 140² / (2 · 300), give or take half a tick's travel.
    expect(Math.abs((items[0]?.metrics.stopDistance ?? 0) - 140 ** 2 / 600)).toBeLessThan(140 / 60);
    await page.reload();
    await report.click();
    await page.getByText('now, against the report of rev 1').waitFor();
    await report.click();
    await page.getByText('now, against rev 1').waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('shows what else a number moves, and leads to that drill', async () => {
    const id = await createDocument(address, 'tunings', { format: 'zygopod/tuning', version: 2, name: 'Moved' });
    const { page, faults } = await openPage(browser, `${address}/drills/${id}`, {});
    await drill(page, 'hard-stop').click();
    await page.getByRole('region', { name: 'What moves it' }).getByRole('button', { name: 'Walk' }).click();
    const moved = page.getByRole('region', { name: 'What it moves' });
    await moved.getByRole('button', { name: 'Reaches speed after' }).click();
    await page.getByRole('complementary', { name: 'Standing start' }).waitFor();
    await moved.getByRole('combobox').selectOption({ label: 'Half-life (camera.halfLife)' });
    await moved.getByRole('button', { name: 'View lags' }).waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('has bands that were dragged there again after a reload, and lets them go when a set is chosen', async () => {
    const id = await createDocument(address, 'tunings', { format: 'zygopod/tuning', version: 2, name: 'Unsaved bands' });
    const { page, faults } = await openPage(browser, `${address}/drills/${id}`, {});
    await drill(page, 'hard-stop').click();
    const grip = page.getByRole('slider', { name: /Upper end of the band of stops within/ });
    await grip.focus();
    const was = Number(await grip.getAttribute('aria-valuenow'));
    for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight');
    const now = Number(await grip.getAttribute('aria-valuenow'));
    expect(now).toBeGreaterThan(was);
    await page.reload();
    await page.getByText('Brisk carrier *').waitFor();
    await drill(page, 'hard-stop').click();
    expect(Number(await grip.getAttribute('aria-valuenow'))).toBe(now);
    await page.getByRole('button', { name: 'change', exact: true }).click();
    await page.getByRole('option', { name: /Brisk carrier/ }).click();
    await until(
      async () => Number(await grip.getAttribute('aria-valuenow')),
      (value) => value === was,
      'the band of the saved set',
    );
    expect(faults).toEqual([]);
    await page.context().close();
  });
});

describe('targets on the figures', () => {
  it('lie where the drawing has the same outcome', async () => {
    const id = await createDocument(address, 'tunings', {
      format: 'zygopod/tuning',
      version: 2,
      name: 'Aimed',
      stamina: { enabled: true },
    });
    const { page, faults } = await openPage(browser, `${address}/bench/${id}`, {});
    await ready(page);
    for (const [figure, metric] of [
      ['pace', 'riseTime'],
      ['pace', 'stopDistance'],
      ['stamina', 'sprintTime'],
      ['stamina', 'recoverTime'],
      ['walls', 'slideKept'],
    ])
      await page.locator(`#figure-${figure} [data-target=${metric}]`).first().waitFor({ state: 'attached' });
    expect(faults).toEqual([]);
    await page.context().close();
  });
});
