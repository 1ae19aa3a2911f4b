import { Dice } from './dice.ts';
import { type Figure, none, quantile, unbounded, under } from './figures.ts';
import { Killer } from './killer.ts';
import { type Stand, until } from './stand.ts';
import { Writers } from './writers.ts';

/** Concurrent writers. */
const WRITERS = 6;

const pause = (milliseconds: number) => new Promise<void>((over) => setTimeout(over, milliseconds));

/** Kills at random moments while six writers write: nothing that was acknowledged may be lost, and all is up again soon. */
export async function kills(stand: Stand, minutes: number, seed: number): Promise<Figure[]> {
  const dice = new Dice(seed);
  const killer = new Killer(stand, dice);
  const writers = new Writers(
    stand.address,
    Array.from({ length: WRITERS }, (_, i) => new Dice(seed + i + 1)),
  );
  try {
    for (const end = performance.now() + minutes * 60_000; performance.now() < end; ) {
      await pause(dice.below(400));
      await killer.strike();
    }
  } finally {
    await writers.end();
  }
  await until(() => stand.isHealthy(), 'health', 60_000);
  const { recoveries } = killer;
  return [
    unbounded('kills', 'kills', `${killer.kills} (${killer.targets})`),
    none('kills', `lost of ${writers.acknowledged} acknowledged writes`, await writers.lost()),
    none('kills', 'servers ended by an exception', killer.unexplained),
    none('kills', 'answers 5xx but 503', writers.failures),
    unbounded(
      'kills',
      'recovery, median',
      [...recoveries].map(([target, times]) => `${target} ${(quantile(times, 0.5) / 1000).toFixed(1)} s`).join(', '),
    ),
    under('kills', 'recovery, p99', quantile([...recoveries.values()].flat(), 0.99) / 1000, 6, 's'),
  ];
}
