/**
 * Heights of lanes that share what is `free`, px: each its share, but none less than `least`, which its name needs; where there is not even
 * that, all are alike.
 */
export function laneHeights(shares: readonly number[], free: number, least: number): number[] {
  if (free <= least * shares.length) return shares.map(() => Math.max(0, free) / shares.length);
  let large = shares.map((_, i) => i);
  for (;;) {
    const total = large.reduce((sum, i) => sum + (shares[i] as number), 0);
    const room = free - least * (shares.length - large.length);
    const still = large.filter((i) => (room * (shares[i] as number)) / total >= least);
    if (still.length === large.length) return shares.map((share, i) => (large.includes(i) ? (room * share) / total : least));
    large = still;
  }
}
