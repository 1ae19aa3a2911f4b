import { useStore } from '@nanostores/react';
import type { MetricKey, TuningFile } from '@zygopod/core';
import { useEffect, useRef, useState } from 'react';
import { GivenUp } from '../../workers/desk.ts';
import type { Sounding } from '../../workers/sweep.ts';
import { useSweep } from './context.ts';
import { PATIENCE } from './sweepWork.ts';

/** A tuning that was measured, or why it couldn't be. */
export type Sounded = { key: string } & ({ sounding: Sounding } | { why: string });

/**
 * Measures a tuning in the page's worker: the result of the newest request; the one before stays until that is there. While one is measured, only
 * the last further request waits, so that a pointer on the move piles up no work.
 */
export function useSounding(file: TuningFile | null, keys: readonly MetricKey[], shown: MetricKey | null): Sounded | null {
  const { desk, work, $tape } = useSweep();
  const tape = useStore($tape);
  const [sounded, set] = useState<Sounded | null>(null);
  const waiting = useRef<{ key: string; run(): Promise<void> } | null>(null);
  const isBusy = useRef(false);
  const key = file === null ? '' : JSON.stringify([file, keys, shown, tape?.id]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the request is named by its key
  useEffect(() => {
    if (file === null) return set(null);
    const { ground } = work.drive.world;
    const run = () =>
      desk
        .call((remote) => remote.sound(file, keys, shown, ground, tape?.tape ?? null), PATIENCE)
        .then(
          (sounding) => set({ key, sounding }),
          (error) => set({ key, why: error instanceof GivenUp || error instanceof Error ? error.message : String(error) }),
        );
    waiting.current = { key, run };
    const measureAll = async () => {
      if (isBusy.current) return;
      isBusy.current = true;
      for (let next = waiting.current; next; next = waiting.current) {
        waiting.current = null;
        await next.run();
      }
      isBusy.current = false;
    };
    void measureAll();
  }, [key, desk]);
  return sounded;
}
