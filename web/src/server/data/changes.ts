import { EventEmitter } from 'node:events';
import type { Kind } from '../kinds.ts';

/** Something that happened to a document: who shows it looks at it again. */
export interface Change {
  kind: Kind;
  id: string;
  head: number;
  is: 'made' | 'saved' | 'away' | 'back';
}

/** Those who listen at a time; more are turned away. */
export const LISTENERS = 200;

const changes = new EventEmitter<{ change: [Change] }>();
changes.setMaxListeners(LISTENERS + 1);

/** Tells all who listen of a change that is kept. */
export const tellChange = (change: Change): void => {
  changes.emit('change', change);
};

/** Hears of changes until the answer is called; null where too many listen. One who cannot hear any more keeps nobody else from it. */
export function listenToChanges(hear: (change: Change) => void): (() => void) | null {
  if (changes.listenerCount('change') >= LISTENERS) return null;
  const listener = (change: Change) => {
    try {
      hear(change);
    } catch {
      stop();
    }
  };
  const stop = () => {
    changes.off('change', listener);
  };
  changes.on('change', listener);
  return stop;
}
