import { parseGround, parseTuning, readTape, rerun, resolveTuning, verifyTrace } from '@zygopod/core';
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { ZygopodLink } from '../code/src/link/typescript/zygopodLink.ts';
import { serveGame } from '../game/src/serve.ts';
import { violationsOf } from './axe.ts';
import { openBench, openBrowser, openPage, overflowOf, until } from './browser.ts';

const address = inject('address');
const link = `${address.replace('http', 'ws')}/api/v1/link`;
let browser: Browser;
let game: Awaited<ReturnType<typeof serveGame>>;
beforeAll(async () => {
  browser = await openBrowser();
  game = await serveGame(0, { address: link, faults: [] });
});
afterAll(async () => {
  await browser.close();
  await game.close();
});

interface Listed {
  id: string;
  game: string;
  isLinked: boolean;
  next: number;
  parameters: { name: string; value: number }[];
}
const read = async <T>(path: string): Promise<T> => (await (await fetch(`${address}/api/v1${path}`)).json()) as T;
const linked = async (name: string): Promise<Listed | undefined> =>
  (await read<{ items: Listed[] }>('/links')).items.find((one) => one.game === name && one.isLinked);
const numberOf = async (name: string, number: string) => (await linked(name))?.parameters.find((one) => one.name === number)?.value;

