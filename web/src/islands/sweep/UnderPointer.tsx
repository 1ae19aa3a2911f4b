import { useStore } from '@nanostores/react';
import { judgeTargets, metricSpecOf, nearestMet, placeOn, shortNumber, type Target, unitOf, valueOn } from '@zygopod/core';
import { useMemo } from 'react';
import { readingOf } from '../judging/readings.ts';
import { useScreens } from '../work/place.ts';
import { compareFound, driveFound, type Found, foundAt, saveFound } from './actions.ts';
import { useSweep } from './context.ts';
import { bandOf } from './layout.ts';
import { MotionPicture } from './MotionPicture.tsx';
import { useSounding } from './useSounding.ts';
import { placeWords } from './words.ts';

/** The motion and the metrics of the cell that is looked at, beside those of the tuning as it is, and what can be done with the cell. */
export function UnderPointer() {
  const sweep = useSweep();
  const at = useStore(sweep.$at);
  const isPinned = useStore(sweep.$isPinned);
  const choice = useStore(sweep.$choice);
  const swept = useStore(sweep.$swept);
  const targets = useStore(sweep.$targets)?.set.targets ?? none;
  const file = useStore(sweep.work.editing.$now);
  const { unit = 'px' } = file;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the keys follow from the choice and the targets
  const keys = useMemo(() => sweep.keys(), [sweep, choice, targets]);
  const shown = choice.shown === 'met' ? (choice.metrics[0] ?? null) : choice.shown;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the cell's file follows from the tuning, too
  const cellFile = useMemo(() => (at === null ? null : sweep.fileAt(at)), [sweep, at, file, swept?.sweep]);
  const here = useSounding(cellFile, keys, shown);
  const today = useSounding(swept ? file : null, keys, shown);
  const hole = at === null ? undefined : swept?.sweep.holes.find(({ at: [x, y = 0] }) => y * (swept?.sweep.width ?? 0) + (x ?? 0) === at);
  const [own, now] = [
    here && at !== null && 'sounding' in here ? here.sounding : null,
    today && 'sounding' in today ? today.sounding : null,
  ];
  return (
    <aside aria-label="Under the pointer" className="flex min-h-0 flex-1 flex-col gap-2">
      <h2 className="rubric flex justify-between">
        {at === null ? 'The tuning as it is' : isPinned ? 'The chosen place' : 'Under the pointer'}
        {at !== null && isPinned && (
          <button type="button" className="action" onClick={() => sweep.$isPinned.set(false)}>
            Release
          </button>
        )}
      </h2>
      {hole ? <p>No valid tuning here. {hole.why}</p> : <MotionPicture here={own?.motion ?? null} today={now?.motion ?? null} />}
      {here && 'why' in here && at !== null && <p className="text-now">▲ {here.why}</p>}
      <section aria-label="Metrics" tabIndex={0} className="min-h-0 flex-1 overflow-y-auto">
        <table className="w-full border-collapse">
          <thead>
            <tr className="text-xs text-ink-soft">
              <td />
              {at === null ? <td /> : <th className="text-right font-normal">here</th>}
              <th className="text-right font-normal">today</th>
              <th className="text-right font-normal">target</th>
            </tr>
          </thead>
          <tbody>
            {keys.map((key) => (
              <MetricRow
                key={key}
                metric={key}
                unit={unit}
                here={own?.metrics[key]}
                today={now?.metrics[key]}
                band={bandOf(targets, key)}
                isAt={at !== null}
              />
            ))}
          </tbody>
        </table>
      </section>
      {swept && <Actions at={at} targets={targets} />}
    </aside>
  );
}

const none: readonly Target[] = [];

function MetricRow({
  metric,
  unit,
  here,
  today,
  band,
  isAt,
}: {
  metric: Parameters<typeof bandOf>[1];
  unit: string;
  here: number | undefined;
  today: number | undefined;
  band: Target | null;
  isAt: boolean;
}) {
  const { words, quantity } = metricSpecOf(metric);
  const isOut = (value: number | undefined) =>
    band !== null && value !== undefined && judgeTargets([band], { [metric]: value })[0]?.ok === false;
  const cell = (value: number | undefined) =>
    value === undefined ? '–' : `${isOut(value) ? '▲ ' : ''}${readingOf(value, band)} ${unitOf(quantity, unit)}`;
  return (
    <tr className="border-t border-rule/70" data-metric={metric}>
      <td className="max-w-0 w-full truncate py-0.5" title={words}>
        {words}
      </td>
      <td className={`digits pl-2 text-right text-xs whitespace-nowrap ${isOut(here) ? 'text-now' : ''}`}>{isAt ? cell(here) : ''}</td>
      <td className={`digits pl-3 text-right text-xs whitespace-nowrap ${isOut(today) ? 'text-now' : isAt ? 'text-ink-soft' : ''}`}>
        {cell(today)}
      </td>
      <td className="digits pl-3 text-right text-xs whitespace-nowrap text-route">{band && bandWords(band)}</td>
    </tr>
  );
}

/** A band in words: `4 to 9`. */
const bandWords = ({ min, max }: Target): string =>
  min !== undefined && max !== undefined
    ? `${shortNumber(min)} to ${shortNumber(max)}`
    : min === undefined
      ? `at most ${shortNumber(max ?? 0)}`
      : `at least ${shortNumber(min)}`;

/** The actions on the chosen cell, and the search for the nearest one that meets all targets. */
function Actions({ at, targets }: { at: number | null; targets: readonly Target[] }) {
  const sweep = useSweep();
  const { screens } = useScreens();
  const swept = useStore(sweep.$swept);
  const tuning = useStore(sweep.work.editing.$plainTuning);
  const { unit = 'px' } = tuning.file;
  if (!swept) return null;
  const { axes } = swept.sweep.definition;
  const withFound = (act: (found: Found) => Promise<string | null>) => async () => {
    const found = at === null ? null : foundAt(sweep, at);
    if (found) sweep.$trouble.set(await act(found));
  };
  const drive = withFound((found) => driveFound(sweep.work, found, screens).then(() => null));
  const save = withFound((found) => saveFound(sweep.work, found, 'From a sweep'));
  const compare = withFound((found) => compareFound(sweep.work, found));
  const nearest = () => {
    const from = axes.map((axis) => {
      const value = valueOn(axis, tuning);
      return (value === undefined ? null : placeOn(axis, value)) ?? 0;
    });
    const found = nearestMet(swept.sweep, from);
    if (found === null) return sweep.$trouble.set('No measured tuning meets all targets. Widen the axes, or the bands on Drills.');
    sweep.goToCell(found);
  };
  return (
    <div className="border-t border-rule pt-2">
      {at !== null && <p className="text-ink-soft">Today: {placeWords(axes, sweep.valuesOf(tuning.file) ?? [], unit)}</p>}
      <p className="mt-1 flex flex-wrap gap-x-4">
        <button type="button" className="action min-h-6 disabled:opacity-50" disabled={at === null} onClick={() => void drive()}>
          Drive it
        </button>
        <button type="button" className="action min-h-6 disabled:opacity-50" disabled={at === null} onClick={() => void save()}>
          Save as revision
        </button>
        <button type="button" className="action min-h-6 disabled:opacity-50" disabled={at === null} onClick={() => void compare()}>
          Compare with today
        </button>
        {targets.length > 0 && (
          <button type="button" className="action min-h-6" onClick={nearest}>
            Nearest that meets all targets
          </button>
        )}
      </p>
      {at === null && <p className="text-ink-soft">Click a place on the chart to choose it.</p>}
    </div>
  );
}
