import type { TuningFile } from '@zygopod/core';
import { createContext, useContext } from 'react';
import type { DeviceHub } from '../devices/hub.ts';
import type { Painter } from '../shared/frames.ts';
import type { Saving } from '../shared/saving.ts';
import type { Surveyor } from '../shared/surveyor.ts';
import type { Drive } from '../yard/drive.ts';
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
