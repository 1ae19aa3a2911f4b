import { sequence } from './sequence.ts';

const isLong = process.env['ZYGOPOD_LONG'] === '1';

/** Names the share of each random campaign that a run tries: `./zygopod test` draws and prints one, and takes it from here to repeat a run. */
const RUN = Number(process.env['ZYGOPOD_SEED'] ?? Date.now() % 1_000_000);

/** How many of a random campaign run: a share in every suite, all of them with `./zygopod test --long`. */
export const campaign = (share: number, whole: number): number => (isLong ? whole : share);

/**
 * The seeds of a random campaign: all from 1 to `whole` with `./zygopod test --long`, else `share` of them in a row, others in each run, after
 * those that once `found` a fault.
 */
export function seeds(share: number, whole: number, found: readonly number[] = []): number[] {
  const count = Math.min(campaign(share, whole), whole);
  const start = isLong ? 0 : Math.floor(sequence(RUN)() * whole);
  const drawn = Array.from({ length: count }, (_, i) => 1 + ((start + i) % whole));
  return [...new Set([...found, ...drawn])];
}
