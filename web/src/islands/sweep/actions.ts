import type { TuningFile } from '@zygopod/core';
import type { TuningWork } from '../tuning/context.ts';
import type { ScreenName } from '../work/place.ts';
import { addressOf, placeOf } from '../work/place.ts';
import type { SweepWork } from './sweepWork.ts';
import { placeWords } from './words.ts';

/** A tuning that was found, and its description for notes and steps. */
export interface Found {
  file: TuningFile;
  words: string;
}

/** A cell's tuning; null if there is none. */
export function foundAt(sweep: SweepWork, cell: number): Found | null {
  const file = sweep.fileAt(cell);
  const swept = sweep.$swept.get()?.sweep;
  if (!file || !swept) return null;
  const { axes } = swept.definition;
  const values = swept.placesOf(cell).map((index, i) => axes[i]?.values[index] ?? '');
  return { file, words: placeWords(axes, values, sweep.work.editing.$now.get().unit ?? 'px') };
}

/** Opens the bench with a tuning as the draft. */
export async function driveFound(work: TuningWork, { file, words }: Found, screens: readonly ScreenName[]): Promise<void> {
  const bench = screens.find(({ id }) => id === 'bench');
  if (!bench) return;
  work.editing.replace(file, words);
  await work.saving.flush();
  window.location.assign(addressOf(bench, placeOf(work.opening)));
}

/** Saves a tuning as the next revision; returns why it couldn't be saved, or null. */
export function saveFound(work: TuningWork, { file, words }: Found, from: string): Promise<string | null> {
  work.editing.replace(file, words);
  return work.save(`${from}: ${words}`);
}

/** Compares a tuning, as the draft, with the last revision; changes that are in none are saved as one before. Returns why it can't, or null. */
export async function compareFound(work: TuningWork, { file, words }: Found): Promise<string | null> {
  const isChanged = JSON.stringify(work.editing.$now.get()) !== JSON.stringify(work.editing.$before.get());
  if (isChanged || work.saving.$head.get() === 0) {
    const why = await work.save('Before a place of a sweep is compared with it');
    if (why !== null) return why;
  }
  work.editing.replace(file, words);
  await work.saving.flush();
  const query = new URLSearchParams();
  const { ground } = placeOf(work.opening);
  if (ground) query.set('ground', ground);
  query.append('side', work.saving.id);
  query.append('side', `${work.saving.id}.${work.saving.$head.get()}`);
  window.location.assign(`/compare/${work.saving.id}?${query}`);
  return null;
}
