import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { createDocument, groundFile, openBrowser, openPage, ready, until } from './browser.ts';

const address = inject('address');
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

const send = async (path: string, body: object, headers: Record<string, string> = {}) => {
  const answer = await fetch(`${address}/api/v1${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', ...headers },
    body: JSON.stringify(body),
  });
  expect(answer.status, path).toBeLessThan(300);
  return (await answer.json()) as { id: string };
};
const save = (collection: string, id: string, head: number, file: object, note = '') =>
  send(`/${collection}/${id}/revisions`, { file, note }, { 'if-match': `"${head}"` });
const tuning = (name: string, walkSpeed: number) => ({ format: 'zygopod/tuning', version: 2, name, pace: { walkSpeed } });
const walls = (x: number) => [
  {
    points: [
      [x, 40],
      [x, 300],
    ],
    closed: false,
  },
];

/** A row of the shelf: its picture's bytes, and its state. */
async function rowOf(page: Page, name: string) {
  const row = page.locator(`li[data-doc="${name}"]`);
  await row.getByTestId('standing').waitFor();
  await row.getByTestId('picture').waitFor();
  return row.evaluate(async (element) => {
    const canvas = document.createElement('canvas');
    const image = element.querySelector('img') as HTMLImageElement;
    await image.decode().catch(() => undefined);
    canvas.width = image.naturalWidth;
    canvas.height = image.naturalHeight;
    canvas.getContext('2d')?.drawImage(image, 0, 0);
    const { met, missed } = (element.querySelector('[data-testid=standing]') as HTMLElement).dataset;
    return { picture: canvas.toDataURL(), stands: `${met} met, ${missed} missed` };
  });
}

describe('a change elsewhere', () => {
  it('gives the shelf other pictures and judgements, of the document, its ground and its targets, and keeps the right ones', async () => {
    const { id: project } = await send('/projects', { name: `Watched ${Date.now()}` });
    const own = (collection: string, file: object) => send(`/${collection}?project=${project}`, { file });
    const band = (min: number) => ({ format: 'zygopod/targets', version: 1, name: 'Pace', targets: [{ metric: 'stopDistance', min }] });
    const ground = groundFile({ walls: walls(500) });
    const [boots, quay, targets] = [
      await own('tunings', tuning('Boots', 100)),
      await own('grounds', ground),
      await own('targets', band(10)),
    ];
    const { page, faults } = await openPage(browser, `${address}/shelf/${project}`, {});
    // A picture that is being replaced is read again.
    const shows = (what: string, is: (row: Awaited<ReturnType<typeof rowOf>>) => boolean) =>
      until(
        () => rowOf(page, 'Boots'),
        (row) => row.picture !== 'data:,' && is(row),
        what,
      );
    const first = await shows('the target missed', ({ stands }) => stands === '0 met, 1 missed');
    await save('tunings', boots.id, 1, tuning('Boots', 220));
    const faster = await shows('the target met', ({ stands, picture }) => stands === '1 met, 0 missed' && picture !== first.picture);
    await save('targets', targets.id, 1, band(30));
    await shows('a target that is missed again', ({ stands }) => stands === '0 met, 1 missed');
    await save('grounds', quay.id, 1, { ...ground, walls: walls(130) });
    const walled = await shows('the wall in its way', ({ picture }) => picture !== faster.picture && picture !== first.picture);
    // What this browser has kept meanwhile is of what there is now.
    await page.reload();
    expect(await shows('a picture', () => true)).toEqual(walled);
    // What was, is there again where it is gone back to.
    await save('grounds', quay.id, 2, ground);
    await shows('the ground as it was', ({ picture }) => picture === faster.picture);
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('of long ago is found again: a revision that has a name stands on the line, all others are in a list', async () => {
    const { id: project } = await send('/projects', { name: `Long ${Date.now()}` });
    const { id } = await send(`/tunings?project=${project}`, { file: tuning('Boots', 101) });
    for (let head = 1; head < 20; head++) await save('tunings', id, head, tuning('Boots', 101 + head), `Step ${head}`);
    const named = await fetch(`${address}/api/v1/tunings/${id}/revisions/3/name`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: 'alpha' }),
    });
    expect(named.ok).toBe(true);
    const { page, faults } = await openPage(browser, `${address}/shelf/${project}`, {});
    const row = page.locator('li[data-doc="Boots"]');
    const between = page.getByRole('region', { name: 'Between revisions' });
    await row.getByRole('button', { name: 'Revision 3, alpha' }).click();
    await between.getByText('102 → 103 px/s').waitFor();
    await row.getByText('“Step 2”').waitFor();
    await between.getByRole('button', { name: 'All revisions' }).click();
    const list = page.getByRole('dialog');
    await list.getByText('alpha').waitFor();
    await list.getByRole('listitem').filter({ hasText: 'rev 6' }).getByRole('button', { name: 'Look at' }).click();
    await list.waitFor({ state: 'detached' });
    await between.getByText('105 → 106 px/s').waitFor();
    await row.getByText('rev 6', { exact: true }).waitFor();
    await between.getByRole('button', { name: 'Go back to rev 6' }).click();
    await between.getByText('120 → 106 px/s').waitFor();
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('is on the open bench at once, and no draft is lost by it', async () => {
    const id = await createDocument(address, 'tunings', tuning('Watched', 100));
    const { page, faults } = await openPage(browser, `${address}/bench/${id}`, {});
    await ready(page);
    const walk = page.locator('#figure-pace').getByRole('textbox', { name: /^Walk/ });
    await save('tunings', id, 1, tuning('Watched', 123));
    await until(
      () => walk.inputValue(),
      (value) => value.startsWith('123'),
      'the number that was saved elsewhere',
    );
    await page.getByRole('banner').getByText('rev 2').waitFor();
    // With changes of its own, the page offers to bring both together.
    await walk.fill('150');
    await walk.press('Enter');
    await until(
      () => page.getByTestId('save-state').getAttribute('data-state'),
      (state) => state === 'draft',
      'the draft kept',
    );
    await save('tunings', id, 2, { ...tuning('Watched', 123), body: { radius: 9 } });
    await until(
      () => page.getByTestId('save-state').getAttribute('data-state'),
      (state) => state === 'conflict',
      'the conflict’s notice',
    );
    expect(await walk.inputValue()).toContain('150');
    expect(faults).toEqual([]);
    await page.context().close();
  });
});
