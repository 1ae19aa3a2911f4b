import { readTargets, type TargetSet } from '@zygopod/core';

/** A kept target set. */
export interface KeptTargets {
  set: TargetSet;
  id: string;
  head: number;
}

const KEPT = 'zygopod-targets:';
const UNSAVED = 'zygopod-targets-unsaved:';
/** The demo's set that a tuning is judged by where nobody has chosen one. */
const FIRST = 'brisk-carrier.targets.json';

/** Keeps in this browser by which set a tuning is judged. */
export const keepChoice = (tuning: string, id: string): void => localStorage.setItem(KEPT + tuning, id);

/** Keeps bands that are in no saved set yet in this browser; null: there are none any more. */
export function keepUnsaved(tuning: string, changed: { set: TargetSet; id: string | null; head: number } | null): void {
  if (changed) localStorage.setItem(UNSAVED + tuning, JSON.stringify(changed));
  else localStorage.removeItem(UNSAVED + tuning);
}

/** The bands of a tuning that are in no saved set yet; null where there are none that can be read. */
export function unsavedTargets(tuning: string): { set: TargetSet; id: string | null; head: number } | null {
  try {
    const kept = JSON.parse(localStorage.getItem(UNSAVED + tuning) ?? 'null') as Record<string, unknown> | null;
    const read = readTargets(kept?.['set']);
    const [id, head] = [kept?.['id'], kept?.['head']];
    if (!read.ok || typeof head !== 'number') return null;
    return { set: read.value, id: typeof id === 'string' ? id : null, head };
  } catch {
    return null;
  }
}

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
