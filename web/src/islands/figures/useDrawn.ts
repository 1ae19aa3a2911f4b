import type { Parameters } from '@zygopod/core';
import { useMemo } from 'react';

/** Names all that a run of the core may read, but for the view: a drawing made of a run is out of date when any of it changes. */
export const runKey = ({ camera, ...read }: Parameters): string => JSON.stringify(read);

/** The result of `make`, recomputed only when `key` changes: for drawings that run the core. */
export function useDrawn<T>(key: string, make: () => T): T {
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key names everything that `make` reads
  return useMemo(make, [key]);
}
