import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { root, stateFolder } from '../cli/src/root.ts';
import { openBrowser } from '../cli/src/siege/browser.ts';
import { buildIfChanged } from '../cli/src/up/build.ts';
import { startCluster } from '../cli/src/up/cluster.ts';
import { createDatabase } from '../cli/src/up/database.ts';
import { freePort, startServer, stopServer } from '../cli/src/up/server.ts';
import { enter, layer, openPage, seenAs, until } from './browser.ts';
import { linkGame } from './linkGame.ts';

/** Holds keys for so many milliseconds of the page's time. */
async function hold(page: Page, keys: string[], milliseconds: number): Promise<void> {
  for (const key of keys) await page.keyboard.down(key);
  await page.waitForTimeout(milliseconds);
  for (const key of keys) await page.keyboard.up(key);
}

/** A drive over the Boardwalk, still moving with the right key down. */
async function driveAbout(page: Page): Promise<void> {
  await hold(page, ['KeyD'], 900);
  await hold(page, ['KeyD', 'KeyW'], 700);
  await hold(page, ['KeyD', 'ShiftLeft'], 1500);
  await hold(page, ['KeyS'], 500);
  await page.keyboard.down('ShiftLeft');
  await page.keyboard.down('KeyA');
  await page.waitForTimeout(600);
}

/** Ids of the demo's documents by their file names. */
async function demoIds(address: string): Promise<(file: string) => string> {
  const ids = new Map<string, string>();
  for (const collection of ['tunings', 'grounds', 'tapes']) {
    const { items } = (await (await fetch(`${address}/api/v1/${collection}?limit=200`)).json()) as {
      items: { id: string; demo: string | null }[];
    };
    for (const { id, demo } of items) if (demo) ids.set(demo, id);
  }
  return (file) => ids.get(file) ?? '';
}

/** Clicks across the Tidal flats, and follows the body along its path round the obstacles. */
async function goByClick(page: Page): Promise<void> {
  const at = await seenAs(page, 'Whole');
  await page.mouse.click(...at(2300, 3050));
  await seenAs(page, 'Follow');
  await page.waitForTimeout(5200);
}

/** Slides along the rail and throws a pebble, with the narrow gaps in sight. */
async function slide(page: Page): Promise<void> {
  await page.evaluate(() => document.querySelector('#figure-walls')?.scrollIntoView({ inline: 'start' }));
  for (const name of ['Gaps', 'Reach']) await layer(page, name, true);
  await page.keyboard.down('KeyD');
  await hold(page, ['KeyS'], 900);
  await page.keyboard.press('KeyG');
  await page.keyboard.down('KeyS');
  await page.waitForTimeout(350);
}

/** Loops the ready tape, changes the pace, and holds where the two diverge. */
async function retune(page: Page): Promise<void> {
  await page.getByRole('button', { name: /^Loop “/ }).click();
  await page.getByRole('button', { name: 'Looping' }).waitFor();
  await enter(page, 'pace', /^Walk/, '165');
  await page.waitForTimeout(3200);
  await page.keyboard.press('p');
}

/** Takes the ready tape apart, with a press picked. */
async function editTape(page: Page): Promise<void> {
  await page.getByRole('button', { name: /^Loop “/ }).click();
  await page.getByRole('button', { name: 'Edit', exact: true }).click();
  await page.keyboard.press('p');
  await page.getByRole('gridcell').nth(3).click();
}

/** Holds a comparison where the sides have parted. */
async function compareThen(page: Page): Promise<void> {
  await page.getByText('one body apart').waitFor();
  await page.keyboard.press('p');
  await page.getByTestId('strip').hover({ position: { x: 520, y: 60 } });
}

/** Waits for the laps of all sides. */
async function compareLaps(page: Page): Promise<void> {
  await page.getByRole('region', { name: 'Where the time goes' }).getByRole('listitem').nth(2).waitFor();
}

/** A report as it is printed. */
async function printed(page: Page): Promise<void> {
  await drilled(page);
  await page.emulateMedia({ media: 'print' });
}

/** Waits for the sweep and the effects, with the pointer on a place. */
async function swept(page: Page): Promise<void> {
  await page.locator('[data-testid=progress][data-state=done]').waitFor();
  await page.locator('[data-testid=effects][data-state=done]').waitFor();
  const box = await page.getByTestId('plane').boundingBox();
  if (box) await page.mouse.move(box.x + box.width * 0.55, box.y + box.height * 0.55);
  await page.getByTestId('prints').waitFor();
  await page.waitForTimeout(500);
}

/** Fits a tuning to its targets. */
async function fitted(page: Page): Promise<void> {
  await page.locator('[data-testid=progress][data-state=done]').waitFor();
  await page.getByRole('button', { name: 'Find the numbers' }).click();
  await page.locator('[data-testid=fit][data-state=done]').waitFor();
  await page.locator('[data-testid=effects][data-state=done]').waitFor();
}

