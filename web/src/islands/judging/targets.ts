import { readTargets, type TargetSet } from '@zygopod/core';

/** A kept target set. */
export interface KeptTargets {
  set: TargetSet;
  id: string;
  head: number;
}

const KEPT = 'zygopod-targets:';
/** The demo's set that a tuning is judged by where nobody has chosen one. */
const FIRST = 'brisk-carrier.targets.json';

/** Keeps in this browser by which set a tuning is judged. */
export const keepChoice = (tuning: string, id: string): void => localStorage.setItem(KEPT + tuning, id);

/** Fetches a set; gives it, or why not. */
export async function fetchTargets(id: string): Promise<KeptTargets | { why: string }> {
  try {
    const response = await fetch(`/api/v1/targets/${id}`);
    const body = (await response.json()) as { file?: unknown; title?: string; head?: number };
    if (!response.ok) return { why: `${body.title ?? `The server said ${response.status}`}.` };
    const read = readTargets(body.file);
    if (!read.ok) return { why: `The targets cannot be read: ${read.faults[0]?.path} ${read.faults[0]?.found}.` };
    return { set: read.value, id, head: body.head ?? 1 };
  } catch {
    return { why: 'The server cannot be reached.' };
  }
}

/** The set that a tuning was judged by last, else the demo's first, else the oldest that there is; null where there is none. */
export async function chosenTargets(tuning: string): Promise<string | null> {
  try {
    const { items } = (await (await fetch('/api/v1/targets?limit=200')).json()) as { items: { id: string; demo: string | null }[] };
    const kept = localStorage.getItem(KEPT + tuning);
    // A kept one that was put away since is chosen no more.
    return (items.find(({ id }) => id === kept) ?? items.find(({ demo }) => demo === FIRST) ?? items.at(-1))?.id ?? null;
  } catch {
    return null;
  }
}
