import { useStore } from '@nanostores/react';
import { type Effect, type EffectTable, metricSpecOf, shortNumber, specOf, unitOf } from '@zygopod/core';
import { useEffect, useState } from 'react';
import { Failed } from '../controls/Failed.tsx';
import { axisThrough } from './choice.ts';
import { useSweep } from './context.ts';
import { PATIENCE } from './sweepWork.ts';

/** Milliseconds without a change after which effects are measured. */
const PAUSE = 300;
/** Length of the longest bar, px, and the relative effect that it stands for. */
const BAR = 34;
const WHOLE = 0.2;

/** Effects of a tuning, being measured, or why they couldn't be. */
type Measured = { is: 'measuring' } | { is: 'done'; table: EffectTable; seconds: number } | { is: 'failed'; why: string };

/** The table of effects: numbers against outcomes. */
export function Effects() {
  const sweep = useSweep();
  const tuning = useStore(sweep.work.editing.$plainTuning);
  const { state } = useStore(sweep.$progress);
  const [measured, setMeasured] = useState<Measured>({ is: 'measuring' });
  const [tries, setTries] = useState(0);
  // The sweep comes first: it was requested.
  const isFree = state !== 'running' && state !== 'waiting';
  // biome-ignore lint/correctness/useExhaustiveDependencies: `tries` measures again
  useEffect(() => {
    if (!isFree) return;
    let isCurrent = true;
    const timer = setTimeout(() => {
      const begun = performance.now();
      sweep.desk
        .call((remote) => remote.effects(tuning.file, sweep.work.drive.world.ground), PATIENCE)
        .then(
          (table) => isCurrent && setMeasured({ is: 'done', table, seconds: (performance.now() - begun) / 1000 }),
          (error) => isCurrent && setMeasured({ is: 'failed', why: error instanceof Error ? error.message : String(error) }),
        );
    }, PAUSE);
    return () => {
      isCurrent = false;
      clearTimeout(timer);
    };
  }, [tuning, sweep, isFree, tries]);
  return (
    <section
      aria-label="What moves what"
      className="flex min-h-0 flex-1 flex-col border-t border-ink bg-paper px-4 pt-2"
      data-testid="effects"
      data-state={measured.is}
    >
      <h2 className="flex flex-wrap items-baseline gap-x-2">
        <span className="text-[13px] font-semibold">What moves what</span>
        <span className="text-ink-soft">the change of each outcome for +10 % of each number, in %; filled is up, open is down</span>
      </h2>
      {measured.is === 'measuring' && <p className="mt-1 text-ink-soft">Measuring …</p>}
      {measured.is === 'failed' && <Failed why={`Couldn’t be measured: ${measured.why}`} retry={() => setTries((n) => n + 1)} />}
      {measured.is === 'done' && <Table table={measured.table} seconds={measured.seconds} />}
    </section>
  );
}

function Table({ table, seconds }: { table: EffectTable; seconds: number }) {
  const sweep = useSweep();
  const tuning = useStore(sweep.work.editing.$plainTuning);
  const { unit = 'px' } = tuning.file;
  const open = (path: string, isLinked: boolean, metric: EffectTable['outcomes'][number]['metric']) => {
    const { metrics } = sweep.$choice.get();
    sweep.goTo({
      over: [axisThrough(isLinked ? `${path}.times` : path, tuning, COUNT)],
      metrics: [metric, ...metrics.filter((key) => key !== metric)].slice(0, 4),
      shown: metric,
    });
  };
  // Outcomes that no number moves have no column.
  const columns = table.outcomes.flatMap((outcome, i) => (table.rows.some(({ effects }) => effects[i]) ? [{ ...outcome, i }] : []));
  return (
    <section aria-label="Effects of +10 %" tabIndex={0} className="min-h-0 flex-1 overflow-auto" data-seconds={seconds.toFixed(2)}>
      <table className="w-full border-separate border-spacing-0">
        <thead>
          <tr>
            <td className="sticky top-0 left-0 z-10 bg-paper" />
            {columns.map(({ metric, value }) => (
              <th
                key={metric}
                scope="col"
                className="sticky top-0 bg-paper px-1 pb-1 text-left align-bottom text-xs leading-tight font-normal text-ink-soft"
                title={`now ${shortNumber(Number(value.toPrecision(3)))} ${unitOf(metricSpecOf(metric).quantity, unit)}`}
              >
                {metricSpecOf(metric).words}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {table.rows.map(({ path, isLinked, effects }) => (
            <tr key={path} data-path={path}>
              <th
                scope="row"
                className="sticky left-0 border-t border-rule/70 bg-paper pr-2 text-left font-normal whitespace-nowrap"
                title={path}
              >
                {specOf(path).label}
                {isLinked && <span title="Linked: its ratio is varied"> ×</span>}
              </th>
              {columns.map(({ metric, i }) => (
                <td key={metric} className="border-t border-rule/70 px-1">
                  <Cell
                    effect={effects[i] ?? null}
                    words={`${specOf(path).label}, ${metricSpecOf(metric).words}`}
                    unit={unitOf(metricSpecOf(metric).quantity, unit)}
                    open={() => open(path, isLinked, metric)}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {table.without.length > 0 && (
        <p className="py-1 text-ink-soft">Without effect on these: {table.without.map((path) => specOf(path).label).join(', ')}.</p>
      )}
    </section>
  );
}

/** Values of the axis that a cell opens. */
const COUNT = 80;

/** One effect: a bar of its size, and its sign and percentage. */
function Cell({ effect, words, unit, open }: { effect: Effect | null; words: string; unit: string; open(): void }) {
  if (!effect)
    return (
      <span aria-hidden="true" className="text-rule">
        –
      </span>
    );
  const { by, share, isOneSided } = effect;
  const sign = by > 0 ? '+' : '−';
  const text = share === null ? `${sign}${shortNumber(Number(Math.abs(by).toPrecision(2)))}` : `${sign}${percent(Math.abs(share))}`;
  const wide = Math.max(2, Math.round(Math.min(1, Math.abs(share ?? WHOLE) / WHOLE) * BAR));
  return (
    <button
      type="button"
      className="flex min-h-6 items-center gap-1.5 hover:underline"
      aria-label={`${words}: ${text}${share === null ? ` ${unit}` : ' %'}${isOneSided ? ', measured to one side' : ''}. Sweep it`}
      title={`${sign}${shortNumber(Number(Math.abs(by).toPrecision(3)))} ${unit} for +10 %${isOneSided ? '; measured to one side: the number is at a limit' : ''}. Click to sweep it.`}
      onClick={open}
    >
      <span aria-hidden="true" className={`inline-block h-2 border border-ink ${by > 0 ? 'bg-ink' : ''}`} style={{ width: wide }} />
      <span className="digits text-xs">
        {text}
        {isOneSided && '*'}
      </span>
    </button>
  );
}

const percent = (share: number) => (share >= 0.0095 ? `${Math.round(share * 100)}` : shortNumber(Number((share * 100).toPrecision(1)), 2));
