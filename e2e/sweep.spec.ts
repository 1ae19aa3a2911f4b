import { readFileSync } from 'node:fs';
import { type MetricKey, parseTuning, readAxis, resolveTuning, type SweepAxis, Sweep as Swept, sweepCsv } from '@zygopod/core';
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

/** The address of a sweep. */
const sweepOf = (id: string, over: readonly string[], metrics: readonly string[]) =>
  `${address}/sweep/${id}?${new URLSearchParams([...over.map((axis) => ['over', axis]), ...metrics.map((key) => ['metric', key])])}`;

/** Waits until the sweep is whole. */
const isWhole = (page: Page) => page.locator('[data-testid=progress][data-state=done]').waitFor();

/** Downloads a file by the button that has its kind as its name. */
async function downloaded(page: Page, kind: string): Promise<Buffer> {
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: kind, exact: true }).click()]);
  return readFileSync(await download.path());
}

/** The CSV of a sweep that the core measures here, one cell after the other. */
function csvHere(over: readonly string[], metrics: readonly MetricKey[]): string {
  const read = parseTuning(JSON.stringify(boots));
  const tuning = read.ok ? resolveTuning(read.value.file) : read;
  if (!tuning.ok) throw new Error('the demo');
  const axes = over.map((text) => readAxis(text, tuning.value.file) as SweepAxis);
  const sweep = new Swept({ tuning: tuning.value, axes, metrics, targets: [], ground: null });
  while (sweep.run(100));
  return [...sweepCsv(sweep)].join('');
}

/** Lines of a CSV without their last column, which says whether targets are met. */
const withoutMet = (csv: string) => csv.split('\r\n').map((line) => line.split(',').slice(0, -1).join(','));

