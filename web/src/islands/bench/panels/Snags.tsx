import { useStore } from '@nanostores/react';
import { bySeverity, type Snag, specOf, traceSnags, tuningSnags } from '@zygopod/core';
import { useEffect, useMemo, useState } from 'react';
import { Failed } from '../../controls/Failed.tsx';
import { showFigure } from '../../figures/showFigure.ts';
import type { Judge } from '../../judging/judge.ts';
import { SnagGroupRow } from '../../judging/SnagGroupRow.tsx';
import type { SnagActions } from '../../judging/SnagRow.tsx';
import { groupSnags } from '../../judging/snagGroups.ts';
import { useTuning } from '../../tuning/context.ts';

/** Time (ms) without a change after which a looped tape is checked. */
const PAUSE = 150;

/** Number of kinds listed until all are requested. */
const SHOWN = 3;

/** Identity of a snag: drills and tape report each kind once, the ground reports each place. */
function keyOf({ id, path = '', place, time, drill }: Snag): string {
  const where = drill ? 'drill' : time !== undefined ? 'tape' : place ? `${place.x.toFixed(1)} ${place.y.toFixed(1)}` : '';
  return `${id} ${path} ${where}`;
}

/** The faults of the tuning, of this ground, of the looped tape and of the drills: a line a kind, the worst first, opened for each place and mend. */
export function Snags({ judge }: { judge: Judge }) {
  const work = useTuning();
  const { drive, editing, $look, $snags } = work;
  const flipped = useStore(editing.$flipped);
  const tuning = useStore(editing.$plainTuning);
  const judged = useStore(judge.$judged);
  const trouble = useStore(judge.$trouble);
  const looped = useLoopSnags();
  const [all, showAll] = useState(false);
  const { ground } = drive.world;

  const cheap = useMemo(() => tuningSnags(tuning, ground), [tuning, ground]);
  const found = useMemo(() => {
    const seen = new Set<string>();
    // A drill doesn't repeat a finding of the numbers themselves; a finding on a tape has its moment.
    const isNew = (snag: Snag) => !seen.has(keyOf(snag)) && seen.add(keyOf(snag));
    const listed = new Set(cheap.map(({ id, path }) => `${id} ${path}`));
    const rest = (judged?.judgement.snags ?? []).filter(({ id, path }) => !listed.has(`${id} ${path}`));
    return bySeverity([...cheap, ...looped, ...rest].filter(isNew));
  }, [cheap, looped, judged]);

  // Yard and strip mark them, too.
  useEffect(() => $snags.set(flipped ? none : found), [$snags, flipped, found]);
  const actions: SnagActions = {
    row: (path) => {
      showFigure(specOf(path).figure);
      editing.$subject.set(path);
    },
    look: ({ time, place }) => {
      const loop = drive.$loop.get();
      if (time !== undefined && loop) loop.goTo(loop.world.trace.rowAt(time));
      if (place) $look.set(place);
    },
    preview: (snag) => editing.preview(snag?.mend?.set ?? null),
    mend: ({ mend }) => mend && editing.setAll(mend.set, mend.words.toLowerCase()),
  };
  if (flipped) return null;
  const groups = groupSnags(found);
  return (
    <section aria-label="Snags" data-found={found.length}>
      <h2 className="rubric flex justify-between">
        Snags
        {groups.length > SHOWN ? (
          <button type="button" className="action text-xs" aria-expanded={all} onClick={() => showAll(!all)}>
            {all ? 'Show the worst 3' : `Show all ${groups.length} kinds`}
          </button>
        ) : (
          <span className="digits font-normal">{groups.length === 0 ? '' : `${groups.length} kind${groups.length > 1 ? 's' : ''}`}</span>
        )}
      </h2>
      {trouble && <Failed why={`The drills didn’t finish: ${trouble}`} retry={() => judge.retry()} className="mt-1.5" />}
      {found.length === 0 && !trouble && <p className="mt-1 text-ink-soft">{judged ? 'None found.' : 'Checking …'}</p>}
      <ul>
        {(all ? groups : groups.slice(0, SHOWN)).map((group) => (
          <SnagGroupRow key={group.id} group={group} actions={actions} keyOf={keyOf} />
        ))}
      </ul>
    </section>
  );
}

const none: readonly Snag[] = [];

/** The snags of the looped tape, a moment after it was driven last. */
function useLoopSnags(): readonly Snag[] {
  const { drive } = useTuning();
  const loop = useStore(drive.$loop);
  const [found, setFound] = useState<readonly Snag[]>(none);
  useEffect(() => {
    if (!loop) {
      setFound(none);
      return;
    }
    let timer: ReturnType<typeof setTimeout> | undefined;
    const look = () => {
      if (!loop.isWhole) return;
      const { trace, parameters, ground } = loop.world;
      setFound(traceSnags({ trace, parameters, ground, tape: loop.tape }));
    };
    const stop = loop.$cost.subscribe(() => {
      clearTimeout(timer);
      timer = setTimeout(look, PAUSE);
    });
    return () => {
      clearTimeout(timer);
      stop();
    };
  }, [loop]);
  return found;
}
