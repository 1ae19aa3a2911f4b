import { openBrowser } from './browser.ts';
import { Dice } from './dice.ts';
import { type Figure, none, unbounded } from './figures.ts';
import { Killer, killDuring } from './killer.ts';
import type { Stand } from './stand.ts';
import { Typist } from './typist.ts';

/** Steps of a sequence. */
const STEPS = 14;

/** Types numbers on real pages while the network fails, tabs close, others write, and the application is killed: none is lost silently. */
export async function typed(stand: Stand, minutes: number, seed: number): Promise<Figure[]> {
  const end = performance.now() + minutes * 60_000;
  const dice = new Dice(seed);
  const killer = new Killer(stand, dice);
  const browser = await openBrowser();
  const lost: string[] = [];
  let [sequences, numbers] = [0, 0];
  try {
    await killDuring(
      killer,
      () => 3000 + dice.below(9000),
      async (isOver) => {
        while (!isOver() && performance.now() < end) {
          const own = seed + sequences++;
          const { lost: missing, typist } = await Typist.play(browser, stand.address, new Dice(own), STEPS);
          numbers += typist.typed;
          lost.push(...missing);
          if (missing.length > 0)
            process.stderr.write(`typed, sequence ${own}: lost ${missing.join(', ')}\n  ${typist.history.join('\n  ')}\n`);
        }
      },
    );
  } finally {
    await browser.close();
  }
  return [
    unbounded('typed', 'numbers typed on pages', `${numbers} in ${sequences} sequences, with ${killer.kills} kills (${killer.targets})`),
    none('typed', 'numbers lost or unsaid', lost.length),
    none('typed', 'servers ended by an exception', killer.unexplained),
  ];
}
