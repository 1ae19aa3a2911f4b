import { type IntoKept, isLink, type Metrics, significant, type Target, type Tuning } from '@zygopod/core';
import { MovedRow } from '../../judging/MovedRow.tsx';
import { movedMetrics } from '../../judging/movedMetrics.ts';
import { useDrillsDesk, useMetrics } from '../../judging/useMetrics.ts';
import { HandedList } from '../Handed.tsx';
import type { KeptHandOff } from '../handOffs.ts';
import { asSaid } from './asSaid.ts';

/** Metrics that are listed. */
const LISTED = 6;
const LISTED_OF_ROUNDING = 2;
/** Digits of the outcomes, and of the effect of rounding. */
const DIGITS = 3;
const DIGITS_OF_ROUNDING = 4;

/** Effects of the changed numbers on the outcomes, effects of rounding, and earlier hand-offs. */
export function Outcomes({
  into,
  tuning,
  targets,
  more,
  setMore,
  kept,
}: {
  into: IntoKept;
  tuning: Tuning;
  targets: readonly Target[];
  more: number;
  setMore(digits: number): void;
  kept: readonly KeptHandOff[];
}) {
  const { file } = tuning;
  const unit = file.unit ?? 'px';
  const isChanged = into.edits.length > 0 || into.missing.some(({ isAdded }) => isAdded);
  const drilled = useMetrics(
    useDrillsDesk(),
    !isChanged ? null : [asSaid(file, into.said.before), asSaid(file, into.said.after), file],
    null,
  );
  const [before, after, exact] = (drilled && 'metrics' in drilled ? drilled.metrics : []) as [Metrics?, Metrics?, Metrics?];
  const moved = before && after ? movedMetrics(before, after, { unit, targets, digits: DIGITS }) : null;
  const rounded = into.edits.filter(({ exact, wanted, reads }) => exact !== null && !isLink(wanted) && !isSame(wanted, reads));
  const lost = exact && after ? movedMetrics(exact, after, { unit, targets, digits: DIGITS_OF_ROUNDING }) : [];
  return (
    <aside aria-label="Effects" className="flex min-h-0 flex-col gap-3 overflow-y-auto border-l border-rule bg-paper px-3.5 py-2.5">
      <section aria-label="Effects of the changes">
        <h2 className="rubric">Effects</h2>
        {!isChanged && <p className="text-ink-soft">Your code has the tuning’s numbers already.</p>}
        {isChanged && drilled === null && <p className="text-ink-soft">Running the drills …</p>}
        {drilled && 'why' in drilled && <p className="text-now">▲ {drilled.why}</p>}
        {moved?.length === 0 && <p className="text-ink-soft">No drill shows a difference.</p>}
        <ul data-testid="effects">
          {moved?.slice(0, LISTED).map((one) => (
            <MovedRow key={one.key} moved={one} />
          ))}
        </ul>
        {moved && moved.length > LISTED && <p className="text-xs text-ink-soft">and {moved.length - LISTED} more metrics</p>}
      </section>
      {(rounded.length > 0 || more > 0) && (
        <section aria-label="Rounding" className="border-t border-rule pt-2">
          <h2 className="rubric">Rounded to your file’s digits</h2>
          <ul>
            {rounded.map(({ path, name, exact, after: text }) => (
              <li key={path} className="digits truncate text-[13px]" title={name}>
                {name.split('.').at(-1)} {significant(exact as number, DIGITS)} → {text}
              </li>
            ))}
          </ul>
          {lost.slice(0, LISTED_OF_ROUNDING).map(({ key, words, change }) => (
            <p key={key} className="text-xs text-ink-soft">
              {words}: {change}
            </p>
          ))}
          {rounded.length > 0 && exact && lost.length === 0 && <p className="text-xs text-ink-soft">No drill shows a difference.</p>}
          <p className="flex gap-4">
            {rounded.length > 0 && (
              <button type="button" className="action min-h-6" onClick={() => setMore(more + 1)}>
                One digit more
              </button>
            )}
            {more > 0 && (
              <button type="button" className="action min-h-6" onClick={() => setMore(0)}>
                As written
              </button>
            )}
          </p>
        </section>
      )}
      <HandedList kept={kept} />
    </aside>
  );
}

/** Part of a number that a chain of units takes. */
const isSame = (a: unknown, b: unknown) =>
  a === b || (typeof a === 'number' && typeof b === 'number' && Math.abs(a - b) <= 1e-9 * Math.abs(a));
