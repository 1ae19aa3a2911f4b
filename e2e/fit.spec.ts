import { parseTuning, resolveTuning } from '@zygopod/core';
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { playRandomly, recorded } from '../core/src/testing/recordings.ts';
import { sequence } from '../core/src/testing/sequence.ts';
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

describe('a recording from outside', () => {
  it('becomes a tuning with its speeds and rates, in tiles and with y upwards, that is driven and saved', async () => {
    const next = sequence(11);
    const read = parseTuning(JSON.stringify(demo('carrier-day-boots.tuning')));
    const tuning = read.ok ? resolveTuning(read.value.file) : read;
    if (!tuning.ok) throw new Error('the demo');
    const { parameters } = tuning.value;
    const free = {
      ...parameters,
      stamina: { ...parameters.stamina, enabled: false },
      bounds: { ...parameters.bounds, policy: 'none' as const },
    };
    const { x, y, times } = recorded(playRandomly(free, 12, next), 60, 0.2, next);
    const lines = [...times].map((time, i) =>
      [time, (x[i] as number) / 32, -(y[i] as number) / 32].map((value) => value.toFixed(5).replace('.', ',')).join(';'),
    );
    const { page, faults } = await openPage(browser, `${address}/shelf`, {});
    await page.getByLabel('Recording', { exact: true }).setInputFiles({
      name: 'Old build.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(['Time;Pos X;Pos Y', ...lines].join('\r\n')),
    });
    const dialog = page.getByRole('dialog', { name: 'New from the recording Old build.csv' });
    await dialog.locator('[data-testid=recording][data-state=read]').waitFor();
    await dialog.getByRole('combobox', { name: 'Places in' }).selectOption('tiles');
    await dialog.getByRole('checkbox', { name: 'y grows upwards' }).check();
    await dialog.locator('[data-testid=recording][data-state=read]').waitFor();
    await dialog.getByRole('button', { name: 'Find the numbers' }).click();
    await dialog.locator('[data-testid=recording][data-state=done]').waitFor();
    expect(await violationsOf(page)).toEqual([]);
    expect(await dialog.getByRole('textbox', { name: 'Walk', exact: true }).inputValue()).toMatch(/^(139\.[5-9]\d*|140(\.[0-4]\d*)?)$/);
    expect(await dialog.locator('[data-path="pace.walkSpeed"] td').nth(1).innerText()).toContain('px/s');
    // The fit gets worse as a number is dragged, stretches are named, and it can be reverted.
    const residual = dialog.getByTestId('recording-residual');
    const fitted = await residual.innerText();
    const label = await dialog.locator('[data-path="ramp.accelerate"]').getByText('Accelerate', { exact: true }).boundingBox();
    if (!label) throw new Error('there is no label');
    await page.mouse.move(label.x + 5, label.y + 5);
    await page.mouse.down();
    await page.mouse.move(label.x - 145, label.y + 5, { steps: 5 });
    await page.mouse.up();
    expect(await dialog.getByText(/(slower|faster) than the model/).count()).toBeGreaterThan(0);
    const px = (text: string) => Number(/([\d.]+) px/.exec(text)?.[1]);
    expect(px(await residual.innerText())).toBeGreaterThan(3 * px(fitted));
    await dialog.getByRole('button', { name: 'Revert to the fit' }).click();
    expect(await residual.innerText()).toBe(fitted);
    await dialog.getByRole('button', { name: 'Create and drive it on the same hands' }).click();
    await page.waitForURL(/\/bench\/.*tape=/);
    await ready(page);
    const query = new URL(page.url()).searchParams;
    const kept = async (collection: string, key: string) =>
      ((await (await fetch(`${address}/api/v1/${collection}/${query.get(key)}`)).json()) as { file: Record<string, never> }).file;
    expect((await kept('grounds', 'ground'))['name']).toBe('Old build: open ground');
    const { hz, ticks, events } = (await kept('tapes', 'tape')) as unknown as { hz: number; ticks: number; events: object[] };
    expect(ticks / hz).toBeCloseTo((times.at(-1) as number) - (times[0] as number), 1);
    expect(events.length).toBeGreaterThan(10);
    const id = page.url().match(/bench\/([0-9a-f-]+)/)?.[1];
    const { file } = (await (await fetch(`${address}/api/v1/tunings/${id}`)).json()) as {
      file: { name: string; pace: { walkSpeed: number; sprintSpeed: number }; ramp: { accelerate: number; decelerate: number } };
    };
    expect(file.name).toBe('Old build');
    const { walkSpeed, sprintSpeed } = parameters.pace;
    for (const [found, truth, share] of [
      [file.pace.walkSpeed, walkSpeed, 0.005],
      [file.pace.sprintSpeed, sprintSpeed, 0.005],
      [file.ramp.accelerate, parameters.ramp.accelerate, 0.08],
      [file.ramp.decelerate, parameters.ramp.decelerate, 0.08],
    ] as const)
      expect(Math.abs(found / truth - 1), `${found} for ${truth}`).toBeLessThan(share);
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('is refused where it can’t be read, with what was expected, and the dialog stays', async () => {
    const { page, faults } = await openPage(browser, `${address}/shelf`, {});
    await page
      .getByLabel('Recording', { exact: true })
      .setInputFiles({ name: 'log.txt', mimeType: 'text/plain', buffer: Buffer.from('started\nended\n') });
    const dialog = page.getByRole('dialog');
    await dialog.getByText(/It can’t be read: found one column/).waitFor();
    expect(await dialog.getByRole('button', { name: 'Find the numbers' }).isDisabled()).toBe(true);
    await dialog.getByRole('button', { name: 'Cancel' }).click();
    await dialog.waitFor({ state: 'detached' });
    expect(faults).toEqual([]);
    await page.context().close();
  });
});
