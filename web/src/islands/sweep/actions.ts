import type { ScreenName } from '../work/place.ts';
import { addressOf, placeOf } from '../work/place.ts';
import type { SweepWork } from './sweepWork.ts';
import { placeWords } from './words.ts';

/** The values of a cell in words, for notes and steps. */
function wordsOf(sweep: SweepWork, cell: number): string {
  const swept = sweep.$swept.get()?.sweep;
  if (!swept) return '';
  const { axes } = swept.definition;
  const values = swept.placesOf(cell).map((index, i) => axes[i]?.values[index] ?? '');
  return placeWords(axes, values, sweep.work.editing.$now.get().unit ?? 'px');
}

/** Sets a cell's values in the tuning under work; false if there is no such tuning. */
function take(sweep: SweepWork, cell: number): boolean {
  const file = sweep.fileAt(cell);
  if (!file) return false;
  sweep.work.editing.replace(file, wordsOf(sweep, cell));
  return true;
}

/** Opens the bench with a cell's values as the draft. */
export async function driveCell(sweep: SweepWork, cell: number, screens: readonly ScreenName[]): Promise<void> {
  const bench = screens.find(({ id }) => id === 'bench');
  if (!bench || !take(sweep, cell)) return;
  await sweep.work.saving.flush();
  window.location.assign(addressOf(bench, placeOf(sweep.work.opening)));
}

/** Saves a cell's values as the tuning's next revision. */
export async function saveCell(sweep: SweepWork, cell: number): Promise<void> {
  if (!take(sweep, cell)) return;
  const why = await sweep.work.save(`From a sweep: ${wordsOf(sweep, cell)}`);
  if (why !== null) sweep.$trouble.set(why);
}

/** Compares a cell's values, as the draft, with the last revision; changes that are in none are saved as one before. */
export async function compareCell(sweep: SweepWork, cell: number): Promise<void> {
  const { work } = sweep;
  const isChanged = JSON.stringify(work.editing.$now.get()) !== JSON.stringify(work.editing.$before.get());
  if (isChanged || work.saving.$head.get() === 0) {
    const why = await work.save('Before a place of a sweep is compared with it');
    if (why !== null) return sweep.$trouble.set(why);
  }
  if (!take(sweep, cell)) return;
  await work.saving.flush();
  const query = new URLSearchParams();
  const { ground } = placeOf(work.opening);
  if (ground) query.set('ground', ground);
  query.append('side', work.saving.id);
  query.append('side', `${work.saving.id}.${work.saving.$head.get()}`);
  window.location.assign(`/compare/${work.saving.id}?${query}`);
}
