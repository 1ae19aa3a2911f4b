import { useStore } from '@nanostores/react';
import { differences } from '@zygopod/core';
import { useMemo } from 'react';
import type { Judge } from '../../judging/judge.ts';
import { MovedRow } from '../../judging/MovedRow.tsx';
import { movedMetrics } from '../../judging/movedMetrics.ts';
import { useMetrics } from '../../judging/useMetrics.ts';
import { useTuning } from '../../tuning/context.ts';

/** Metrics that are listed: fewer beside many changes, so that the snags below stay in sight. */
const shownBeside = (changes: number) => Math.min(4, Math.max(2, 5 - changes));
/** Significant digits in which a metric counts as moved. */
const DIGITS = 3;

/** The metrics of the drills that the changes since the last revision moved, with their targets; nothing while nothing is changed. */
export function Effects({ judge }: { judge: Judge }) {
  const { editing, drive, opening, $targets } = useTuning();
  const now = useStore(editing.$plainTuning);
  const before = useStore(editing.$beforeTuning);
  const targets = useStore($targets);
  const judged = useStore(judge.$judged);
  const changes = useMemo(() => differences(before, now).filter(({ isWritten }) => isWritten).length, [before, now]);
  const isChanged = changes > 0;
  const shown = shownBeside(changes);
  const drilled = useMetrics(judge.desk, isChanged ? [before.file] : null, drive.world.ground);
  const was = drilled && 'metrics' in drilled ? drilled.metrics[0] : undefined;
  const moved = useMemo(
    () => (was && judged ? movedMetrics(was, judged.judgement.metrics, { unit: drive.world.ground.unit, targets, digits: DIGITS }) : null),
    [was, judged, drive, targets],
  );
  if (!isChanged) return null;
  return (
    <section aria-label="Effects" aria-busy={moved === null}>
      <h2 className="rubric flex justify-between">
        Effects
        {moved && moved.length > shown && (
          <a className="action text-xs" href={`/drills/${opening.tuning.id}`}>
            {moved.length - shown} more
          </a>
        )}
      </h2>
      {drilled && 'why' in drilled && <p className="text-now">▲ {drilled.why}</p>}
      {!drilled && <p className="text-ink-soft">Running the drills …</p>}
      {moved?.length === 0 && <p className="text-ink-soft">No drill shows a difference.</p>}
      <ul data-testid="bench-effects">
        {moved?.slice(0, shown).map((one) => (
          <MovedRow key={one.key} moved={one} />
        ))}
      </ul>
    </section>
  );
}
