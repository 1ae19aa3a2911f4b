import type { Parameters } from '@zygopod/core';
import { useMemo, useRef } from 'react';

/** Names all that a run of the core may read, but for the view: a drawing made of a run is out of date when any of it changes. */
export const runKey = ({ camera, ...read }: Parameters): string => JSON.stringify(read);

/** What `make` gives, made anew only when `key` changes: for drawings that run the core. */
export function useDrawn<T>(key: string, make: () => T): T {
  const maker = useRef(make);
  maker.current = make;
  return useMemo(() => {
    void key;
    return maker.current();
  }, [key]);
}
