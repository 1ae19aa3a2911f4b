import { type Severity, type Snag, type SnagId, snagWords } from '@zygopod/core';

/** Snags of one kind, in one line that expands to each of them. */
export interface SnagGroup {
  id: SnagId;
  severity: Severity;
  title: string;
  snags: readonly Snag[];
}

/** The kinds of which a ground or a tuning often has several, in the plural. */
const plurals: Readonly<Partial<Record<SnagId, string>>> = {
  'gap-too-narrow': 'gaps are too narrow',
  'gap-tight': 'gaps are tight',
  'speed-zero': 'speeds are 0',
  'sprint-unlinked': 'speeds stand by themselves',
  'wall-not-solid': 'walls are not felt',
};

function titleOf(id: SnagId, count: number): string {
  if (count === 1) return snagWords[id][0];
  return plurals[id] ? `${count} ${plurals[id]}` : `${snagWords[id][0]} (${count} times)`;
}

/** Snags by kind, in the order in which each kind comes first; a kind is as bad as its first. */
export function groupSnags(snags: readonly Snag[]): SnagGroup[] {
  const groups = new Map<SnagId, Snag[]>();
  for (const snag of snags) groups.set(snag.id, [...(groups.get(snag.id) ?? []), snag]);
  return [...groups].map(([id, of]) => ({ id, severity: (of[0] as Snag).severity, title: titleOf(id, of.length), snags: of }));
}
