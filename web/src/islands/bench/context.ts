import { createContext, useContext, useEffect } from 'react';
import type { Surveyor } from '../shared/surveyor.ts';
import type { DeviceHub } from './devices/hub.ts';
import type { Drive } from './session/drive.ts';
import type { Editing } from './session/editing.ts';
import type { Saving } from './session/saving.ts';

/** Draws or writes one thing of the bench, once a frame. `now` is the frame's time in ms. */
export type Painter = (now: number) => void;

/** What all parts of the bench share. */
export interface BenchSession {
  editing: Editing;
  saving: Saving;
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

/** Runs `paint` once a frame as long as the component is there. */
export function usePainter(paint: Painter): void {
  const { painters } = useBench();
  useEffect(() => {
    painters.add(paint);
    return () => {
      painters.delete(paint);
    };
  });
}
