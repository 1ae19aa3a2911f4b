import type { Parameters } from '@zygopod/core';
import { useMemo } from 'react';

/** Names all that a run of the core may read, but for the view: a drawing made of a run is out of date when any of it changes. */
export const runKey = ({ camera, ...read }: Parameters): string => JSON.stringify(read);

/** The result of `draw`, recomputed only when `key` changes: for drawings that run the core. */
export function useDrawn<T>(key: string, draw: () => T): T {
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key names everything that `draw` reads
  return useMemo(draw, [key]);
}
