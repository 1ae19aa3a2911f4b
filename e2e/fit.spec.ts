import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { violationsOf } from './axe.ts';
import { createDocument, openBrowser, openPage, overflowOf, ready, until } from './browser.ts';
import { demo } from './snags.ts';

const address = inject('address');
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

const boots = demo('carrier-day-boots.tuning') as { ramp: object };
const targetSet = (name: string, targets: object[]) => ({ format: 'zygopod/targets', version: 1, name, targets });

const isFitted = (page: Page) => page.locator('[data-testid=fit][data-state=done]').waitFor();

/** The fit of the server for a tuning as it is kept. */
async function fitThere(id: string, targets: object[], moves: object[] = []): Promise<{ met: boolean; set: Record<string, number> }> {
  const { file } = (await (await fetch(`${address}/api/v1/tunings/${id}`)).json()) as { file: object };
  const answer = await fetch(`${address}/api/v1/fits`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ tuning: file, targets, moves }),
  });
  return (await answer.json()) as { met: boolean; set: Record<string, number> };
}

/** The draft’s file, once it is as wanted. */
const draftOf = (id: string, isSo: (file: { ramp: Record<string, number> }) => boolean) =>
  until(
    async () => ((await (await fetch(`${address}/api/v1/tunings/${id}/draft`)).json()) as { file: { ramp: Record<string, number> } }).file,
    (file) => file !== undefined && isSo(file),
    'the draft',
  );

describe('a fit', () => {
  it('goes from missed targets on Drills to applied numbers, equal to the server’s, and to targets that are met', async () => {
    const targets = [
      { metric: 'stopDistance', min: 4, max: 9 },
      { metric: 'riseTime', max: 0.16 },
    ];
    await createDocument(address, 'targets', targetSet('Brisk stop', targets));
    const id = await createDocument(address, 'tunings', { ...boots, ramp: { ...boots.ramp, decelerate: 400 } });
    const { page, faults } = await openPage(browser, `${address}/drills/${id}`, {});
    await page.locator('[data-drill=hard-stop][data-state=out]').click();
    await page.getByRole('button', { name: 'Fit to the targets' }).click();
    await page.waitForURL(/\/sweep\/.*fit=/);
    await page.getByRole('combobox', { name: 'Targets' }).selectOption({ label: 'Brisk stop' });
    await page.getByText('Meets Brisk stop by moving').waitFor();
    await page.getByRole('button', { name: 'Find the numbers' }).click();
    await isFitted(page);
    const result = page.getByTestId('fit-result');
    await expect.poll(() => result.getAttribute('data-met')).toBe('true');
    const there = await fitThere(id, targets);
    expect(there.met).toBe(true);
    const shown = await result
      .locator('[data-path]')
      .evaluateAll((rows) =>
        rows.map((row) => [row.getAttribute('data-path'), (row as HTMLTableRowElement).cells[2]?.textContent] as const),
      );
    for (const [path, value] of Object.entries(there.set))
      expect(shown.find(([own]) => own === path)?.[1]).toBe(`→ ${Number(value.toPrecision(3))}`);
    expect(
      shown
        .filter(([, value]) => value !== '')
        .map(([path]) => path)
        .toSorted(),
    ).toEqual(Object.keys(there.set).toSorted());
    await page.getByRole('button', { name: 'Apply', exact: true }).click();
    await draftOf(id, ({ ramp }) => ramp['decelerate'] === there.set['ramp.decelerate']);
    await page.getByRole('button', { name: 'Applied' }).waitFor();
    // Undone, it can be applied again.
    await page.getByRole('button', { name: /^Undo/ }).click();
    await page.getByRole('button', { name: 'Apply', exact: true }).click();
    await result.getByRole('button', { name: 'Save as revision' }).click();
    await until(
      async () => ((await (await fetch(`${address}/api/v1/tunings/${id}`)).json()) as { head: number }).head,
      (head) => head === 2,
      'the revision',
    );
    expect(await violationsOf(page)).toEqual([]);
    expect(await overflowOf(page)).toEqual([0, 0, 0, 0]);
    await page.goto(`${address}/drills/${id}`);
    await page.locator('[data-drill=hard-stop][data-state=in]').waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('says what conflicts, walks along the trade-off, and drives a place of it; the numbers that move are in the address', async () => {
    const targets = [
      { metric: 'stopDistance', max: 4 },
      { metric: 'stopTime', min: 0.3 },
    ];
    await createDocument(address, 'targets', targetSet('Short and long', targets));
    const id = await createDocument(address, 'tunings', boots);
    const { page, faults } = await openPage(browser, `${address}/sweep/${id}?fit=&move=ramp.brake`, {});
    await page.getByRole('combobox', { name: 'Targets' }).selectOption({ label: 'Short and long' });
    await page.getByRole('button', { name: '1 number', exact: true }).click();
    const dialog = page.getByRole('dialog', { name: 'Numbers that may move' });
    await dialog.getByText(/^These matter most/).waitFor();
    await dialog.locator('[data-path="ramp.brake"]').getByRole('checkbox').uncheck();
    const row = dialog.locator('[data-path="ramp.decelerate"]');
    await row.getByRole('checkbox').check();
    await row.getByRole('textbox', { name: 'Least Decelerate' }).fill('9000');
    await dialog.getByText(/expected the first end below the second/).waitFor();
    await row.getByRole('textbox', { name: 'Least Decelerate' }).fill('200');
    await dialog.getByRole('button', { name: 'Fit 1 number' }).click();
    await isFitted(page);
    expect(new URL(page.url()).searchParams.getAll('move')).toEqual(['ramp.decelerate=200:']);
    const result = page.getByTestId('fit-result');
    expect(await result.innerText()).toContain('Stops within at most 4 px and Stops after at least 0.3 s conflict through Decelerate.');
    await page.getByRole('button', { name: 'Trade-off' }).click();
    const front = page.locator('[data-testid=trade-off]:not([data-points="0"])');
    await front.waitFor();
    const place = page.getByRole('slider', { name: 'Place on the trade-off' });
    const last = await place.getAttribute('aria-valuetext');
    await place.focus();
    await page.keyboard.press('Home');
    await expect.poll(() => place.getAttribute('aria-valuetext')).not.toBe(last);
    await front.getByRole('button', { name: 'Drive this place' }).click();
    await page.waitForURL(/\/bench\//);
    await ready(page);
    await draftOf(id, ({ ramp }) => (ramp['decelerate'] ?? 1200) < 600);
    expect(faults).toEqual([]);
    await page.context().close();
  });
});