/** Waits for the drills, with one of them chosen. */
async function drilled(page: Page): Promise<void> {
  await page.locator('[data-drill=sprint-to-empty]').click();
  await page.getByRole('region', { name: 'What moves it' }).getByRole('listitem').first().waitFor();
}

/** The snags of the first draft, with the ready tape looped. */
async function withSnags(page: Page): Promise<void> {
  await page.getByRole('button', { name: /^Loop “/ }).click();
  await page.getByRole('button', { name: /^Show all/ }).waitFor();
  await page.waitForTimeout(1500);
}

const compared = (id: (file: string) => string) =>
  `/compare/${id('carrier-day-boots.tuning.json')}?ground=${id('boardwalk.ground.json')}` +
  ['day', 'storm'].map((boots) => `&side=${id(`carrier-${boots}-boots.tuning.json`)}.1`).join('') +
  `&tape=${id('gap-run.tape.json')}`;

const lapped = (id: (file: string) => string) =>
  `/compare/${id('carrier-day-boots.tuning.json')}?ground=${id('boardwalk.ground.json')}` +
  ['carrier-day-boots', 'carrier-storm-boots', 'first-draft'].map((name) => `&side=${id(`${name}.tuning.json`)}.1`).join('') +
  '&by=pilot&at=5';

/** The shelf, once all of it is drawn and judged. */
async function shelved(page: Page): Promise<void> {
  await until(
    async () => [await page.getByTestId('picture').count(), await page.getByTestId('standing').count()],
    ([drawn, judged]) => drawn === 6 && judged === 6,
    'pictures and standings',
  );
}

/** Handed over as C once, and changed since. */
async function handedOver(page: Page): Promise<void> {
  await page.getByRole('textbox', { name: 'What it is for' }).fill('build 88');
  await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save', exact: true }).click()]);
  await page.getByText('as handed over with rev 1 (build 88)').waitFor();
  const id = page.url().split('/handoff/')[1]?.split('?')[0];
  await page.evaluate(async (tuning) => {
    const { file } = (await (await fetch(`/api/v1/tunings/${tuning}`)).json()) as { file: { ramp?: object; stamina?: object } };
    const changed = { ...file, ramp: { ...file.ramp, decelerate: 1025 }, stamina: { ...file.stamina, regainDelay: 0.75 } };
    await fetch(`/api/v1/tunings/${tuning}/revisions`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'if-match': '"1"' },
      body: JSON.stringify({ file: changed, note: 'Longer stop, shorter breath' }),
    });
  }, id);
  await page.getByText(/^since rev 1 \(build 88\)/).waitFor();
}

/** Constants of a small game, pasted. */
async function pasted(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Paste numbers from code' }).click();
  await page.getByRole('textbox', { name: 'Code or data with numbers' }).fill(`public class LetterCarrier {
  const float WALK_SPEED = 3.5f;   // tiles per second
  const float RunSpeed = WALK_SPEED * 1.75f;
  float acceleration = 24f;
  float friction = 30f;
  float bodyRadius = 0.4f;
  int jumpHeight = 2;
  const float StaminaMax = 100f, StaminaDrain = 20f;
}
#define TILE_SIZE 32`);
  await page.locator('[data-number=TILE_SIZE]').waitFor();
}

/** The pasted constants, tuned, in the code that they are from. */
async function inYourCode(page: Page): Promise<void> {
  await pasted(page);
  await page.getByRole('textbox', { name: 'Name of the file' }).fill('LetterCarrier.cs');
  await page.getByRole('textbox', { name: 'Name of the tuning' }).fill('Letter carrier');
  await page.getByRole('button', { name: 'Create tuning' }).click();
  await page.waitForURL(/\/bench\//);
  const id = page.url().split('/bench/')[1]?.split('?')[0];
  await page.evaluate(async (tuning) => {
    const { file } = (await (await fetch(`/api/v1/tunings/${tuning}`)).json()) as { file: Record<string, object> };
    const changed = {
      ...file,
      ramp: { ...file['ramp'], accelerate: 1000, decelerate: 1210, brake: 2400 },
      stamina: { ...file['stamina'], drain: 16 },
    };
    await fetch(`/api/v1/tunings/${tuning}/revisions`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'if-match': '"1"' },
      body: JSON.stringify({ file: changed, note: 'Quicker off the mark' }),
    });
  }, id);
  await page.goto(new URL(`/handoff/${id}`, page.url()).href);
  await page.getByTestId('effects').getByRole('listitem').first().waitFor();
}

const boardwalk = (id: (file: string) => string) => `/grounds/${id('boardwalk.ground.json')}`;
const day = (id: (file: string) => string) => `/bench/${id('carrier-day-boots.tuning.json')}?ground=${id('boardwalk.ground.json')}`;

