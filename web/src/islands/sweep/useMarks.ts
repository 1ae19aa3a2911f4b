import { useStore } from '@nanostores/react';
import { placeOn, type Tuning, valueOn } from '@zygopod/core';
import { useEffect, useState } from 'react';
import { fetchTuning } from '../work/fetching.ts';
import { inProject } from '../work/project.ts';
import { askServer } from '../work/server.ts';
import { useSweep } from './context.ts';
import type { Swept } from './measuring.ts';

/** A tuning on the plane: its place in cells from the upper left corner, and its name. */
export interface PlaneMark {
  is: 'today' | 'other' | 'revision';
  x: number;
  y: number;
  name: string;
}

/** Tunings that are fetched to be marked, at most: other ones, and revisions of this one. */
const MOST = 12;

interface Marked {
  others: Tuning[];
  revisions: { number: number; tuning: Tuning }[];
}

/** The other tunings of the project, and the last revisions of this one; empty until they are fetched. */
function useFetched(id: string, head: number): Marked {
  const [marked, setMarked] = useState<Marked>({ others: [], revisions: [] });
  useEffect(() => {
    let isCurrent = true;
    const fetchAll = async () => {
      const query = new URLSearchParams({ limit: `${MOST + 1}`, ...inProject() });
      const page = await askServer<{ items: { id: string }[] }>('GET', `/api/v1/tunings?${query}`);
      const ids = 'body' in page ? page.body.items.map((item) => item.id).filter((other) => other !== id) : [];
      const others = await Promise.all(ids.slice(0, MOST).map((other) => fetchTuning({ id: other, revision: null })));
      const numbers = Array.from({ length: Math.min(MOST, Math.max(0, head - 1)) }, (_, i) => head - 1 - i);
      const revisions = await Promise.all(numbers.map((revision) => fetchTuning({ id, revision })));
      if (!isCurrent) return;
      setMarked({
        others: others.flatMap((one) => (one.ok ? [one.fetched.value] : [])),
        revisions: revisions.flatMap((one) => (one.ok ? [{ number: one.fetched.revision, tuning: one.fetched.value }] : [])),
      });
    };
    void fetchAll();
    return () => {
      isCurrent = false;
    };
  }, [id, head]);
  return marked;
}

/** The tunings that lie on a plane: this one as it is, and others where they are shown. */
export function useMarks({ sweep }: Swept, show: { others: boolean; revisions: boolean }): PlaneMark[] {
  const { work } = useSweep();
  const tuning = useStore(work.editing.$plainTuning);
  const head = useStore(work.saving.$head);
  const { others, revisions } = useFetched(work.saving.id, head);
  const { axes } = sweep.definition;
  const placed = (one: Tuning, is: PlaneMark['is'], name: string): PlaneMark[] => {
    const [x, y] = axes.map((axis) => {
      const value = valueOn(axis, one);
      const at = value === undefined ? null : placeOn(axis, value);
      return at === null ? null : at + 0.5;
    });
    return x === null || x === undefined || y === null || (y === undefined && axes.length > 1) ? [] : [{ is, x, y: y ?? 0.5, name }];
  };
  return [
    ...placed(tuning, 'today', tuning.file.name),
    ...(show.others ? others.flatMap((one) => placed(one, 'other', one.file.name)) : []),
    ...(show.revisions ? revisions.flatMap(({ number, tuning: one }) => placed(one, 'revision', `rev ${number}`)) : []),
  ];
}
