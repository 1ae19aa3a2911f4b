import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import {
  choose,
  createDocument,
  enter,
  groundFile,
  happened,
  inFigure,
  layer,
  openBench,
  openBrowser,
  place,
  reading,
  seenAs,
  until,
} from './browser.ts';

let browser: Browser;
const address = inject('address');

beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

/** The bench on a ground of 640 × 384 with click-to-go on, and where its points are on the page. */
async function clickBench(over: object = {}): Promise<{ page: Page; faults: string[]; at(x: number, y: number): [number, number] }> {
  const { page, faults } = await openBench(browser, address, {}, await createDocument(address, 'grounds', groundFile(over)));
  await page.locator('#figure-clicks').getByRole('checkbox', { name: 'Click to go' }).check();
  await page.locator('#figure-clicks').getByRole('checkbox', { name: 'Click to go' }).blur();
  return { page, faults, at: await seenAs(page, 'Whole') };
}

const near = (x: number, y: number) => (at: { x: number; y: number }) => Math.hypot(at.x - x, at.y - y) < 3;

describe('click to go', () => {
  it('goes round the wall to where it was clicked, and stops there', async () => {
    const { page, faults, at } = await clickBench({
      walls: [
        {
          points: [
            [200, 0],
            [200, 200],
          ],
          closed: false,
        },
      ],
    });
    await page.mouse.click(...at(320, 60));
    await until(
      () => page.getByTestId('now-to-go').textContent(),
      (words) => /^\d+ px, [\d.]+ s$/.test(words ?? ''),
      'the way left',
    );
    await until(() => place(page), near(320, 60), 'the place that was clicked');
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 0,
      'rest',
    );
    // Marks on the strip are updated a few times a second.
    await until(
      async () => [await happened(page, 'routeSet'), await happened(page, 'arrived')],
      ([set, arrived]) => set === 1 && arrived === 1,
      'both marks on the strip',
    );
    expect(await happened(page, 'wallMet')).toBe(0);
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('follows the pointer while it is held, and a steering key drops the destination', async () => {
    const { page, at } = await clickBench();
    await page.mouse.move(...at(400, 80));
    await page.mouse.down();
    await until(
      () => place(page),
      (body) => body.x > 150,
      'a way to the right',
    );
    await page.mouse.move(...at(160, 340));
    await until(
      () => place(page),
      (body) => body.y > 160,
      'the pointer followed down',
    );
    await page.mouse.up();
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 0,
      'rest once let go',
    );
    await page.mouse.click(...at(560, 80));
    await until(
      () => reading(page, 'speed'),
      (speed) => speed > 100,
      'the way to a click',
    );
    await page.keyboard.press('KeyS', { delay: 80 });
    await until(
      () => happened(page, 'routeCancelled'),
      (count) => count > 0,
      'the dropped destination',
    );
    await page.context().close();
  });

  it('planted, stands and turns to the pointer; let go, it forgets or goes on', async () => {
    const { page, at } = await clickBench();
    await choose(page, 'clicks', 'After plant', 'resume');
    await page.mouse.click(...at(560, 80));
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 140,
      'the way',
    );
    await page.keyboard.down('KeyX');
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 0,
      'planted feet',
    );
    const body = await place(page);
    await page.mouse.move(...at(body.x, 360));
    await until(
      () => page.getByTestId('now-facing').textContent(),
      (words) => words?.startsWith('S ') === true,
      'the facing to the pointer',
    );
    await page.keyboard.up('KeyX');
    await until(() => place(page), near(560, 80), 'the destination gone on to');
    await page.context().close();
  });

  it('in a wall takes the nearest place or is refused, and says so', async () => {
    const hut = {
      walls: [
        {
          points: [
            [300, 100],
            [420, 100],
            [420, 220],
            [300, 220],
          ],
          closed: true,
        },
      ],
      start: { x: 80, y: 160, facing: 0 },
    };
    const { page, at } = await clickBench(hut);
    await choose(page, 'clicks', 'Unreachable', 'refuse');
    await page.mouse.click(...at(340, 160));
    await until(
      () => happened(page, 'unreachable'),
      (count) => count === 1,
      'the refusal',
    );
    expect((await place(page)).x).toBe(80);
    await choose(page, 'clicks', 'Unreachable', 'nearest');
    await page.mouse.click(...at(340, 160));
    await until(
      () => place(page),
      (body) => Math.abs(body.x - (300 - 14)) < 1,
      'the nearest place',
    );
    await until(
      () => happened(page, 'nearestTaken'),
      (count) => count === 1,
      'its mark on the strip',
    );
    await page.context().close();
  });

  it.each(['30', '144'])('at %s Hz goes, is clicked on at speed, is planted, and arrives at high speed', async (hz) => {
    const { page, at } = await clickBench({
      walls: [
        {
          points: [
            [320, 0],
            [320, 220],
          ],
          closed: false,
        },
      ],
    });
    await enter(page, 'clock', /^Tick rate/, hz);
    await enter(page, 'pace', /^Walk/, '200');
    await choose(page, 'clicks', 'After plant', 'resume');
    await page.mouse.click(...at(260, 60));
    await until(
      () => reading(page, 'speed'),
      (speed) => speed > 120,
      'a run',
    );
    // Behind the wall, at speed: it goes on without stopping, and round.
    await page.mouse.click(...at(500, 60));
    expect(await reading(page, 'speed')).toBeGreaterThan(60);
    await page.keyboard.down('KeyX');
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 0,
      'planted feet',
    );
    await page.keyboard.up('KeyX');
    await until(() => place(page), near(500, 60), 'the place behind the wall');
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 0,
      'rest on the point',
    );
    expect(await happened(page, 'stuck')).toBe(0);
    await page.context().close();
  });

  it('is not meant by clicks on panels, legends and on-screen controls', async () => {
    const { page } = await clickBench();
    await layer(page, 'Stick and buttons', true);
    await layer(page, 'Grid', false);
    await page.getByRole('heading', { name: /Changed since/ }).click();
    await page.getByRole('heading', { name: /Pace/ }).click();
    await page.getByRole('button', { name: 'Action' }).click();
    await page.getByTestId('strip').click({ position: { x: 300, y: 40 } });
    expect(await happened(page, 'routeSet')).toBe(0);
    expect((await place(page)).x).toBe(80);
    await page.context().close();
  });

  it('with radius-only arrival below a tick’s travel circles, and the figure shows it', async () => {
    const { page, at } = await clickBench();
    const run = () => page.getByTestId('click-run').textContent();
    await until(run, (words) => words?.startsWith('there in') === true, 'an arrival in the figure');
    await choose(page, 'clicks', 'Arrival', 'radiusOnly');
    await page.locator('#figure-clicks').getByRole('checkbox', { name: 'Brake' }).uncheck();
    await choose(page, 'pace', 'Ramp', 'instant');
    await enter(page, 'pace', /^Walk/, '600');
    await enter(page, 'clicks', /^Arrive radius/, '0.5');
    await until(run, (words) => words === 'never arrives', 'circling in the figure');
    await page.mouse.click(...at(403.3, 81.7));
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 600,
      'the way',
    );
    // Two seconds of its own time later it is still about the point, however many frames these took.
    const walking = async () =>
      Number.parseFloat(
        (
          (await page
            .getByText(/^for \d+\.\d s$/)
            .first()
            .textContent()) ?? ''
        ).replace('for ', ''),
      );
    await until(walking, (seconds) => seconds >= 2, 'two seconds of walking');
    expect(await reading(page, 'speed')).toBe(600);
    expect(await happened(page, 'arrived')).toBe(0);
    await page.locator('#figure-clicks').getByRole('checkbox', { name: 'Brake' }).check();
    await choose(page, 'clicks', 'Arrival', 'exact');
    await until(
      () => reading(page, 'speed'),
      (speed) => speed === 0,
      'the cure',
    );
    await page.context().close();
  });

  it('compares the planners on this ground', async () => {
    const { page } = await clickBench({
      goal: { x: 400, y: 80, radius: 12 },
      walls: [
        {
          points: [
            [200, 0],
            [200, 200],
          ],
          closed: false,
        },
      ],
    });
    const words = await inFigure(page, 'clicks', async () => {
      await page.getByRole('button', { name: 'Compare planners from here to the goal' }).click();
      return page.getByTestId('planner-lengths').innerText();
    });
    const lines = words.split('\n').map((line) => Number(/(\d+) px/.exec(line)?.[1]));
    expect(lines).toHaveLength(4);
    expect(lines[0]).toBe(320);
    expect(lines[1]).toBeGreaterThan(330);
    expect(lines[2]).toBeGreaterThanOrEqual(lines[1] as number);
    expect(lines[3]).toBeGreaterThan(lines[2] as number);
    await page.context().close();
  });
});
