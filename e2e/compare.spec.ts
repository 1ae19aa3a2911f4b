import { readFileSync } from 'node:fs';
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { createDocument, openBrowser, openPage, until } from './browser.ts';

const address = inject('address');
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

const demo = (name: string) => JSON.parse(readFileSync(new URL(`../demo/${name}.json`, import.meta.url), 'utf8')) as object;
const tuning = (name: string, pace: object) => createDocument(address, 'tunings', { format: 'zygopod/tuning', version: 2, name, pace });

/** A comparison of these sides on a tape of two seconds to the right. */
async function compared(sides: readonly string[], more = '') {
  const ground = await createDocument(address, 'grounds', demo('boardwalk.ground'));
  const tape = await createDocument(address, 'tapes', {
    format: 'zygopod/tape',
    version: 2,
    name: 'To the right',
    hz: 60,
    ticks: 150,
    events: [
      { at: 6, press: 'right' },
      { at: 80, release: 'right' },
    ],
  });
  const search = `ground=${ground}&tape=${tape}${sides.map((side) => `&side=${side}`).join('')}${more}`;
  const opened = await openPage(browser, `${address}/compare/${sides[0]?.split(/[.~]/)[0]}?${search}`, {});
  await opened.page.getByTestId('side').first().waitFor();
  return opened;
}

const panel = (page: Page, name: string) => page.getByRole('region', { name });
const moment = async (page: Page) => Number.parseFloat((await page.getByTestId('moment').textContent()) ?? '');
const names = (page: Page) =>
  page.getByTestId('side').evaluateAll((rows) => rows.map((row) => row.querySelector('span[title]')?.textContent));

