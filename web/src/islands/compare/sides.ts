import { type Parameters, type Rerun, resolveTuning, type Tape, type Tuning } from '@zygopod/core';
import type { Opening } from '../../server/data/openings.ts';
import type { Spread } from '../../workers/laps.ts';
import type { Rate, SideRef } from '../work/comparison.ts';
import type { Fetched } from '../work/fetching.ts';
import { currentOf } from '../work/work.ts';

/** Counts the sides of a page. */
let count = 0;

/** The hands of one side on a course, why its lap isn’t finished, and the spread of many; or why there are none, which is nothing yet while they are waited for. */
export type SideHands = { tape: Tape; why: string | null; spread: Spread | null } | { tape: null; why: string | null };

/** One side: a revision of a tuning at a rate, driven by the tape, or round the course by hands of its own. */
export interface ComparedSide {
  /** Which one it is, wherever it stands and whatever revision of it is shown. */
  key: number;
  ref: SideRef;
  name: string;
  /** The part of its name that the other sides don't share. */
  short: string;
  /** `rev 12`, `rev 12, changed` */
  revision: string;
  tuning: Tuning;
  parameters: Parameters;
  again: Rerun;
  /** Its own hands on a course; null where all sides have those of one tape. */
  hands: SideHands | null;
}

/** A side that is not on the tape yet. */
export type OpenedSide = Pick<ComparedSide, 'key' | 'ref' | 'name' | 'revision' | 'tuning'>;

/** A tuning's parameters at another rate; uneven frames are ticks of a tuning that steps per frame. */
export function atRate({ parameters }: Tuning, rate: Rate | null): Parameters {
  if (rate === null) return parameters;
  const clock =
    rate === 'uneven'
      ? { ...parameters.clock, stepping: 'perFrame' as const }
      : { ...parameters.clock, stepping: 'fixed' as const, hz: rate };
  return { ...parameters, clock };
}

/** A tuning that was fetched, as a side. */
export function openedSide(ref: SideRef, { value, revision }: Fetched<Tuning>): OpenedSide {
  return { key: ++count, ref: { ...ref, revision }, name: value.file.name, revision: `rev ${revision}`, tuning: value };
}

/** The tuning that the page was opened with, as it is: its draft, else its newest revision. */
export function openedTuning({ tuning }: Opening, rate: SideRef['rate']): OpenedSide {
  const read = resolveTuning(currentOf(tuning));
  if (!read.ok) throw new Error(`the tuning ${tuning.id} does not resolve`);
  const { head, draft } = tuning;
  return {
    key: ++count,
    // A draft is in no revision: no address can name it but by the newest state.
    ref: { id: tuning.id, revision: draft ? null : head, rate },
    name: read.value.file.name,
    revision: draft ? `rev ${draft.base}, changed` : `rev ${head}`,
    tuning: read.value,
  };
}
