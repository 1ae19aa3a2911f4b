import { createContext, useContext } from 'react';
import type { Comparing } from './comparing.ts';

export const ComparingContext = createContext<Comparing | null>(null);

export function useComparing(): Comparing {
  const comparing = useContext(ComparingContext);
  if (!comparing) throw new Error('nothing to compare');
  return comparing;
}