describe('compare', () => {
  it('shows for three sides what differs, the effects, and where they diverge; one is muted, one alone, two swapped', async () => {
    const ids = [
      await tuning('Boots, brisk', { walkSpeed: 200 }),
      await tuning('Boots, plain', { walkSpeed: 120 }),
      await tuning('Boots, slow', { walkSpeed: 60, sprintSpeed: { of: 'pace.walkSpeed', times: 2 } }),
    ];
    const { page, faults } = await compared(ids);
    const walk = panel(page, 'What differs')
      .getByRole('row')
      .filter({ hasText: /^Walk2001206?0/ });
    await walk.waitFor();
    await panel(page, 'What differs').getByText('2 × walk').waitFor();
    const peaks = await panel(page, 'Effects').locator('[data-metric=peakSpeed] td').allTextContents();
    expect(peaks.filter((text) => /^\d/.test(text))).toEqual(['200', '120', '60']);
    await panel(page, 'Where they diverge').getByText('plain starts slower').click();
    await page.getByRole('button', { name: 'Held' }).waitFor();
    const at = await moment(page);
    expect(at).toBeGreaterThan(0.1);
    expect(at).toBeLessThan(0.5);

    await page.getByRole('button', { name: 'mute' }).nth(1).click();
    expect(await page.getByRole('button', { name: 'mute', pressed: true }).count()).toBe(1);
    await page.getByRole('button', { name: 'alone' }).nth(0).click();
    expect(await page.getByRole('button', { name: 'mute', pressed: true }).count()).toBe(2);
    await page.getByRole('button', { name: 'alone' }).nth(0).click();
    expect(await page.getByRole('button', { name: 'mute', pressed: true }).count()).toBe(0);
    await page.getByRole('button', { name: 'Swap' }).click();
    await until(
      () => names(page),
      (order) => order[0] === 'Boots, plain' && order[1] === 'Boots, brisk',
      'the first two in each other’s place',
    );
    await page.getByRole('button', { name: 'Remove Boots, slow' }).click();
    await until(
      () => page.getByTestId('side').count(),
      (count) => count === 2,
      'two sides',
    );
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('is shared by a link to these revisions at this moment, and opens it on the bench', async () => {
    const ids = [await tuning('One', { walkSpeed: 200 }), await tuning('Other', { walkSpeed: 120 })];
    const { page, faults } = await compared(ids);
    await panel(page, 'Where they diverge').getByText('most apart').click();
    const at = await moment(page);
    await page.getByRole('button', { name: 'Share this comparison' }).click();
    await page.waitForURL(/at=/);
    const link = page.url();
    expect(link).toContain(`side=${ids[0]}.1`);
    expect(link).toContain(`side=${ids[1]}.1`);
    expect(link).toMatch(/ground=[0-9a-f-]{36}\.1&/);
    expect(link).toMatch(/tape=[0-9a-f-]{36}\.1&/);
    const again = await openPage(browser, link, {});
    await again.page.getByRole('button', { name: 'Held' }).waitFor();
    await until(
      () => moment(again.page),
      (there) => there === at,
      'the same moment',
    );
    expect(await names(again.page)).toEqual(['One', 'Other']);
    await again.page.context().close();
    await page.getByRole('link', { name: 'Open this moment on the bench' }).click();
    await page.getByRole('button', { name: 'Held' }).waitFor();
    await until(
      async () => Number.parseFloat((await page.getByTestId('loop-now').textContent()) ?? ''),
      (there) => Math.abs(there - at) < 0.02,
      'the moment on the bench',
    );
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('holds a tuning against itself at other rates, and goes back to the sides', async () => {
    const ids = [await tuning('One', { walkSpeed: 200 }), await tuning('Other', { walkSpeed: 120 })];
    const { page, faults } = await compared(ids);
    const toggle = page.getByRole('button', { name: '30 · 60 · 144 Hz · uneven' });
    await toggle.click();
    await until(
      () => page.getByTestId('side').allTextContents(),
      (rows) => rows.length === 4 && ['30 Hz', '60 Hz', '144 Hz', 'uneven'].every((rate, i) => rows[i]?.includes(rate)),
      'four rates',
    );
    await panel(page, 'What differs')
      .getByRole('row')
      .filter({ hasText: /^Tick rate/ })
      .waitFor();
    await toggle.click();
    await until(
      () => names(page),
      (order) => order.join() === 'One,Other',
      'the sides that were there',
    );
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('lists what could not be fetched, and compares the rest', async () => {
    const id = await tuning('Left over', { walkSpeed: 90 });
    const { page } = await compared([id, '99999999-9999-4999-8999-999999999999.4', 'nonsense']);
    await page.getByRole('alert').getByText('No tuning has this id').waitFor();
    expect(await names(page)).toEqual(['Left over']);
    await panel(page, 'What differs').getByText('Add a side').waitFor();
    await page.context().close();
  });

  it('opens bare on two sides, and measures and loops a span of the strip', async () => {
    const { page, faults } = await openPage(browser, `${address}/compare`, {});
    await until(
      () => page.getByTestId('side').count(),
      (count) => count === 2,
      'two sides',
    );
    const box = await page.getByTestId('strip').boundingBox();
    if (!box) throw new Error('no strip');
    await page.mouse.move(box.x + 400, box.y + 60);
    await page.mouse.down();
    await page.mouse.move(box.x + 460, box.y + 60);
    await page.mouse.up();
    await page.getByRole('button', { name: 'Loop the calipers' }).click();
    await page.getByRole('button', { name: 'Play the whole tape' }).waitFor();
    const seen: number[] = [];
    await until(
      async () => seen.push(await moment(page)),
      () => seen.some((at, i) => i > 0 && at < (seen[i - 1] as number)),
      'the span to begin anew',
    );
    expect(Math.max(...seen) - Math.min(...seen)).toBeLessThan(1.5);
    expect(faults).toEqual([]);
    await page.context().close();
  });
});

describe('a blind trial', () => {
  it('hides which is which, keeps each round, and reveals it with the tally', async () => {
    const ids = [await tuning('Boots, light', { walkSpeed: 250 }), await tuning('Boots, leaden', { walkSpeed: 50 })];
    const { page, faults } = await compared(ids);
    await page.getByRole('button', { name: /Blind trial/ }).click();
    const aside = page.getByRole('complementary', { name: 'Blind trial' });
    await aside.getByLabel('Your name').fill('Wren');
    expect(await page.getByRole('main').textContent()).not.toMatch(/light|leaden/);
    const prefer = async () => {
      await aside.getByRole('button', { name: 'One', exact: true }).click();
      await aside.getByText('revealed at the end').waitFor();
    };
    await page.getByTestId('trial-yard').click();
    await page.keyboard.press('2');
    await page.getByRole('img', { name: 'Round 1: Two is driven' }).waitFor();
    await page.keyboard.press('1');
    await page.getByRole('img', { name: 'Round 1: One is driven' }).waitFor();
    await aside.getByLabel('Reason (optional)').fill('cleaner');
    await prefer();
    await aside.getByRole('button', { name: 'Next round' }).click();
    await page.getByRole('img', { name: 'Round 2: One is driven' }).waitFor();
    await aside.getByRole('button', { name: 'No difference' }).click();
    await aside.getByText('revealed at the end').waitFor();
    await aside.getByRole('button', { name: 'Show the tally' }).click();
    expect(await page.getByTestId('tally').textContent()).toMatch(/^1 of 1 for (light|leaden), p 0\.50, 1 without a difference$/);
    const kept = (await (await fetch(`${address}/api/v1/trials?a=${ids[0]}&b=${ids[1]}`)).json()) as {
      items: { who: string; why: string; choice: string; first: string }[];
    };
    expect(kept.items.map(({ who, why, choice }) => [who, why, choice === 'none'])).toEqual([
      ['Wren', '', true],
      ['Wren', 'cleaner', false],
    ]);
    expect(kept.items[1]?.choice).toBe(kept.items[1]?.first);
    const csv = await (await fetch(`${address}/api/v1/trials.csv?a=${ids[0]}&b=${ids[1]}`)).text();
    expect(csv.split('\r\n').length).toBe(4);
    await aside.getByRole('button', { name: 'Leave the trial' }).click();
    await page.getByText(/1 of 1 for/).waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });
});
