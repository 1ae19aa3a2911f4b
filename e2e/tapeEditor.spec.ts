import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { openBench, openBrowser, place, until } from './browser.ts';

const address = inject('address');
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

const editor = (page: Page) => page.getByRole('region', { name: 'Tape editor' });
const lane = (page: Page, name: string) => editor(page).getByRole('row', { name, exact: true });

/** The words of all parts of the tape. */
const parts = (page: Page) =>
  editor(page)
    .getByRole('gridcell')
    .evaluateAll((all) => all.map((one) => one.getAttribute('aria-label')));

/** An editor with an empty tape of four seconds. */
async function written() {
  const bench = await openBench(browser, address);
  const { page } = bench;
  await page.getByRole('button', { name: 'Tapes' }).click();
  await page.getByRole('button', { name: 'Write one by hand' }).click();
  await editor(page).waitFor();
  return bench;
}

/** A lane of the editor, which is put there if it is not. */
async function withLane(page: Page, name: string) {
  await editor(page).getByLabel('A lane for').selectOption(name);
  await lane(page, name).waitFor();
  const box = await lane(page, name).boundingBox();
  if (!box) throw new Error('no lane');
  return box;
}

describe('the tape editor', () => {
  it('adds, moves, stretches and takes away presses, each driven at once; undo takes them back', async () => {
    const { page, faults } = await written();
    const box = await withLane(page, 'Right');
    const y = box.y + box.height / 2;
    const x = (seconds: number) => box.x + (seconds / 4) * box.width;
    await page.mouse.dblclick(x(1), y);
    await until(
      () => parts(page),
      (all) => all.length === 1 && /^Right, 1\.00 s to 1\.40 s$/.test(all[0] ?? ''),
      'a press of 0.4 s',
    );
    await page
      .getByTestId('loop-cost')
      .getByText(/240 ticks/)
      .waitFor();
    // Its end drawn out, then all of it moved.
    await page.mouse.move(x(1.4) - 2, y);
    await page.mouse.down();
    await page.mouse.move(x(2.4) - 2, y, { steps: 4 });
    await page.mouse.up();
    const end = await until(
      () => parts(page),
      (all) => / to 2\.[34]\d s$/.test(all[0] ?? ''),
      'the press drawn out',
    );
    await page.mouse.move(x(1.5), y);
    await page.mouse.down();
    await page.mouse.move(x(1), y, { steps: 4 });
    await page.mouse.up();
    await until(
      () => parts(page),
      (all) => /^Right, 0\.5\d s/.test(all[0] ?? ''),
      'the press moved',
    );
    // What it does is seen at once: at the end the body is well to the right.
    await page.keyboard.press('p');
    const before = await place(page);
    expect(before.x).toBeGreaterThan(100);
    await editor(page).getByRole('button', { name: 'Undo' }).click();
    await until(
      () => parts(page),
      (all) => all[0] === end[0],
      'the move taken back',
    );
    await editor(page).getByRole('gridcell').focus();
    await page.keyboard.press('Control+z');
    await until(
      () => parts(page),
      (all) => / to 1\.40 s$/.test(all[0] ?? ''),
      'the stretch taken back',
    );
    await editor(page).getByRole('gridcell').focus();
    await page.keyboard.press('ArrowRight');
    await until(
      () => parts(page),
      (all) => /^Right, 1\.02 s/.test(all[0] ?? ''),
      'a tick later',
    );
    await page.keyboard.press('Delete');
    await until(
      () => parts(page),
      (all) => all.length === 0,
      'nothing left',
    );
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('writes sticks, points and swipes, keeps the tape, and saves another revision of it', async () => {
    const { page, faults } = await written();
    for (const [name, words] of [
      ['Stick', /^stick 1\.00 at 0°/],
      ['Points', /^point \d+, \d+, 2\.0/],
      ['Swipes', /^swipe right, 2\.0/],
    ] as const) {
      const box = await withLane(page, name);
      await page.mouse.dblclick(box.x + box.width / 2, box.y + box.height / 2);
      await until(
        () => parts(page),
        (all) => all.some((one) => words.test(one ?? '')),
        name,
      );
    }
    const stick = editor(page).getByRole('gridcell', { name: /^stick/ });
    await stick.click();
    await editor(page).getByLabel('push').fill('0.5');
    await editor(page).getByLabel('push').press('Enter');
    await editor(page).getByLabel('direction').fill('90');
    await editor(page).getByLabel('direction').press('Enter');
    await editor(page)
      .getByRole('gridcell', { name: /^stick 0\.50 at 90°/ })
      .waitFor();
    await editor(page).getByLabel('Length').fill('3');
    await editor(page).getByLabel('Length').press('Enter');
    await page.getByTestId('loop-span').getByText('0.0 to 3.0 s').waitFor();
    await editor(page).getByRole('button', { name: 'Keep as new' }).click();
    const name = `By hand ${Date.now()}`;
    await page.getByRole('textbox', { name: 'Name' }).fill(name);
    await page.getByRole('button', { name: 'Keep', exact: true }).click();
    await page.getByRole('dialog').waitFor({ state: 'detached' });
    await editor(page)
      .getByRole('gridcell', { name: /^swipe/ })
      .focus();
    await page.keyboard.press('Delete');
    await editor(page).getByRole('button', { name: 'Save revision of the tape' }).click();
    const list = async () =>
      ((await (await fetch(`${address}/api/v1/tapes?q=${encodeURIComponent(name)}`)).json()) as { items: { id: string; head: number }[] })
        .items;
    const [kept] = await until(list, (items) => items[0]?.head === 2, 'the second revision');
    const { file } = (await (await fetch(`${address}/api/v1/tapes/${kept?.id}`)).json()) as { file: { ticks: number; events: object[] } };
    expect(file.ticks).toBe(180);
    expect(file.events).toEqual([
      { at: 120, stick: [0, 0.5] },
      { at: 120, point: expect.anything() },
      { at: 144, stick: [0, 0] },
    ]);
    // The first revision is there still.
    await page.getByRole('button', { name: 'Tapes' }).click();
    await page.getByRole('button', { name: 'History of this one' }).click();
    await page.getByRole('listitem').filter({ hasText: 'rev 1' }).getByRole('button', { name: 'Loop' }).click();
    await page.getByRole('dialog').waitFor({ state: 'detached' });
    expect(faults).toEqual([]);
    await page.context().close();
  });
});

describe('tapes as files', () => {
  const folder = mkdtempSync(join(tmpdir(), 'tapes-'));

  it('go out, and come in again as they were', async () => {
    const { page, faults } = await openBench(browser, address);
    await page.getByRole('button', { name: 'Loop “A lap of the Boardwalk”' }).click();
    await page.getByRole('button', { name: 'Looping' }).waitFor();
    await page.getByRole('button', { name: 'Tapes' }).click();
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Export this tape' }).click()]);
    expect(file.suggestedFilename()).toBe('a-lap-of-the-boardwalk.tape.json');
    const path = join(folder, 'out.tape.json');
    await file.saveAs(path);
    const demo = readFileSync(new URL('../demo/boardwalk-lap.tape.json', import.meta.url), 'utf8');
    expect(JSON.parse(readFileSync(path, 'utf8'))).toEqual(JSON.parse(demo));
    await page.getByRole('button', { name: 'Drive', exact: true }).click();
    await page.getByLabel('Tape file').setInputFiles(path);
    await page.getByRole('button', { name: 'Looping' }).waitFor();
    expect(await page.getByTestId('loop-span').textContent()).toBe('0.0 to 17.0 s');
    expect(faults).toEqual([]);
    await page.context().close();
  });

  const tape = { format: 'zygopod/tape', version: 2, name: 'Bad', hz: 60, ticks: 60, events: [] as object[] };
  const wrong: [string, unknown, RegExp][] = [
    ['no JSON at all', '{ "format": ', /isn’t JSON/],
    ['another kind of file', { format: 'zygopod/ground', version: 1 }, /is no tape/],
    ['a tick before the beginning', { ...tape, events: [{ at: -3, press: 'up' }] }, /cannot be read: events\.0\.at/],
    ['a control that there is not', { ...tape, events: [{ at: 3, press: 'jump' }] }, /cannot be read: events\.0/],
    ['a newer version', { ...tape, version: 99 }, /cannot be read: version/],
    ['no ticks', { ...tape, ticks: 0 }, /cannot be read: ticks/],
    ['a stick beyond its end', { ...tape, events: [{ at: 3, stick: [7, 0] }] }, /cannot be read: events\.0/],
  ];
  it('that are invalid are explained, and nothing changes', async () => {
    const { page, faults } = await openBench(browser, address);
    const path = join(folder, 'bad.tape.json');
    for (const [what, content, words] of wrong) {
      writeFileSync(path, typeof content === 'string' ? content : JSON.stringify(content));
      await page.getByLabel('Tape file').setInputFiles(path);
      await page.getByRole('alert').getByText(words).waitFor();
      expect(await page.getByRole('button', { name: 'Looping' }).count(), what).toBe(0);
      await page.keyboard.press('Escape');
      await page.getByRole('alert').waitFor({ state: 'detached' });
    }
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('with events out of order and a body of another version are played, and the latter is reported', async () => {
    const { page } = await openBench(browser, address);
    const path = join(folder, 'foreign.tape.json');
    const events = [
      { at: 40, release: 'right' },
      { at: 4, press: 'right' },
    ];
    writeFileSync(path, JSON.stringify({ ...tape, events, snapshot: { hands: {}, body: { x: 200, y: 200, legsCount: 4 } } }));
    await page.getByLabel('Tape file').setInputFiles(path);
    await page
      .getByRole('alert')
      .getByText(/legsCount/)
      .waitFor();
    await page.getByRole('button', { name: 'Looping' }).waitFor();
    await page.context().close();
  });
});

/** Drives to the right for more than a second. */
async function goRight(page: Page): Promise<void> {
  await page.keyboard.down('KeyD');
  await until(
    () => place(page),
    ({ x }) => x > 330,
    'a way to the right',
  );
  await page.keyboard.up('KeyD');
}

describe('a drive that ended', () => {
  it('with a restart can still be looped', async () => {
    const { page, faults } = await openBench(browser, address);
    await goRight(page);
    await page.keyboard.press('r');
    await page.getByRole('button', { name: 'Loop the drive before' }).click();
    await page.getByRole('button', { name: 'Looping' }).waitFor();
    await page.getByText('Before the restart').waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('or that ended with its page, can be looped after a reload', async () => {
    const { page, faults } = await openBench(browser, address);
    await goRight(page);
    await page.reload();
    await page.getByRole('button', { name: 'Loop the drive before' }).click();
    await page.getByText('Before the page was closed').waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });
});