/** Every picture of docs/screenshots: its name, the theme, the page, and how it gets there. */
const pictures: {
  name: string;
  colorScheme: 'light' | 'dark';
  path(id: (file: string) => string): string;
  act(page: Page): Promise<void>;
}[] = [
  { name: 'bench', colorScheme: 'light', path: day, act: driveAbout },
  { name: 'bench-night', colorScheme: 'dark', path: day, act: retune },
  { name: 'tape-editor', colorScheme: 'light', path: day, act: editTape },
  { name: 'compare', colorScheme: 'light', path: compared, act: compareThen },
  { name: 'compare-course', colorScheme: 'dark', path: lapped, act: compareLaps },
  {
    name: 'snags',
    colorScheme: 'light',
    path: (id) => `/bench/${id('first-draft.tuning.json')}?ground=${id('boardwalk.ground.json')}`,
    act: withSnags,
  },
  { name: 'drills', colorScheme: 'light', path: (id) => `/drills/${id('carrier-day-boots.tuning.json')}`, act: drilled },
  { name: 'sweep', colorScheme: 'light', path: (id) => `/sweep/${id('carrier-day-boots.tuning.json')}`, act: swept },
  { name: 'fit', colorScheme: 'light', path: (id) => `/sweep/${id('carrier-storm-boots.tuning.json')}?fit=`, act: fitted },
  { name: 'report', colorScheme: 'light', path: (id) => `/drills/${id('carrier-day-boots.tuning.json')}`, act: printed },
  { name: 'walls', colorScheme: 'light', path: day, act: slide },
  {
    name: 'clicks',
    colorScheme: 'light',
    path: (id) => `/bench/${id('ferry-hand.tuning.json')}?ground=${id('tidal-flats.ground.json')}`,
    act: goByClick,
  },
  {
    name: 'figure',
    colorScheme: 'light',
    path: day,
    act: (page) => page.locator('#figure-stamina [data-all]').click(),
  },
  { name: 'grounds', colorScheme: 'light', path: boardwalk, act: (page) => page.mouse.click(600, 300) },
  {
    name: 'game',
    colorScheme: 'light',
    path: (id) => `/game/${id('carrier-day-boots.tuning.json')}?ground=${id('boardwalk.ground.json')}`,
    act: linkGame,
  },
  { name: 'handoff', colorScheme: 'light', path: (id) => `/handoff/${id('carrier-storm-boots.tuning.json')}`, act: handedOver },
  { name: 'shelf', colorScheme: 'light', path: () => '/shelf', act: shelved },
  { name: 'paste', colorScheme: 'light', path: () => '/shelf', act: pasted },
  { name: 'in-your-code', colorScheme: 'light', path: () => '/shelf', act: inYourCode },
];

/** Names on the command line: only these pictures are taken; all without any. */
const chosen = process.argv.slice(3);

/** Takes pictures at 1280 × 800 into `folder`; returns their paths. */
async function shootAll(address: string, folder: string): Promise<string[]> {
  const browser = await openBrowser();
  const files: string[] = [];
  try {
    const id = await demoIds(address);
    for (const { name, colorScheme, path, act } of pictures.filter(({ name }) => chosen.length === 0 || chosen.includes(name))) {
      const { page } = await openPage(browser, `${address}${path(id)}`, { colorScheme });
      await page
        .locator(
          '[data-testid=now-at]:not(:empty), [data-testid=side], [data-drill], [data-testid=findings][data-fresh=true], [data-doc], [data-testid=file-text], [data-testid=no-game], [data-testid=plane], #putDraft',
        )
        .first()
        .waitFor();
      await until(
        () => page.evaluate(() => document.fonts.status),
        (status) => status === 'loaded',
        'the fonts',
      );
      await act(page);
      const file = join(folder, `${name}.png`);
      await page.screenshot({ path: file });
      files.push(file);
      await page.context().close();
    }
  } finally {
    await browser.close();
  }
  return files;
}

/** Takes the pictures again, on a server of its own with fresh demo data. */
async function screenshots(): Promise<void> {
  const folder = join(root, 'docs', 'screenshots');
  mkdirSync(folder, { recursive: true });
  await buildIfChanged((line) => process.stderr.write(`${line}\n`));
  const cluster = await startCluster(stateFolder, 'test-postgres');
  try {
    await createDatabase(cluster.url('postgres'), 'zygopod_pictures', true);
    const databaseUrl = cluster.url('zygopod_pictures');
    const server = await startServer({ host: '127.0.0.1', port: await freePort(), databaseUrl, env: { ZYGOPOD_RESET_DEMO: '1' } });
    try {
      for (const file of await shootAll(server.address, folder)) process.stdout.write(`${file}\n`);
    } finally {
      await stopServer(server.process);
    }
  } finally {
    await cluster.stop();
  }
}

await screenshots();
