import { type FileValue, isLink, type RecordingReport, rawAt } from '@zygopod/core';
import { relinked } from '../fields/model.ts';
import type { GameWork } from './gameWork.ts';

/** Sets numbers that were learned from a game’s motion in the tuning, as one step; linked ones keep their link. */
export function setLearned(game: GameWork, values: RecordingReport['set']): void {
  const { editing } = game.work;
  const written = Object.entries(values).map(([path, value]): [string, FileValue] => {
    const raw = rawAt(editing.$now.get(), path);
    if (!isLink(raw) || typeof value !== 'number') return [path, value];
    return [path, relinked(raw, (values[raw.of] ?? game.ours(raw.of)) as number, value)];
  });
  game.$trouble.set(editing.setAll(Object.fromEntries(written), 'the numbers of the game’s motion'));
}
