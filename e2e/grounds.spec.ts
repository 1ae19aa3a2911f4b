import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { violationsOf } from './axe.ts';
import { keptGround as kept, openBrowser, openGround, overflowOf, until } from './browser.ts';
import { drag, pointOf } from './sheet.ts';

let browser: Browser;
const address = inject('address');

beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

/** Where the body is, by the reading under the ground. */
async function bodyAt(page: Page): Promise<{ x: number; y: number }> {
  const found = /body (-?\d+), (-?\d+)/.exec((await page.getByTestId('ground-reading').textContent()) ?? '');
  return { x: Number(found?.[1]), y: Number(found?.[2]) };
}

/** Holds keys until the body is where it should be. */
async function driveUntil(page: Page, keys: string[], there: (body: { x: number; y: number }) => boolean): Promise<void> {
  for (const key of keys) await page.keyboard.down(key);
  await until(() => bodyAt(page), there, `the body on its way by ${keys.join(' ')}`);
  for (const key of keys) await page.keyboard.up(key);
}

const findings = (page: Page) => page.getByTestId('findings').innerText();
const fresh = (page: Page) => page.locator('[data-testid=findings][data-fresh=true]').waitFor();

describe('drawing', () => {
  it('a course: gates are drawn, dragged, ordered and deleted, with the planned path and what is wrong', async () => {
    const { page, faults, id } = await openGround(browser, address);
    const at = await pointOf(page);
    const path = () => page.getByTestId('course-path').innerText();
    await page.getByText('No gates yet').waitFor();
    await page.keyboard.press('t');
    await drag(page, at(320, 64), at(320, 160));
    await page.getByTestId('gate').nth(0).waitFor();
    await drag(page, at(512, 320), at(608, 320));
    await until(path, (words) => words.includes('Shortest path'), 'the path');
    expect((await kept(page, id)).course).toEqual({
      laps: 1,
      gates: [
        { from: [320, 64], to: [320, 160] },
        { from: [512, 320], to: [608, 320] },
      ],
    });
    // An end of the finish is dragged; the path follows.
    await page.keyboard.press('1');
    const before = await path();
    await drag(page, at(512, 320), at(432, 320));
    await until(path, (words) => words.includes('Shortest path') && words !== before, 'the shorter path');
    await page.getByRole('button', { name: 'Move gate 2 up' }).click();
    expect((await kept(page, id)).course?.gates[0]).toEqual({ from: [432, 320], to: [608, 320] });
    // A wall over the first gate: it can’t be reached, and says so.
    await page.keyboard.press('4');
    await drag(page, at(416, 304), at(624, 336));
    await until(
      () => findings(page),
      (words) => words.includes('Gate 1 can’t be reached') && words.includes('Gate 1 lies in a wall'),
      'the blocked gate',
    );
    await page.keyboard.press('1');
    await page.getByTestId('gate').nth(0).getByRole('button').first().click();
    await page.getByTestId('ground').focus();
    await page.keyboard.press('Delete');
    await until(path, (words) => words.includes('Shortest path'), 'the path through the other gate');
    await page.keyboard.press('Control+z');
    await until(
      () => page.getByTestId('gate').count(),
      (count) => count === 2,
      'the gate again',
    );
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('a maze with a goal, seeing the narrow gap, opening it, and driving through to the goal', async () => {
    const { page, faults, id } = await openGround(browser, address);
    const at = await pointOf(page);
    // A wall across the ground with a gap of 16 for a body of 24, and a goal beyond it.
    await page.keyboard.press('4');
    await drag(page, at(256, 0), at(288, 176));
    await drag(page, at(256, 192), at(288, 384));
    await page.keyboard.press('0');
    await page.mouse.click(...at(560, 80));
    await until(
      () => findings(page),
      (words) => words.includes('can’t be reached') && words.includes('Too narrow: 1') && words.includes('16.0'),
      'the narrow gap',
    );
    // The lower wall is taken by its upper left and right corners and drawn down.
    await page.keyboard.press('1');
    await page.mouse.click(...at(272, 300));
    await drag(page, at(256, 192), at(256, 224));
    await drag(page, at(288, 192), at(288, 224));
    await until(
      () => findings(page),
      (words) => words.includes('can be reached') && !words.includes('Too narrow'),
      'the open gap',
    );
    const ground = await kept(page, id);
    expect(ground.walls).toHaveLength(2);
    expect(ground['goal']).toMatchObject({ x: 560, y: 80 });
    // Down to the gap, through it, and up to the goal; a body may meet the wall on its path and slide into the gap.
    await page.getByTestId('ground').focus();
    await driveUntil(page, ['KeyS'], ({ y }) => y > 190);
    await driveUntil(page, ['KeyD'], ({ x }) => x > 320);
    await driveUntil(page, ['KeyD', 'KeyW'], ({ y }) => y < 92);
    await driveUntil(page, ['KeyD'], ({ x }) => x > 548);
    const body = await bodyAt(page);
    expect(Math.hypot(body.x - 560, body.y - 80)).toBeLessThan(60);
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('cells, blocks of cells, filling, surfaces, erasing, start and frame; undo and redo', async () => {
    const { page, id } = await openGround(browser, address);
    const at = await pointOf(page);
    await page.keyboard.press('6');
    await drag(page, at(200, 100), at(300, 110));
    await page.keyboard.press('5');
    await drag(page, at(16, 300), at(110, 300));
    await page.getByRole('button', { name: 'Add a surface' }).click();
    await page.keyboard.press('Escape');
    await page.getByTestId('ground').focus();
    await page.keyboard.press('5');
    await page.mouse.click(...at(500, 300));
    let ground = await kept(page, id);
    expect(ground.cells[3]?.slice(6, 10)).toBe('####');
    expect(ground.cells[9]?.slice(0, 4)).toBe('####');
    expect(ground.cells[9]?.[15]).toBe('~');
    expect(ground['surfaces']).toMatchObject({ '~': { speed: 0.6 } });
    await page.keyboard.press('8');
    await page.mouse.click(...at(210, 110));
    await page.keyboard.press('9');
    await page.mouse.click(...at(320, 320));
    await page.keyboard.press('f');
    await drag(page, at(64, 64), at(512, 320));
    ground = await kept(page, id);
    expect(ground.cells[3]?.slice(6, 10)).toBe('.###');
    expect(ground['start']).toMatchObject({ x: 320, y: 320 });
    expect(ground['frame']).toEqual({ x: 64, y: 64, width: 448, height: 256 });
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await until(
      () => kept(page, id),
      (file) => file.cells[3]?.slice(6, 10) === '####' && file['frame'] === undefined,
      'three steps back',
    );
    await page.keyboard.press('Control+Shift+Z');
    await until(
      () => kept(page, id),
      (file) => file.cells[3]?.slice(6, 10) === '.###',
      'one step on',
    );
    await page.context().close();
  });

  it('lines, shapes and points by numbers; wrong numbers say what is wrong and change nothing', async () => {
    const { page, id } = await openGround(browser, address);
    const at = await pointOf(page);
    await page.keyboard.press('2');
    await drag(page, at(100, 200), at(205, 240));
    await page.keyboard.press('3');
    for (const [x, y] of [
      [320, 64],
      [400, 64],
      [400, 128],
    ] as const)
      await page.mouse.click(...at(x, y));
    await page.keyboard.press('Enter');
    let ground = await kept(page, id);
    expect(ground.walls).toMatchObject([
      {
        closed: false,
        points: [
          [96, 208],
          [208, 240],
        ],
      },
      {
        closed: true,
        points: [
          [320, 64],
          [400, 64],
          [400, 128],
        ],
      },
    ]);
    const points = page.getByRole('textbox', { name: 'Points, one x, y per line' });
    await points.fill('320, 64\n400, oops');
    await points.blur();
    await page.getByText('line 2: two numbers').waitFor();
    await points.fill('300, 60\n420, 60\n420, 140');
    await points.blur();
    await until(
      () => kept(page, id),
      (file) => file.walls[1]?.points[0]?.[0] === 300,
      'the typed points',
    );
    await page.getByLabel('Width', { exact: true }).fill('-5');
    await page.getByLabel('Width', { exact: true }).press('Enter');
    await page.getByText('from 1 to').waitFor();
    ground = await kept(page, id);
    expect(ground['size']).toEqual({ width: 640, height: 384 });
    await page.context().close();
  });
});

describe('history', () => {
  it('keeps revisions and brings old ones back', async () => {
    const { page, id } = await openGround(browser, address);
    const at = await pointOf(page);
    await page.keyboard.press('4');
    await drag(page, at(256, 128), at(288, 160));
    await page.keyboard.press('Control+s');
    await page.getByLabel('Note (optional)').fill('A hut');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await until(
      () => page.getByTestId('save-state').getAttribute('data-state'),
      (state) => state === 'saved',
      'the revision',
    );
    await page.keyboard.press('h');
    await page.getByText('A hut').waitFor();
    await page.getByRole('listitem').filter({ hasText: 'rev 1' }).getByRole('button', { name: 'Restore' }).click();
    await until(
      () => kept(page, id),
      (file) => file.walls.length === 0,
      'the first revision',
    );
    await page.context().close();
  });
});

describe('everyone', () => {
  it('can use it (axe), at 1280 × 800 and 1024 × 700 without scrolling the page', async () => {
    const { page } = await openGround(browser, address, {
      surfaces: { '~': { name: 'pool', speed: 0.6 } },
      walls: [
        {
          points: [
            [100, 100],
            [200, 140],
          ],
        },
      ],
    });
    await page.getByRole('button', { name: 'Add a wall by numbers' }).click();
    await fresh(page);
    expect(await violationsOf(page)).toEqual([]);
    expect(await overflowOf(page)).toEqual([0, 0, 0, 0]);
    await page.context().close();
  });
});
