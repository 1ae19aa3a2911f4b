import type { SideRef } from '../work/comparison.ts';
import type { ComparedSide } from './sides.ts';

interface Named {
  name: string;
  ref: SideRef;
  /** `rev 12`, `rev 12, changed` */
  revision: string;
}

const rateWords = (rate: SideRef['rate']): string => (rate === null ? '' : rate === 'uneven' ? 'uneven frames' : `${rate} Hz`);

/** How many words all names begin with, at least one of each left over; a name by itself shares none. */
function commonWords(names: readonly string[][]): number {
  if (names.length < 2) return 0;
  let count = 0;
  for (;;) {
    const word = names[0]?.[count];
    if (word === undefined || names.some((words) => words.length <= count + 1 || words[count] !== word)) return count;
    count++;
  }
}

/** Shortest distinguishing names of the sides: the parts that they don't share; else revision, else rate. */
export function shortNames(sides: readonly Named[]): string[] {
  const shared = commonWords(sides.map(({ name }) => name.split(' ')));
  const isOne = (values: readonly unknown[]) => new Set(values).size === 1;
  const [sameName, sameRate] = [isOne(sides.map(({ name }) => name)), isOne(sides.map(({ ref }) => ref.rate))];
  const sameRevision = isOne(sides.map(({ revision }) => revision));
  return sides.map(({ name, ref, revision }) => {
    const own = name.split(' ').slice(shared).join(' ');
    const parts = [
      ...(sameName && !(sameRate && sameRevision) ? [] : [own]),
      ...(sameName && !sameRevision ? [revision] : []),
      ...(sameRate ? [] : [rateWords(ref.rate) || 'own rate']),
    ];
    return parts.join(', ');
  });
}

/** The part of each side's name after its last comma, where these tell the sides apart; else the shortest names. */
export function lastParts(sides: readonly Pick<ComparedSide, 'name' | 'short'>[]): string[] {
  const parts = sides.map(({ name }) => name.slice(name.lastIndexOf(',') + 1).trim());
  return new Set(parts).size === parts.length && parts.every((part) => part !== '') ? parts : sides.map(({ name, short }) => short || name);
}