describe('a sweep', () => {
  it('goes from a missed target to the nearest place that meets all, to the bench, and to a revision', async () => {
    const id = await createDocument(address, 'tunings', { ...boots, ramp: { ...boots.ramp, decelerate: 400 } });
    const { page, faults } = await openPage(browser, `${address}/drills/${id}`, {});
    const stop = page.locator('[data-drill=hard-stop][data-state=out]');
    await stop.click();
    await page.getByRole('button', { name: 'Sweep it' }).click();
    await page.waitForURL(/\/sweep\/.*metric=stopDistance/);
    await isWhole(page);
    const table = page.getByRole('complementary', { name: 'Under the pointer' });
    await table.locator('[data-metric=stopDistance]', { hasText: '▲' }).waitFor();
    await page.getByRole('button', { name: 'Nearest that meets all targets' }).click();
    // The chosen place is within the band, today's is out of it.
    await until(
      () => table.locator('[data-metric=stopDistance] td').allInnerTexts(),
      ([, here = '', today = '']) => /^\d/.test(here) && Number.parseFloat(here) <= 12 && today.startsWith('▲'),
      'the stop at the place',
    );
    const walk = new URL(page.url()).searchParams.getAll('over');
    expect(walk.map((axis) => axis.split('=')[0]).sort()).toEqual(['pace.walkSpeed', 'ramp.decelerate']);
    await page.getByRole('button', { name: 'Drive it' }).click();
    await page.waitForURL(/\/bench\//);
    await ready(page);
    const draft = (await (await fetch(`${address}/api/v1/tunings/${id}/draft`)).json()) as { file: { pace: { walkSpeed: number } } };
    await page.getByRole('button', { name: 'Save revision' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Save', exact: true }).click();
    const saved = await until(
      async () => (await (await fetch(`${address}/api/v1/tunings/${id}`)).json()) as { head: number; file: object },
      ({ head }) => head === 2,
      'the revision',
    );
    expect(saved.file).toEqual(draft.file);
    await page.goto(`${address}/drills/${id}`);
    await page.locator('[data-drill=hard-stop][data-state=in]').waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('has the core’s values to the bit, moves by cells, zooms, goes back, and has an address for each state', async () => {
    const id = await createDocument(address, 'tunings', boots);
    const over = ['pace.walkSpeed=60:320:9', 'ramp.decelerate=300:4800:7:log'];
    const metrics = ['stopDistance', 'riseTime'] as const;
    const { page, faults } = await openPage(browser, sweepOf(id, over, metrics), {});
    await isWhole(page);
    expect(withoutMet((await downloaded(page, 'CSV')).toString())).toEqual(
      csvHere(over, metrics)
        .split('\r\n')
        .map((line, i, all) => (i === all.length - 1 ? '' : line)),
    );
    const report = JSON.parse((await downloaded(page, 'JSON')).toString()) as {
      axes: { path: string; values: number[] }[];
      metrics: Record<string, number[][]>;
    };
    expect(report.axes.map(({ path, values }) => [path, values.length])).toEqual([
      ['pace.walkSpeed', 9],
      ['ramp.decelerate', 7],
    ]);
    expect((await downloaded(page, 'SVG')).toString()).toMatch(/^<svg .*data:image\/png;base64,.*Walk, px\/s.*<\/svg>$/s);
    expect((await downloaded(page, 'PNG')).subarray(1, 4).toString()).toBe('PNG');
    const plane = page.getByTestId('plane');
    await plane.focus();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowUp');
    const cell = page.getByTestId('cell-value');
    const [x, y] = [5, 2];
    const row = csvHere(over, metrics).split('\r\n')[1 + y * 9 + x]?.split(',').map(Number) as number[];
    expect(await cell.innerText()).toContain(`Walk ${row[0]} px/s`);
    expect(await cell.innerText()).toContain(`${Number(row[2]?.toPrecision(3))} px`);
    // A rectangle that is dragged becomes the axes.
    const box = await plane.boundingBox();
    if (!box) throw new Error('no plane');
    await page.mouse.move(box.x + box.width * 0.3, box.y + box.height * 0.3);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width * 0.6, box.y + box.height * 0.6, { steps: 4 });
    await page.mouse.up();
    await page.getByRole('button', { name: 'Zoom out' }).waitFor();
    await isWhole(page);
    const zoomed = new URL(page.url()).searchParams.getAll('over').map((text) => text.split('=')[1]?.split(':').map(Number) as number[]);
    expect(zoomed[0]?.[0]).toBeGreaterThan(60);
    expect(zoomed[0]?.[1]).toBeLessThan(320);
    expect(zoomed[1]?.[0]).toBeGreaterThan(300);
    expect(zoomed[0]?.[2]).toBe(9);
    await page.getByRole('button', { name: 'Zoom out' }).click();
    await until(
      async () => new URL(page.url()).searchParams.getAll('over'),
      (now) => JSON.stringify(now) === JSON.stringify(over),
      'the axes as they were',
    );
    await isWhole(page);
    expect(await violationsOf(page)).toEqual([]);
    expect(await overflowOf(page)).toEqual([0, 0, 0, 0]);
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('refuses axes that can’t be swept, at their field, and opens the curves of an effect', async () => {
    const id = await createDocument(address, 'tunings', boots);
    const { page, faults } = await openPage(browser, sweepOf(id, ['pace.walkSpeed=60:320:5'], ['stopDistance', 'riseTime']), {});
    await isWhole(page);
    const curves = page.getByTestId('curves');
    await curves.waitFor();
    const last = page.getByRole('textbox', { name: 'Last value of Walk' });
    await last.fill('20');
    await last.press('Enter');
    await page.getByRole('alert').getByText('expected the first below the second').waitFor();
    await last.fill('300');
    await last.press('Enter');
    await isWhole(page);
    expect(new URL(page.url()).searchParams.getAll('over')).toEqual(['pace.walkSpeed=60:300:5']);
    const effect = page.getByRole('button', { name: /^Decelerate, Stops within: −/ });
    await effect.click();
    await until(
      async () => new URL(page.url()).searchParams.getAll('over').join(),
      (over) => over.startsWith('ramp.decelerate='),
      'the sweep of the effect',
    );
    await isWhole(page);
    await curves.focus();
    await page.keyboard.press('ArrowRight');
    await page.getByRole('button', { name: 'Save as revision' }).click();
    await until(
      async () => ((await (await fetch(`${address}/api/v1/tunings/${id}`)).json()) as { head: number }).head,
      (head) => head === 2,
      'the revision',
    );
    await page.getByRole('button', { name: 'Compare with today' }).waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('on the queue has the same values, also when it is run again at once, and is there after a reload', async () => {
    const id = await createDocument(address, 'tunings', boots);
    const over = ['pace.walkSpeed=60:320:40', 'ramp.decelerate=300:4800:20:log'];
    const metrics = ['stopDistance', 'tightestGap'] as const;
    const { page, faults } = await openPage(browser, sweepOf(id, over, metrics), {});
    await isWhole(page);
    const here = (await downloaded(page, 'CSV')).toString();
    expect(withoutMet(here)).toEqual(
      csvHere(over, metrics)
        .split('\r\n')
        .map((line, i, all) => (i === all.length - 1 ? '' : line)),
    );
    await page.getByRole('checkbox', { name: 'On the queue' }).check();
    // Each run stops the one before, and the last one is whole.
    const count = page.getByRole('textbox', { name: 'Count of values of Walk' });
    for (let i = 0; i < 3; i++) await count.press('Enter');
    await page.locator('[data-testid=progress][data-state=running]').waitFor();
    await isWhole(page);
    expect((await downloaded(page, 'CSV')).toString()).toBe(here);
    await page.reload();
    await isWhole(page);
    await page.getByRole('checkbox', { name: 'On the queue' }).check();
    await page.getByRole('button', { name: 'Run again' }).click();
    await isWhole(page);
    expect((await downloaded(page, 'CSV')).toString()).toBe(here);
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('is kept as a document with its results, opened from the list, the shelf and its address, and says what has changed since', async () => {
    const { id: project } = (await (
      await fetch(`${address}/api/v1/projects`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ name: 'Kept sweeps' }),
      })
    ).json()) as { id: string };
    const id = await createDocument(address, 'tunings', { ...boots, name: 'Kept boots' }, project);
    const other = await createDocument(address, 'tunings', { ...boots, name: 'Other boots' }, project);
    const over = ['pace.walkSpeed=60:320:9', 'ramp.decelerate=300:4800:7:log'];
    const { page, faults } = await openPage(browser, sweepOf(id, over, ['stopDistance']), {});
    await isWhole(page);
    // A metric of a kept tape belongs to it.
    const tape = { name: 'Out and about', ground: 'Boardwalk', hz: 60, ticks: 90, events: [{ at: 0, press: 'right' }] };
    await createDocument(address, 'tapes', { format: 'zygopod/tape', version: 3, scheme: 'steer', ...tape }, project);
    const sprint = { ...tape, name: 'Sprint', events: [...tape.events, { at: 0, press: 'sprint' }] };
    await createDocument(address, 'tapes', { format: 'zygopod/tape', version: 3, scheme: 'steer', ...sprint }, project);
    await page.reload();
    await isWhole(page);
    await page.getByRole('combobox', { name: 'Tape' }).selectOption('Out and about');
    await page.getByRole('combobox', { name: 'Add a metric' }).selectOption('Peak speed on the tape');
    await page.getByText('Speed on the tape Out and about').waitFor();
    await isWhole(page);
    const csv = (await downloaded(page, 'CSV')).toString();
    expect(csv.split('\r\n')[0]).toContain('stopDistance,peakSpeed@1');
    // Another tape is measured at once, in place of this.
    const csvNow = async () => (await downloaded(page, 'CSV')).toString();
    await page.getByRole('combobox', { name: 'Tape' }).selectOption('Sprint');
    await until(csvNow, (now) => now.length > 0.9 * csv.length && now !== csv, 'values of the other tape');
    await page.getByRole('combobox', { name: 'Tape' }).selectOption('Out and about');
    await until(csvNow, (now) => now === csv, 'values of the first tape');
    const keep = async (name: string) => {
      await page.getByRole('button', { name: 'Keep sweep' }).click();
      await page.getByRole('textbox', { name: 'Name' }).fill(name);
      await page.getByRole('button', { name: 'Keep', exact: true }).click();
      // The dialog closes once the results are kept, too.
      await page.getByRole('dialog').waitFor({ state: 'detached' });
      await page.getByRole('group', { name: 'Kept' }).getByRole('button', { name, exact: true }).waitFor();
    };
    await keep('Here');
    await page.getByRole('checkbox', { name: 'On the queue' }).check();
    await page.getByRole('button', { name: 'Run again' }).click();
    await page.locator('[data-testid=progress][data-state=running]').waitFor();
    await isWhole(page);
    await keep('On the queue');
    const results = page.getByText('Kept results');
    for (const name of ['Here', 'On the queue']) {
      // From the address, with no run.
      await page.goto(sweepOf(other, ['pace.walkSpeed=60:320:3'], ['stopDistance']));
      await isWhole(page);
      await page.getByRole('group', { name: 'Kept' }).getByRole('button', { name, exact: true }).click();
      await page.waitForURL(new RegExp(`/sweep/${id}\\?.*kept=`));
      await results.waitFor();
      await page.reload();
      await results.waitFor();
      expect((await downloaded(page, 'CSV')).toString(), name).toBe(csv);
    }
    // A changed tuning is said so, and a new run is no kept result any more.
    await fetch(`${address}/api/v1/tunings/${id}/revisions`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'if-match': '"1"' },
      body: JSON.stringify({ file: { ...boots, name: 'Kept boots', ramp: { ...boots.ramp, accelerate: 800 } } }),
    });
    await page.goto(`${address}/shelf/${project}?show=sweeps`);
    await page.locator('[data-doc=Here]').getByRole('button', { name: 'Here', exact: true }).click();
    await page.getByRole('button', { name: 'Open', exact: true }).click();
    await results.waitFor();
    await page.getByText('The tuning has changed since.').first().waitFor();
    await page.getByText('stale').first().waitFor({ state: 'attached' });
    await page.getByRole('button', { name: 'Run again' }).click();
    await results.waitFor({ state: 'detached' });
    await isWhole(page);
    expect(new URL(page.url()).searchParams.has('kept')).toBe(false);
    await keep('Here');
    await page.reload();
    await results.waitFor();
    expect(await page.getByText('The tuning has changed since.').count()).toBe(0);
    expect(await violationsOf(page)).toEqual([]);
    expect(faults).toEqual([]);
    await page.context().close();
  });
});
