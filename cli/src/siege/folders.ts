import { Clones } from './clones.ts';
import { Dice } from './dice.ts';
import { type Figure, none, unbounded } from './figures.ts';
import { Killer, killDuring } from './killer.ts';
import type { Stand } from './stand.ts';

/** Plays version control on folders of a project while the application is being killed: documents keep ids and drafts, none is doubled. */
export async function folders(stand: Stand, minutes: number, seed: number): Promise<Figure[]> {
  const end = performance.now() + minutes * 60_000;
  const dice = new Dice(seed);
  const killer = new Killer(stand, dice);
  const faults: string[] = [];
  let [sequences, faulty] = [0, 0];
  await killDuring(
    killer,
    () => 1000 + dice.below(4000),
    async (isOver) => {
      while (!isOver() && performance.now() < end) {
        const found = await new Clones(stand.address, seed + sequences++).play();
        if (found.length > 0) faulty++;
        faults.push(...found);
      }
    },
  );
  for (const fault of faults.slice(0, 40)) process.stderr.write(`folders: ${fault}\n`);
  return [
    unbounded('folders', 'sequences', `${sequences}, with ${killer.kills} kills (${killer.targets})`),
    none('folders', 'sequences that lost or doubled a document or draft', faulty),
    none('folders', 'servers ended by an exception', killer.unexplained),
  ];
}
