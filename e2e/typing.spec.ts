import '../testing/provided.ts';
import { expect, inject, it } from 'vitest';
import { Dice } from '../cli/src/siege/dice.ts';
import { Typist } from '../cli/src/siege/typist.ts';
import { campaign } from '../core/src/testing/campaign.ts';
import { openBrowser } from './browser.ts';

/** Sequences of a run, from a fixed seed; the siege uses others. */
const SEQUENCES = campaign(1, 100);
const seed = 60;

it('numbers typed on pages end on the server or in an offer, whatever happens to page, network and tuning', async () => {
  const browser = await openBrowser();
  try {
    for (let own = seed; own < seed + SEQUENCES; own++) {
      const { lost, typist } = await Typist.play(browser, inject('address'), new Dice(own), 14);
      expect(lost, `sequence ${own}\n${typist.history.join('\n')}`).toEqual([]);
    }
  } finally {
    await browser.close();
  }
}, 3_600_000);
