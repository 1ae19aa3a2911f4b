import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import {
  choose,
  createDocument,
  enter,
  field,
  groundFile,
  openBench,
  openBrowser,
  openPage,
  place,
  placesOn,
  reading,
  ready,
  seenAs,
  until,
} from './browser.ts';

let browser: Browser;
const address = inject('address');

beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

/** Pixels a unit. */
const scale = async (page: Page) => Number((await page.getByTestId('yard').getAttribute('data-view'))?.split(' ')[0]);
const mode = (page: Page) => page.getByRole('button', { name: /^(Whole|Follow|Free)$/ }).innerText();
const large = { size: { width: 4000, height: 3000 }, start: { x: 2000, y: 1500 } };

/** True if the body is on the yard's canvas, as far inside as this (pixels). */
async function isInside(page: Page, margin: number): Promise<boolean> {
  const { x, y } = await place(page);
  const box = await page.getByTestId('yard').boundingBox();
  const [px, py] = (await placesOn(page))(x, y);
  if (!box) return false;
  return px > box.x + margin && px < box.x + box.width - margin && py > box.y + margin && py < box.y + box.height - margin;
}

describe('the yard', () => {
  it('follows the body on a large ground, at a size that can be judged, and shows where that is on a map', async () => {
    const { page, faults } = await openBench(browser, address, {}, await createDocument(address, 'grounds', groundFile(large)));
    expect(await mode(page)).toBe('Follow');
    await until(
      () => scale(page),
      (now) => 12 * now >= 10 && 12 * now <= 20,
      'a body of ten to twenty pixels',
    );
    await page.keyboard.down('KeyD');
    await page.keyboard.down('ShiftLeft');
    await until(
      () => place(page),
      ({ x }) => x > 2600,
      'a way beyond what was in sight',
    );
    expect(await isInside(page, 50)).toBe(true);
    await page.keyboard.up('KeyD');
    await page.keyboard.up('ShiftLeft');
    const map = page.getByTestId('overview');
    const box = await map.boundingBox();
    if (!box) throw new Error('there is no map');
    // While time runs the view follows the body: it must come to rest first.
    await until(
      async () => {
        await page.mouse.click(box.x + 4, box.y + 4);
        return isInside(page, 0);
      },
      (inside) => !inside,
      'another part of the ground',
    );
    expect(await mode(page)).toBe('Free');
    await page.getByTestId('yard').dblclick({ position: { x: 300, y: 250 } });
    await until(
      () => mode(page),
      (words) => words === 'Follow',
      'the view that follows',
    );
    expect(await isInside(page, 50)).toBe(true);
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('is seen whole or free as one likes; a small ground is whole from the start, and needs no map', async () => {
    const small = groundFile({ size: { width: 320, height: 192 } });
    const { page } = await openBench(browser, address, {}, await createDocument(address, 'grounds', small));
    expect(await mode(page)).toBe('Whole');
    expect(await page.getByTestId('overview').isVisible()).toBe(false);
    const whole = await until(
      () => scale(page),
      (now) => now > 0,
      'a view',
    );
    await page.getByTestId('yard').hover();
    await page.mouse.wheel(0, -400);
    await until(
      () => scale(page),
      (now) => now > whole * 1.3,
      'a nearer view',
    );
    expect(await mode(page)).toBe('Free');
    await seenAs(page, 'Whole');
    expect(await scale(page)).toBeCloseTo(whole, 9);
    await page.context().close();
  });

  it.each([
    ['a ground of one cell', { size: { width: 32, height: 32 }, start: { x: 16, y: 16 } }, 'body.radius', '0.1'],
    ['a body of a thousand', { size: { width: 16_384, height: 16_384 }, start: { x: 8000, y: 8000 } }, 'body.radius', '1000'],
  ])('keeps %s in sight and drivable', async (_, over, _path, value) => {
    const { page, faults } = await openBench(browser, address, {}, await createDocument(address, 'grounds', groundFile(over)));
    await enter(page, 'body', /^Radius/, value);
    await until(
      () => page.getByTestId('save-state').getAttribute('data-state'),
      (state) => state === 'draft',
      'the draft',
    );
    await page.reload();
    await ready(page);
    await until(
      () => scale(page),
      (now) => Number(value) * now >= 9.99,
      'a body that can be seen',
    );
    expect(await isInside(page, 0)).toBe(true);
    const before = await place(page);
    await page.keyboard.down('KeyD');
    await until(
      () => place(page),
      ({ x }) => x > before.x,
      'a way to the right',
    );
    await page.keyboard.up('KeyD');
    expect(await isInside(page, 0)).toBe(true);
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('does not move or change its size when a notice comes and goes', async () => {
    const { page } = await openBench(browser, address);
    const box = async () => JSON.stringify([await page.getByTestId('yard').boundingBox(), await scale(page)]);
    const before = await box();
    await page.keyboard.press('KeyB');
    await page.getByText('You are driving the last saved revision').waitFor();
    expect(await box()).toBe(before);
    await page.keyboard.press('KeyB');
    await page.getByText('You are driving the last saved revision').waitFor({ state: 'hidden' });
    expect(await box()).toBe(before);
    await page.context().close();
  });
});

describe('figures', () => {
  it('show their four first rows, and all of them upwards until something else is pressed', async () => {
    const { page } = await openBench(browser, address);
    const pace = page.locator('#figure-pace');
    expect(await pace.getByRole('textbox').count()).toBe(4);
    await pace.getByRole('button', { name: /^all \d+$/ }).click();
    expect(await field(page, 'pace', /^Brake/).isVisible()).toBe(true);
    await page.keyboard.press('Escape');
    await field(page, 'pace', /^Brake/).waitFor({ state: 'detached' });
    await pace.getByRole('button', { name: /^all \d+$/ }).click();
    await page.getByTestId('yard').click({ position: { x: 700, y: 200 } });
    await field(page, 'pace', /^Brake/).waitFor({ state: 'detached' });
    await page.context().close();
  });

  it('come in the order of what the tuning lives by', async () => {
    const { page } = await openBench(browser, address);
    const first = () => page.getByRole('group', { name: 'Figures' }).getByRole('heading').first().innerText();
    expect(await first()).toContain('Pace');
    await choose(page, 'hands', 'Scheme', 'step');
    await until(first, (title) => title.includes('Grid steps'), 'grid steps in front');
    await page.getByText('Step from cell to cell').waitFor();
    await page.context().close();
  });

  it('mark what follows a changed number as following, not as changed', async () => {
    const { page } = await openBench(browser, address);
    await enter(page, 'pace', /^Walk/, '160');
    const changes = page.getByRole('region', { name: 'Changes' });
    await changes.getByRole('button', { name: 'Revert Walk' }).waitFor();
    expect(await changes.getByRole('listitem').count()).toBe(1);
    expect(await changes.getByText(/Sprint follows: 245 → 280/).count()).toBe(1);
    await changes.getByRole('button', { name: 'Revert Walk' }).click();
    await changes.getByText('Nothing yet').waitFor();
    await page.context().close();
  });
});

describe('a tuning', () => {
  const action = async (page: Page, name: string) => {
    await page.getByRole('button', { name: /^Tuning: / }).click();
    await page.getByRole('dialog').getByRole('button', { name, exact: true }).click();
  };

  it('is duplicated with its changes, renamed, and archived', async () => {
    const { page, faults } = await openBench(browser, address);
    const original = page.url();
    await enter(page, 'pace', /^Walk/, '151');
    await action(page, 'Duplicate this one');
    await page.waitForURL((url) => url.href !== original);
    await page.getByRole('button', { name: 'Tuning: Carrier, day boots, a copy' }).waitFor();
    await ready(page);
    expect(await field(page, 'pace', /^Walk/).inputValue()).toBe('151');
    await action(page, 'Rename this one');
    await page.getByLabel('Name', { exact: true }).fill('Boots of one day');
    await page.getByRole('button', { name: 'Rename', exact: true }).click();
    await page.getByRole('button', { name: 'Tuning: Boots of one day' }).waitFor();
    await until(
      () => page.getByTestId('save-state').getAttribute('data-state'),
      (state) => state === 'draft',
      'the draft',
    );
    const copy = page.url();
    await action(page, 'Archive this one');
    await page.waitForURL((url) => url.href !== copy);
    await ready(page);
    expect((await fetch(copy)).status).toBe(404);
    expect((await fetch(original)).status).toBe(200);
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('is made from plain, and comes up on the ground that it was last on', async () => {
    const { page } = await openBench(browser, address);
    const first = page.url();
    await action(page, 'New tuning');
    await page.waitForURL((url) => url.href !== first);
    await page.getByRole('button', { name: 'Tuning: New tuning' }).waitFor();
    const ground = await createDocument(address, 'grounds', groundFile({ name: 'Quay of its own' }));
    await page.goto(`${page.url().split('?')[0]}?ground=${ground}`);
    await ready(page);
    await page.goto(page.url().split('?')[0] as string);
    await page.getByRole('button', { name: 'Ground: Quay of its own' }).waitFor();
    await page.context().close();
  });

  it('of the demo comes up on the ground made for it, and the bench’s bare address opens one', async () => {
    const { items } = (await (await fetch(`${address}/api/v1/tunings?q=sorting`)).json()) as { items: { id: string }[] };
    const { page } = await openPage(browser, `${address}/bench/${items.at(-1)?.id}`, {});
    await page.getByRole('button', { name: /^Ground: Sorting/ }).waitFor();
    await page.goto(`${address}/bench`);
    await ready(page);
    expect(await reading(page, 'speed')).toBe(0);
    await page.context().close();
  });
});
