import { readTargets, type TargetSet } from '@zygopod/core';
import { forget, remember, remembered, rememberedJson } from '../controls/remember.ts';
import { fetchDocument } from '../work/documentActions.ts';
import { inProject } from '../work/project.ts';
import { askServer } from '../work/server.ts';

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
export const keepChoice = (tuning: string, id: string): void => remember(KEPT + tuning, id);

/** Keeps bands that are in no saved set yet in this browser; null: there are none any more. */
export function keepUnsaved(tuning: string, changed: { set: TargetSet; id: string | null; head: number } | null): void {
  if (changed) remember(UNSAVED + tuning, JSON.stringify(changed));
  else forget(UNSAVED + tuning);
}

/** The bands of a tuning that are in no saved set yet; null if there are none that can be read. */
export function unsavedTargets(tuning: string): { set: TargetSet; id: string | null; head: number } | null {
  const kept = rememberedJson(UNSAVED + tuning) as Record<string, unknown> | null;
  const read = readTargets(kept?.['set']);
  const [id, head] = [kept?.['id'], kept?.['head']];
  if (!read.ok || typeof head !== 'number') return null;
  return { set: read.value, id: typeof id === 'string' ? id : null, head };
}

/** Fetches a set; gives it, or why not. */
export async function fetchTargets(id: string): Promise<KeptTargets | { why: string }> {
  const kept = await fetchDocument('targets', id);
  if ('why' in kept) return kept;
  const read = readTargets(kept.file);
  if (!read.ok) return { why: `The targets cannot be read: ${read.faults[0]?.path} ${read.faults[0]?.found}.` };
  return { set: read.value, id, head: kept.revision };
}

/** A set as it is listed. */
type ListedSet = { id: string; name: string; demo: string | null };

/** The sets of the page's project, newest first, or of all projects where it has none. */
export async function listSets(): Promise<ListedSet[]> {
  for (const within of [inProject(), {}]) {
    const query = new URLSearchParams({ limit: '200', ...within });
    const answer = await askServer<{ items: ListedSet[] }>('GET', `/api/v1/targets?${query}`);
    if ('body' in answer && answer.body.items.length > 0) return answer.body.items;
  }
  return [];
}

/**
 * The set of these that a tuning was judged by last, else the demo's first, else the oldest; null if there is none. One that was put
 * away since is not among them, and chosen no more.
 */
export function chooseTargets(sets: readonly Omit<ListedSet, 'name'>[], tuning: string): string | null {
  const kept = remembered(KEPT + tuning);
  return (sets.find(({ id }) => id === kept) ?? sets.find(({ demo }) => demo === FIRST) ?? sets.at(-1))?.id ?? null;
}

/** The set that a tuning is judged by first, as `chooseTargets` has it; null if there is none that can be read. */
export async function fetchChosenKept(tuning: string): Promise<KeptTargets | null> {
  const id = chooseTargets(await listSets(), tuning);
  const kept = id === null ? null : await fetchTargets(id);
  return kept && 'set' in kept ? kept : null;
}

/** The bands of that set. */
export const fetchChosen = async (tuning: string): Promise<TargetSet | null> => (await fetchChosenKept(tuning))?.set ?? null;
