import type { Page } from 'playwright-core';
import { headless } from '../game/src/headless.ts';
import type { Key } from '../game/src/letterRun.ts';

/** Letter run with a fault and another friction, played for some seconds beside the model. */
export async function linkGame(page: Page): Promise<void> {
  const game = headless({ address: `${new URL(page.url()).origin.replace('http', 'ws')}/api/v1/link`, faults: ['stale-restore'] });
  game.carrier.numbers.friction = 900;
  game.link.open();
  page.context().on('close', () => game.link.close());
  const script: [number, 'press' | 'release', Key][] = [
    [20, 'press', 'right'],
    [40, 'press', 'sprint'],
    [90, 'release', 'sprint'],
    [110, 'release', 'right'],
    [140, 'press', 'up'],
    [150, 'press', 'right'],
    [185, 'release', 'up'],
    [200, 'press', 'sprint'],
    [250, 'press', 'down'],
    [290, 'release', 'right'],
    [320, 'release', 'sprint'],
    [340, 'release', 'down'],
    [350, 'press', 'left'],
    [400, 'press', 'sprint'],
    [460, 'release', 'sprint'],
    [520, 'press', 'up'],
  ];
  await page.getByTestId('game-link').getByText('Linked').waitFor();
  const begun = performance.now();
  for (let due = 0; game.tick < 560; due = ((performance.now() - begun) / 1000) * game.hz) {
    while (game.tick < due) {
      for (const [at, what, key] of script) if (at === game.tick) game[what](key);
      game.advance();
    }
    await page.waitForTimeout(4);
  }
  await page.locator('[data-finding=stale-restore]').waitFor();
}
