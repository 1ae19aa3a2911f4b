import { type FileValue, isLink, type RecordingReport, rawAt } from '@zygopod/core';
import type { GameWork } from './gameWork.ts';

/** Sets numbers that were learned from a game’s motion in the tuning, as one step; linked ones keep their link. */
export function setLearned(game: GameWork, values: RecordingReport['set']): void {
  const { editing } = game.work;
  const linked = Object.entries(values).map(([path, value]): [string, FileValue] => {
    const raw = rawAt(editing.$now.get(), path);
    const source = isLink(raw) ? (values[raw.of] ?? game.ours(raw.of)) : null;
    if (!isLink(raw) || typeof source !== 'number' || source === 0 || typeof value !== 'number') return [path, value];
    return [path, { ...raw, times: Number(((value - (raw.plus ?? 0)) / source).toPrecision(6)) }];
  });
  game.$trouble.set(editing.setAll(Object.fromEntries(linked), 'the numbers of the game’s motion'));
}
