import type { TuningFile } from '@zygopod/core';
import { createContext, useContext } from 'react';
import type { Painter } from '../chart/frames.ts';
import type { Drive } from '../drive/drive.ts';
import type { DeviceHub } from '../drive/hub.ts';
import type { Surveyor } from '../drive/surveyor.ts';
import type { Saving } from '../work/saving.ts';
import type { Editing } from './session/editing.ts';

/** What all parts of the bench share. */
export interface BenchSession {
  editing: Editing;
  saving: Saving<TuningFile>;
  drive: Drive;
  hub: DeviceHub;
  painters: Set<Painter>;
  surveyor: Surveyor;
}

export const BenchContext = createContext<BenchSession | null>(null);

export function useBench(): BenchSession {
  const session = useContext(BenchContext);
  if (!session) throw new Error('outside of the bench');
  return session;
}