/** The Game screen with a tuning of its own on the Boardwalk. */
async function openGame(): Promise<{ page: Page; faults: string[]; tuning: string; ground: string }> {
  const { page, faults } = await openBench(browser, address);
  const tuning = new URL(page.url()).pathname.split('/').at(-1) as string;
  await page.getByRole('navigation', { name: 'Screens' }).getByRole('link', { name: 'Game' }).click();
  await page.waitForURL(/\/game\//);
  const { items } = await read<{ items: { id: string; demo: string | null }[] }>('/grounds?limit=200');
  const ground = items.find(({ demo }) => demo === 'boardwalk.ground.json')?.id as string;
  await page.goto(`${address}/game/${tuning}?ground=${ground}`);
  return { page, faults, tuning, ground };
}

/** Drives Letter run: out with a dash, on at a walk, and back. */
async function drive(play: Page): Promise<void> {
  // Counted in the game’s page: from outside, keys would be held longer on a slow machine, and the carrier would reach walls.
  const ticks = async (count: number) => {
    const from = Number(await play.locator('canvas').getAttribute('data-tick'));
    await play.waitForFunction((end) => Number(document.querySelector('canvas')?.dataset['tick']) >= end, from + count);
  };
  await play.keyboard.press('r');
  for (const [keys, count] of [
    [['ArrowRight', 'Shift'], 40],
    [['ArrowRight'], 45],
    [['ArrowLeft', 'ArrowDown'], 40],
    [['ArrowUp'], 40],
    [['ArrowLeft', 'Shift'], 30],
    [['ArrowLeft', 'ArrowUp'], 40],
    [['ArrowRight'], 40],
    [[], 25],
  ] as const) {
    for (const key of keys) await play.keyboard.down(key);
    await ticks(count);
    for (const key of keys) await play.keyboard.up(key);
  }
}

const isSound = (page: Page) => page.getByText('Moves as the model does.').waitFor();

describe('the Game screen', () => {
  it('shows Letter run as the model moves, takes a dragged number to it and back, names a fault, and keeps the drive', async () => {
    const { page, faults, tuning } = await openGame();
    await page.getByText('No game is linked.').waitFor();
    await page.getByText('./zygopod game').waitFor();

    const { page: play } = await openPage(browser, game.address, {});
    await play.getByText('linked to Zygopod').waitFor();
    await page.getByTestId('game-link').getByText('Linked').waitFor();
    expect(await overflowOf(page)).toEqual([0, 0, 0, 0]);
    await page.setViewportSize({ width: 1280, height: 800 });
    await drive(play);
    await isSound(page);
    expect(await page.getByTestId('apart').textContent()).toMatch(/apart, at most \d/);

    // Dragged: both change, and the model goes on beside the game.
    const label = page.locator('[data-game-number=walk_speed]').getByText('Walk', { exact: true });
    const box = await label.boundingBox();
    if (!box) throw new Error('there is no label');
    await page.mouse.move(box.x + 10, box.y + 6);
    await page.mouse.down();
    await page.mouse.move(box.x + 50, box.y + 6, { steps: 8 });
    const field = page.locator('[data-game-number=walk_speed] input');
    await until(
      async () => [await numberOf('Letter run', 'walk_speed'), Number(await field.inputValue())],
      ([own, ours]) => own === ours && own !== 140,
      'the dragged number in the game, before the finger is up',
    );
    await page.mouse.up();
    await until(
      async () => [await numberOf('Letter run', 'dash_speed'), await numberOf('Letter run', 'walk_speed')],
      ([dash, walk]) => Math.abs((dash as number) - 1.75 * (walk as number)) < 1e-6,
      'the linked sprint',
    );
    await drive(play);
    await isSound(page);
    await page.getByRole('button', { name: 'Undo' }).click();
    await until(
      () => numberOf('Letter run', 'walk_speed'),
      (value) => value === 140,
      'the number before, in the game too',
    );

    await play.getByLabel('stale-restore').check();
    await drive(play);
    const found = page.locator('[data-finding=stale-restore]');
    await found.waitFor();
    expect(await found.textContent()).toContain('Walks at 110 px/s after a sprint, not 140 px/s: a stale speed is restored');
    expect(await page.locator('[data-finding]').count()).toBe(1);
    await found.getByRole('button', { name: /show$/ }).click();
    await page.getByRole('button', { name: 'Newest' }).click();

    // Mended in the game: a new drive is sound.
    await play.getByLabel('stale-restore').uncheck();
    await drive(play);
    await isSound(page);

    // The numbers are found again in the game's motion, whatever those of the tuning are.
    await page.getByRole('button', { name: 'Learn the numbers' }).click();
    const dialog = page.getByRole('dialog', { name: 'Letter run: numbers from its motion' });
    const walk = dialog.getByRole('textbox', { name: 'Walk', exact: true });
    await walk.waitFor();
    expect(Math.abs(Number(await walk.inputValue()) / 140 - 1)).toBeLessThan(0.01);
    await walk.fill('151');
    await walk.press('Enter');
    await dialog.getByRole('button', { name: 'Set in the tuning' }).click();
    await dialog.waitFor({ state: 'detached' });
    await until(
      () => numberOf('Letter run', 'walk_speed'),
      (value) => value === 151,
      'the learned number in the game',
    );
    await page.getByRole('button', { name: 'Undo' }).click();
    await until(
      () => numberOf('Letter run', 'walk_speed'),
      (value) => value === 140,
      'the number before the learned one',
    );
    await drive(play);
    await isSound(page);

    // What is kept does again what the game did.
    await page.getByRole('button', { name: 'Keep this drive' }).click();
    await page.getByRole('dialog').getByRole('textbox').fill('From the game');
    await page.getByRole('dialog').getByRole('button', { name: 'Keep' }).click();
    await page.getByRole('dialog').waitFor({ state: 'detached' });
    await page.getByRole('button', { name: 'More' }).click();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: /Export the game’s trace/ }).click(),
    ]);
    const chunks: Buffer[] = [];
    for await (const chunk of await download.createReadStream()) chunks.push(chunk as Buffer);
    const { items } = await read<{ items: { id: string; name: string }[] }>('/tapes?q=From%20the%20game');
    const { file } = await read<{ file: object }>(`/tapes/${items[0]?.id}`);
    const tape = readTape(file);
    const kept = parseTuning(JSON.stringify((await read<{ file: object }>(`/tunings/${tuning}`)).file));
    const boardwalk = parseGround(
      JSON.stringify((await read<{ file: object }>(`/grounds/${new URL(page.url()).searchParams.get('ground')}`)).file),
    );
    if (!tape.ok || !kept.ok || !boardwalk.ok) throw new Error('not read');
    const resolved = resolveTuning(kept.value.file);
    if (!resolved.ok) throw new Error('not resolved');
    expect(tape.value.name).toBe('From the game');
    const { trace } = rerun(tape.value, resolved.value.parameters, boardwalk.value);
    const compared = verifyTrace(trace, Buffer.concat(chunks).toString(), 0.5);
    if (typeof compared === 'string') throw new Error(compared);
    expect(compared.rows).toBeGreaterThan(250);
    // In the moment in which a corner is met the velocities may differ.
    expect(compared.most.filter(({ column }) => column === 'x' || column === 'y')).toEqual([]);

    // The pilot's lap and the kept tape are driven by the game as by the model; paused, it stands until it is to run.
    const ticks = async () => (await linked('Letter run'))?.next ?? 0;
    const more = async (name: string) => {
      await page.getByRole('button', { name: 'More' }).click();
      await page.getByRole('button', { name }).click();
    };
    for (const begin of [
      () => more('Pilot a lap in the game'),
      async () => {
        await more('Replay a tape in the game');
        await page.getByRole('option', { name: /From the game/ }).click();
      },
    ]) {
      const from = await ticks();
      await begin();
      await until(ticks, (next) => next > from + 280, 'the replayed hands');
      await isSound(page);
      expect(await play.evaluate(() => document.querySelector('#link')?.textContent)).toBe('linked to Zygopod');
    }
    await more('Pause the game');
    let paused = await ticks();
    await until(
      async () => {
        const before = paused;
        await new Promise((over) => setTimeout(over, 400));
        paused = await ticks();
        return paused === before;
      },
      (isStill) => isStill,
      'the pause',
    );
    await more('Advance it by a tick');
    await until(ticks, (next) => next === paused + 1, 'one tick');
    await more('Let it run');
    await until(ticks, (next) => next > paused + 30, 'ticks again');

    // Nothing that came is lost by a reload, nor when the game ends.
    const length = await page
      .getByRole('region', { name: 'Where the game differs' })
      .getByText(/^\d+\.\d s$/)
      .textContent();
    await play.close();
    await page.reload();
    await page.getByText('Not linked: reconnects by itself').waitFor();
    await page
      .getByText(/^Letter run, build 88$/)
      .first()
      .waitFor();
    await isSound(page);
    const after = await page
      .getByRole('region', { name: 'Where the game differs' })
      .getByText(/^\d+\.\d s$/)
      .textContent();
    expect(Number.parseFloat(after ?? '')).toBeGreaterThanOrEqual(Number.parseFloat(length ?? ''));
    expect(faults).toEqual([]);
    await page.close();
  });

  it('shows what a game refuses at the number, and keeps a match that was made by hand', async () => {
    let stroll = 2;
    const set = (value: unknown) => {
      stroll = Number(value);
      return undefined;
    };
    const own = new ZygopodLink({ game: 'Tiles', hz: 30, unit: 'tiles', columns: ['tick', 'x', 'y'], address: link })
      .watch('stroll_pace_of_hero', { get: () => stroll, set })
      .watch('friction', { path: 'ramp.decelerate', get: () => 40, set: () => 'friction is fixed in this build' })
      .open();
    try {
      const { page, faults, tuning } = await openGame();
      await page.getByRole('button', { name: /Tiles/ }).click();
      const row = page.locator('[data-game-number=friction]');
      await row.getByText('40 in the game').waitFor();
      await row.getByRole('textbox').fill('640');
      await row.getByRole('textbox').press('Enter');
      await row.getByText('friction is fixed in this build').waitFor();
      expect(await violationsOf(page)).toEqual([]);

      await page.getByRole('button', { name: 'Match by hand' }).click();
      await page.getByLabel('Parameter for stroll_pace_of_hero').selectOption('pace.walkSpeed');
      await page.getByRole('button', { name: 'Done' }).click();
      // Two tiles a second are 64 px.
      const walk = page.locator('[data-game-number=stroll_pace_of_hero]');
      await walk.getByText('2 in the game').waitFor();
      await walk.getByRole('textbox').fill('96');
      await walk.getByRole('textbox').press('Enter');
      await until(
        () => numberOf('Tiles', 'stroll_pace_of_hero'),
        (value) => value === 3,
        'three tiles a second',
      );
      expect(stroll).toBe(3);
      await page.getByRole('button', { name: 'Set in the tuning' }).click();
      await until(
        () => row.getByRole('textbox').inputValue(),
        (value) => value === '1280',
        'the game’s friction',
      );
      const project = (await read<{ project: string }>(`/tunings/${tuning}`)).project;
      expect((await read<{ names: Record<string, string> }>(`/projects/${project}/source-names`)).names).toMatchObject({
        stroll_pace_of_hero: 'pace.walkSpeed',
      });
      await page.locator('[data-testid=save-state][data-state=draft]').waitFor();
      await page.reload();
      await walk.waitFor();
      expect(faults).toEqual([]);
      await page.close();
    } finally {
      own.close();
    }
  });
});
