import { createContext, useContext } from 'react';
import type { SweepWork } from './sweepWork.ts';

export const SweepContext = createContext<SweepWork | null>(null);

export function useSweep(): SweepWork {
  const sweep = useContext(SweepContext);
  if (!sweep) throw new Error('no sweep here');
  return sweep;
}
