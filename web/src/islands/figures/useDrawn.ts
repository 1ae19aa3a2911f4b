import { useMemo, useRef } from 'react';

/** What `make` gives, made anew only when `key` changes: for drawings that run the core. */
export function useDrawn<T>(key: string, make: () => T): T {
  const maker = useRef(make);
  maker.current = make;
  return useMemo(() => {
    void key;
    return maker.current();
  }, [key]);
}
