import { createContext, useContext } from 'react';
import type { KeptSweeps } from './keptSweeps.ts';
import type { SweepWork } from './sweepWork.ts';

export const SweepContext = createContext<SweepWork | null>(null);

export function useSweep(): SweepWork {
  const sweep = useContext(SweepContext);
  if (!sweep) throw new Error('no sweep here');
  return sweep;
}

export const KeptContext = createContext<KeptSweeps | null>(null);

/** The kept sweeps of the screen. */
export function useKept(): KeptSweeps {
  const kept = useContext(KeptContext);
  if (!kept) throw new Error('outside of the sweep');
  return kept;
}
