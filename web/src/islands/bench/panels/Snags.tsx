import { useStore } from '@nanostores/react';
import { bySeverity, type Snag, specOf, traceSnags, tuningSnags } from '@zygopod/core';
import { useEffect, useMemo, useState } from 'react';
import { Failed } from '../../controls/Failed.tsx';
import { showFigure } from '../../figures/showFigure.ts';
import { Judge } from '../../judging/judge.ts';
import { type SnagDeeds, SnagRow } from '../../judging/SnagRow.tsx';
import { useTuning } from '../../tuning/context.ts';

/** Milliseconds without a change after which a looped tape is looked through. */
const PAUSE = 150;

/** Snags that are shown until all are asked for. */
const SHOWN = 5;

/** What tells snags apart: of drills and of the tape each kind is told once, on the ground each place is another. */
function keyOf({ id, path = '', place, time, drill }: Snag): string {
  const where = drill ? 'drill' : time !== undefined ? 'tape' : place ? `${place.x.toFixed(1)} ${place.y.toFixed(1)}` : '';
  return `${id} ${path} ${where}`;
}

/** What is wrong with the tuning, on this ground, on the looped tape and in the drills; worst first, each with its mend. */
export function Snags() {
  const work = useTuning();
  const { drive, editing, $look, $snags } = work;
  const file = useStore(editing.$now);
  const flipped = useStore(editing.$flipped);
  const tuning = useStore(editing.$plainTuning);
  const [judge] = useState(() => new Judge());
  const judged = useStore(judge.$judged);
  const trouble = useStore(judge.$trouble);
  const looped = useLoopSnags();
  const [all, showAll] = useState(false);
  const { ground } = drive.world;
  useEffect(() => judge.ask(file, ground), [judge, file, ground]);
  useEffect(() => () => judge.stop(), [judge]);

  const cheap = useMemo(() => tuningSnags(tuning, ground), [tuning, ground]);
  const found = useMemo(() => {
    const seen = new Set<string>();
    // What the numbers say themselves is not told again by a drill; what a tape shows has its moment.
    const isNew = (snag: Snag) => !seen.has(keyOf(snag)) && seen.add(keyOf(snag));
    const told = new Set(cheap.map(({ id, path }) => `${id} ${path}`));
    const rest = (judged?.judgement.snags ?? []).filter(({ id, path }) => !told.has(`${id} ${path}`));
    return bySeverity([...cheap, ...looped, ...rest].filter(isNew));
  }, [cheap, looped, judged]);

  // Yard and strip mark them, too.
  useEffect(() => $snags.set(flipped ? none : found), [$snags, flipped, found]);
  const deeds: SnagDeeds = {
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
  return (
    <section aria-label="Snags">
      <h2 className="rubric flex justify-between">
        Snags <span className="digits font-normal">{found.length}</span>
      </h2>
      {trouble && <Failed why={`The drills didn’t finish: ${trouble}`} retry={() => judge.retry()} className="mt-1.5" />}
      {found.length === 0 && !trouble && <p className="mt-1.5 text-ink-soft">{judged ? 'None found.' : 'Checking …'}</p>}
      <ul>
        {(all ? found : found.slice(0, SHOWN)).map((snag) => (
          <SnagRow key={keyOf(snag)} snag={snag} deeds={deeds} />
        ))}
      </ul>
      {found.length > SHOWN && (
        <button type="button" className="deed min-h-6 text-xs" aria-expanded={all} onClick={() => showAll(!all)}>
          {all ? 'The worst alone' : `Show all ${found.length}`}
        </button>
      )}
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
