import { firstTuning, readTuning, type Snag, type Target, type TuningFile } from '@zygopod/core';
import { atom, computed, type WritableAtom } from 'nanostores';
import { createContext, useContext } from 'react';
import type { Opening } from '../../server/data/openings.ts';
import { Drive } from '../drive/drive.ts';
import { currentOf, openWork, type Work } from '../work/work.ts';
import { Editing } from './editing.ts';

/** A span of time on the strip, s. */
export interface Span {
  from: number;
  to: number;
}

/** The window of the strip: its length (s), and its end; null: the end is now, or all of what is looped. */
export interface StripWindow {
  length: number;
  end: number | null;
}

/** A kept tape: its document, and the newest revision that is known of it. */
export interface KeptTape {
  id: string;
  head: number;
  name: string;
}

/** A tuning under work: what the fields, the figures and the strip of a screen share. */
export interface TuningWork extends Work<TuningFile, Editing> {
  editing: Editing;
  /** The span that is being measured, if any. */
  $calipers: WritableAtom<Span | null>;
  /** The targets that the tuning is judged by. */
  $targets: WritableAtom<readonly Target[]>;
  /** Findings about the tuning, its ground and the looped tape. */
  $snags: WritableAtom<readonly Snag[]>;
  /** A place on the ground that is to be shown. */
  $look: WritableAtom<{ x: number; y: number } | null>;
  /** The visible span of time. */
  window: StripWindow;
  /** The kept tape that is looped, as long as it is that one. */
  $kept: WritableAtom<KeptTape | null>;
}

export const TuningContext = createContext<TuningWork | null>(null);

export function useTuning(): TuningWork {
  const work = useContext(TuningContext);
  if (!work) throw new Error('no tuning is under work here');
  return work;
}

/** Opens a tuning to be worked on, driven on its ground. */
export function openTuningWork(opening: Opening): TuningWork {
  const work = openWork<TuningFile, Editing>(
    {
      subject: 'tuning',
      read: (kept) => {
        const read = readTuning(kept);
        return read.ok ? read.value.file : null;
      },
      steps: (now, before) => new Editing(now, before),
      drive: (editing) => new Drive(editing.$tuning.get().parameters, currentOf(opening.ground)),
      follow: ({ steps, drive }) => [
        // What is driven, and what it is compared with: the last revision, or while that is driven the numbers as they are.
        computed([steps.$tuning, steps.$otherTuning], (tuning, other) => ({ tuning, other })).subscribe(({ tuning, other }) => {
          const isOther = JSON.stringify(tuning.parameters) !== JSON.stringify(other.parameters);
          drive.retune(tuning.parameters, isOther ? other.parameters : null);
        }),
      ],
      fresh: ({ unit }) => firstTuning('New tuning', unit),
    },
    opening,
  );
  return {
    ...work,
    editing: work.steps,
    $calipers: atom(null),
    window: { length: 8, end: null },
    $kept: atom(null),
    $look: atom(null),
    $targets: atom([]),
    $snags: atom([]),
  };
}
