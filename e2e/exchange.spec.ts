import { readFileSync } from 'node:fs';
import { encode } from 'fast-png';
import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { keptGround as kept, openBrowser, openGround } from './browser.ts';

let browser: Browser;
const address = inject('address');

beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

describe('import and export', () => {
  const files = {
    'grid.csv': '#,.,#\n.,.,.\n',
    'grid.map': 'type octile\nheight 2\nwidth 3\nmap\n@.@\n...\n',
    'drawing.svg': '<svg viewBox="0 0 320 200"><rect x="40" y="40" width="60" height="20"/><path d="M150 20 C150 90 250 90 250 20"/></svg>',
    'picture.png': Buffer.from(encode({ width: 3, height: 2, data: new Uint8Array([0, 255, 0, 255, 255, 255]), channels: 1 })),
    'own.ground.json': JSON.stringify({
      format: 'zygopod/ground',
      version: 1,
      name: 'Own',
      size: { width: 96, height: 64 },
      start: { x: 48, y: 48 },
      cells: ['#.#', '...'],
    }),
  };
  it.each(Object.entries(files))('reads %s with a preview', async (name, content) => {
    const { page, id, faults } = await openGround(browser, address);
    await page.keyboard.press('i');
    await page.getByLabel('File').setInputFiles({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(content) });
    const preview = await page.getByTestId('import-preview').textContent();
    expect(preview).toContain(name.endsWith('.svg') ? 'no cells, 2 walls' : '3 × 2 cells');
    await page.getByRole('button', { name: 'Replace this ground' }).click();
    const ground = await kept(page, id);
    if (name.endsWith('.svg')) expect(ground.walls).toHaveLength(2);
    else expect(ground.cells).toEqual(['#.#', '...']);
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('refuses what is broken, huge or something else, and goes on', async () => {
    const { page, faults } = await openGround(browser, address, { cells: ['#'] });
    await page.keyboard.press('i');
    const give = (name: string, buffer: Buffer) =>
      page.getByLabel('File').setInputFiles({ name, mimeType: 'application/octet-stream', buffer });
    const said = (words: string | RegExp) => page.getByRole('alert').getByText(words).waitFor();
    await give('broken.svg', Buffer.from('<svg viewBox="0 0 9 9"><rect></svg>'));
    await said(/line 1/);
    await give('rows.csv', Buffer.from('#,.\n#'));
    await said(/line 2: found 1 fields, expected 2/);
    await give('picture.png', Buffer.from(files['picture.png']).subarray(0, 40));
    await said(/broken PNG/);
    await give('huge.csv', Buffer.alloc(21 * 1024 * 1024, '#,'));
    await said(/21.0 MB, expected at most 20 MB/);
    await give('note.doc', Buffer.from('hello'));
    await said(/an unknown format/);
    await page.getByRole('button', { name: 'Not now' }).click();
    expect(await page.getByTestId('save-state').textContent()).toBe('saved');
    expect(faults).toEqual([]);
    await page.context().close();
  });

  it('writes each format, says what is lost, and reads it again', async () => {
    const { page } = await openGround(browser, address, {
      cells: ['#.#', '...'],
      walls: [
        {
          points: [
            [100, 100],
            [200, 140],
          ],
          closed: false,
        },
      ],
    });
    for (const [title, ending, lost] of [
      ['Ground (JSON)', '.ground.json', 'Nothing is lost'],
      ['Drawing (SVG)', '.svg', 'Nothing is lost'],
      ['Grid (CSV)', '.csv', 'a free wall'],
      ['Octile grid (text)', '.map', 'a free wall'],
      ['Picture (PNG, a pixel a cell)', '.png', 'a free wall'],
    ] as const) {
      await page.keyboard.press('o');
      await page.getByLabel(title).check();
      await page.getByTestId('export-lost').getByText(lost).waitFor();
      const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: /^Save / }).click()]);
      expect(download.suggestedFilename()).toBe(`test-ground${ending}`);
      const path = await download.path();
      expect(readFileSync(path).length).toBeGreaterThan(5);
      await page.getByRole('dialog').waitFor({ state: 'detached' });
      await page.keyboard.press('i');
      await page
        .getByLabel('File')
        .setInputFiles({ name: download.suggestedFilename(), mimeType: 'application/octet-stream', buffer: readFileSync(path) });
      await page
        .getByTestId('import-preview')
        .getByText(/× 12 cells|3 × 2 cells/)
        .waitFor();
      await page.getByRole('button', { name: 'Not now' }).click();
    }
    await page.context().close();
  });

  // It takes half a minute: for `./zygopod test --long`.
  it.runIf(process.env['ZYGOPOD_LONG'] === '1')(
    'refuses a picture of 4096 × 4096 cells with its size before anything is lost',
    async () => {
      const { page, faults } = await openGround(browser, address, { cells: ['#'] });
      const data = Uint8Array.from({ length: 4096 * 4096 }, (_, i) => (((i * 2654435761) >>> 16) % 2 ? 255 : 0));
      const picture = Buffer.from(encode({ width: 4096, height: 4096, data, channels: 1 }));
      await page.keyboard.press('i');
      await page.getByLabel('File').setInputFiles({ name: 'huge.png', mimeType: 'image/png', buffer: picture });
      await page
        .getByRole('alert')
        .getByText(/16\.8 MB can be saved at most/)
        .waitFor({ timeout: 60_000 });
      expect(await page.getByRole('button', { name: 'Replace this ground' }).isEnabled()).toBe(false);
      await page.getByRole('button', { name: 'Not now' }).click();
      expect(await page.getByTestId('save-state').textContent()).toBe('saved');
      expect(faults).toEqual([]);
      await page.context().close();
    },
  );

  it('takes a ground of 512 × 512 cells, keeps it as a draft, and finds it again after a reload', async () => {
    const { page, id, faults } = await openGround(browser, address);
    const rows = Array.from({ length: 512 }, (_, y) =>
      Array.from({ length: 512 }, (__, x) => ((x * 7 + y * 13) % 17 < 2 ? '#' : '.')).join(','),
    );
    await page.keyboard.press('i');
    await page.getByLabel('File').setInputFiles({ name: 'large.csv', mimeType: 'text/csv', buffer: Buffer.from(rows.join('\n')) });
    await page.getByTestId('import-preview').getByText('512 × 512 cells').waitFor();
    await page.getByRole('button', { name: 'Replace this ground' }).click();
    expect((await kept(page, id)).cells).toHaveLength(512);
    await page.locator('[data-testid=findings][data-fresh=true]').waitFor();
    await page.reload();
    await page.locator('[data-testid=findings][data-fresh=true]').waitFor();
    expect(await page.getByLabel('Width', { exact: true }).inputValue()).toBe(String(512 * 32));
    expect(faults).toEqual([]);
    await page.context().close();
  });
});
