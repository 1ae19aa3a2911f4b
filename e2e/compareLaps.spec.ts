import { readFileSync } from 'node:fs';
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { createDocument, groundFile, openBench, openBrowser, openPage, until } from './browser.ts';

const address = inject('address');
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

const gate = (x: number, y0 = 20, y1 = 160) => ({ from: [x, y0], to: [x, y1] });
const course = groundFile({ version: 2, course: { gates: [gate(160), gate(300)], laps: 1 } });
const tuning = (name: string, walkSpeed: number) => ({
  format: 'zygopod/tuning',
  version: 2,
  name,
  pace: { walkSpeed, sprintSpeed: walkSpeed },
});

/** The time of the pilot's lap by the server. */
async function served(file: object, options: object = {}): Promise<{ time: number; gates: number[]; touches: number }> {
  const answer = await fetch(`${address}/api/v1/laps`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ tuning: file, ground: course, ...options }),
  });
  return (await answer.json()) as { time: number; gates: number[]; touches: number };
}

const panel = (page: Page, name: string) => page.getByRole('region', { name, exact: true });
/** The numbers of the laps' table, row by row. */
const laps = (page: Page) =>
  page
    .getByTestId('laps')
    .locator('tr[data-side]')
    .evaluateAll((rows) =>
      rows.map((row) => [...row.querySelectorAll('td.digits')].map((cell) => Number.parseFloat(cell.textContent ?? ''))),
    );
const shown = ({ time, gates, touches }: { time: number; gates: number[]; touches: number }) =>
  [time, ...gates.map((at, i) => at - (gates[i - 1] ?? 0)), touches].map((value) => Number(value.toFixed(2)));
const areLaps = async (page: Page, wanted: number[][]) =>
  until(
    () => laps(page),
    (found) => JSON.stringify(found.map((row) => row.slice(0, 4))) === JSON.stringify(wanted),
    `laps ${JSON.stringify(wanted)}`,
  );

describe('a comparison by laps of a course', () => {
  it('drives three tunings as the server does, shows where the time goes, keeps a lap as a tape, and is shared whole', async () => {
    const files = [tuning('Boots, brisk', 200), tuning('Boots, plain', 140), tuning('Boots, slow', 70)];
    const ids = await Promise.all(files.map((file) => createDocument(address, 'tunings', file)));
    const ground = await createDocument(address, 'grounds', course);
    const search = `ground=${ground}${ids.map((id) => `&side=${id}`).join('')}`;
    const { page, faults } = await openPage(browser, `${address}/compare/${ids[0]}?${search}`, {});
    await page.getByText('a pilot', { exact: true }).click();
    const expected = await Promise.all(files.map((file) => served(file)));
    await areLaps(page, expected.map(shown));

    // 240 units at 70 a second instead of 200.
    const goes = panel(page, 'Where the time goes');
    await goes.getByText('slow reaches 70 px/s, brisk 200').first().waitFor();
    await goes.getByRole('button').first().click();
    await page.getByRole('button', { name: 'Play the whole lap' }).click();

    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Laps as CSV' }).click()]);
    const rows = readFileSync(await download.path(), 'utf8')
      .trim()
      .split('\r\n');
    expect(rows).toHaveLength(4);
    expect(rows.slice(1).map((row) => Number(/rev 1,([\d.]+)/.exec(row)?.[1]))).toEqual(expected.map(({ time }) => time));

    await page.getByRole('button', { name: 'Keep the lap of Boots, plain as a tape' }).click();
    await page.getByTestId('laps').getByText('kept').waitFor();
    const { items } = await (await fetch(`${address}/api/v1/tapes?limit=5&q=${encodeURIComponent('with Boots, plain')}`)).json();
    const kept = await (await fetch(`${address}/api/v1/tapes/${items[0].id}`)).json();
    const [, plain] = expected as [object, { tape: { events: object[]; ticks: number } }];
    expect([kept.file.ticks, kept.file.events]).toEqual([plain.tape.ticks, plain.tape.events]);

    // Another pilot, and the address of all of it.
    const reaction = page.getByLabel('Reaction');
    await reaction.fill('9');
    await page.getByRole('alert').getByText('0 to 2').waitFor();
    await reaction.fill('0.45');
    await reaction.press('Enter');
    await page.getByLabel('Sprint').selectOption('never');
    const slower = await Promise.all(files.map((file) => served(file, { reaction: 0.45, sprint: 'never' })));
    await areLaps(page, slower.map(shown));
    await page.getByRole('button', { name: 'Share this comparison' }).click();
    await page.getByText('Link copied').waitFor();
    await page.reload();
    await areLaps(page, slower.map(shown));
    expect(await page.getByLabel('Reaction').inputValue()).toBe('0.45');

    await page.getByLabel('Device').selectOption('cells');
    await page.getByTestId('laps').getByText('the device cells needs the scheme step').first().waitFor();
    await page.getByText('a tape', { exact: true }).click();
    await panel(page, 'What differs').waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('by hand, takes the lap that was driven on the bench, with its numbers only', async () => {
    const ground = await createDocument(address, 'grounds', course);
    const { page, faults } = await openBench(browser, address, {}, ground);
    await page.locator('[aria-label="Lap"][data-state="waiting"]').waitFor();
    await page.keyboard.down('KeyD');
    await page.locator('[aria-label="Lap"][data-state="finished"]').waitFor();
    await page.keyboard.up('KeyD');
    const time = Number(await page.getByTestId('lap-time').textContent());
    await page.getByRole('region', { name: 'Laps', exact: true }).getByRole('link', { name: 'Compare' }).click();
    await until(
      () => laps(page),
      (found) => found[0]?.[0] === time,
      `a lap of ${time} s`,
    );
    await page.getByTestId('laps').getByText('Best by hand').waitFor();
    await page.getByText('a pilot', { exact: true }).click();
    await until(
      () => laps(page),
      (found) => found.length === 1 && found[0]?.[0] !== time,
      'the lap of the pilot',
    );
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('is not there on a ground without a course', async () => {
    const id = await createDocument(address, 'tunings', tuning('Boots', 140));
    const ground = await createDocument(address, 'grounds', groundFile({}));
    const { page, faults } = await openPage(browser, `${address}/compare/${id}?ground=${ground}&by=pilot`, {});
    await panel(page, 'What differs').waitFor();
    expect(await page.getByRole('radio', { name: 'a pilot' }).isDisabled()).toBe(true);
    expect(faults).toEqual([]);
    await page.context().close();
  });
});
