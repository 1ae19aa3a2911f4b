import { useStore } from '@nanostores/react';
import {
  drills,
  type Metrics,
  type Moved,
  metricKey,
  metricSpecOf,
  type Outcome,
  shortNumber,
  specOf,
  type Tuning,
  triedPaths,
  unitOf,
  whatIsMoved,
  whatMoves,
} from '@zygopod/core';
import { type ReactNode, useEffect, useMemo, useState } from 'react';
import { Failed } from '../controls/Failed.tsx';
import { PATIENCE, useDrills } from './drillsWork.ts';

/** Milliseconds without a change after which numbers are tried. */
const PAUSE = 500;

/** Rows that are shown of each list. */
const SHOWN = 6;

/** A list that is being measured, is measured, or couldn't be, with the reason. */
type Measured<T> = { is: 'measuring' } | { is: 'failed'; why: string } | { is: 'done'; list: readonly T[] };

/** Measures a list for a tuning once it has been at rest; `retry` measures again after a failure. */
function useTried<T>(tuning: Tuning, what: string, find: () => Promise<T[]>): { measured: Measured<T>; retry(): void } {
  const { tried } = useDrills();
  const [measured, setMeasured] = useState<Measured<T>>({ is: 'measuring' });
  const [tries, setTries] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: `what` names what `find` measures; `tries` measures again
  useEffect(() => {
    let current = true;
    setMeasured({ is: 'measuring' });
    const timer = setTimeout(() => {
      tried
        .of(tuning.file, what, find)
        .then((list) => current && setMeasured({ is: 'done', list }))
        .catch((error) => current && setMeasured({ is: 'failed', why: error instanceof Error ? error.message : String(error) }));
    }, PAUSE);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [tuning, what, tried, tries]);
  return { measured, retry: () => setTries((n) => n + 1) };
}

/** The state of a list while it has no entries: being measured, failed, or empty. */
function Unlisted<T>({ measured, retry, empty }: { measured: Measured<T>; retry(): void; empty: string }) {
  if (measured.is === 'measuring') return <p className="text-ink-soft">Measuring …</p>;
  if (measured.is === 'failed') return <Failed why={`Couldn’t be measured: ${measured.why}`} retry={retry} />;
  return measured.list.length === 0 ? <p className="text-ink-soft">{empty}</p> : null;
}

/** The numbers that move the main metric of a drill, most first; a selected one shows what else it moves. */
export function Moves({ drill, metric }: { drill: string; metric: keyof Metrics }) {
  const { work, now } = useDrills();
  const tuning = useStore(work.editing.$plainTuning);
  const [path, pick] = useState<string | null>(null);
  const { measured, retry } = useTried<Moved>(tuning, `${drill} ${metric}`, () =>
    whatMoves(tuning, metric, (files) => now.desk.call((remote) => remote.metrics(files, drill, work.drive.world.ground), PATIENCE)),
  );
  const moved = measured.is === 'done' ? measured.list : [];
  const { quantity } = metricSpecOf(metric);
  const unit = unitOf(quantity, tuning.file.unit ?? 'px');
  const most = Math.max(1e-12, ...moved.map(({ by }) => Math.abs(by)));
  // Some two hundred tunings are resolved for it.
  const paths = useMemo(() => triedPaths(tuning), [tuning]);
  return (
    <>
      <section aria-label="What moves it" className="border-t border-rule pt-2">
        <h3 className="rubric flex justify-between">
          What moves it <span className="digits font-normal">+10 %</span>
        </h3>
        <Unlisted measured={measured} retry={retry} empty="No parameter changes it at ±10 %." />
        <ul>
          {moved.slice(0, SHOWN).map((one) => (
            <Row key={one.path} share={Math.abs(one.by) / most} by={`${signed(one.by)} ${unit}`} isOneSided={one.isOneSided}>
              <button
                type="button"
                aria-pressed={path === one.path}
                className="min-h-6 min-w-0 flex-1 truncate text-left hover:underline"
                title={`${one.path}${one.isTied ? ', linked: its ratio is varied' : ''}: its other effects`}
                onClick={() => pick(one.path)}
              >
                {specOf(one.path).label}
                {one.isTied && <span aria-hidden="true"> ×</span>}
              </button>
            </Row>
          ))}
        </ul>
      </section>
      <section aria-label="What it moves" className="no-print border-t border-rule pt-2">
        <label className="flex items-baseline gap-2">
          <span className="rubric shrink-0">What is moved by</span>
          <select
            className="min-h-6 min-w-0 flex-1 bg-transparent"
            value={path ?? ''}
            onChange={(event) => pick(event.target.value || null)}
          >
            <option value="">a number …</option>
            {paths.map((one) => (
              <option key={one} value={one}>
                {specOf(one).label} ({one})
              </option>
            ))}
          </select>
        </label>
        {path && <Outcomes tuning={tuning} path={path} />}
      </section>
    </>
  );
}

/** The outcomes that a number moves, most first; each goes to its drill. */
function Outcomes({ tuning, path }: { tuning: Tuning; path: string }) {
  const { now, work, $picked } = useDrills();
  const { measured, retry } = useTried<Outcome>(tuning, path, () =>
    whatIsMoved(tuning, path, (files) => now.desk.call((remote) => remote.all(files, work.drive.world.ground), PATIENCE)),
  );
  if (measured.is !== 'done' || measured.list.length === 0)
    return <Unlisted measured={measured} retry={retry} empty="It changes no metric at ±10 %." />;
  const found = measured.list;
  const most = Math.max(1e-12, ...found.map(({ share }) => Math.abs(share)));
  return (
    <ul>
      {found.slice(0, SHOWN * 2).map(({ metric, by, share, isOneSided }) => {
        const { words, quantity } = metricSpecOf(metric);
        const drill = drills.find(({ main, at }) => metricKey(main, at) === metric);
        return (
          <Row
            key={metric}
            share={Math.abs(share) / most}
            by={`${signed(by)} ${unitOf(quantity, tuning.file.unit ?? 'px')}`}
            isOneSided={isOneSided}
          >
            {drill ? (
              <button
                type="button"
                className="min-h-6 min-w-0 flex-1 truncate text-left hover:underline"
                title={`Shows the drill ${drill.title}`}
                onClick={() => $picked.set(drill.name)}
              >
                {words}
              </button>
            ) : (
              <span className="min-w-0 flex-1 truncate">{words}</span>
            )}
          </Row>
        );
      })}
    </ul>
  );
}

const signed = (by: number) => `${by > 0 ? '+' : '−'}${shortNumber(Math.abs(by), 2)}`;

/** A name, a bar of its share, and by how much for a tenth more. */
function Row({ share, by, isOneSided, children }: { share: number; by: string; isOneSided: boolean; children: ReactNode }) {
  return (
    <li
      className="flex min-h-6 items-center gap-2"
      title={isOneSided ? 'Measured to one side alone: it is at the end of its range' : undefined}
    >
      {children}
      <span aria-hidden="true" className="h-2 w-7 shrink-0">
        <span className="block h-2 bg-ink" style={{ width: `${share * 100}%` }} />
      </span>
      <span className="digits text-right text-xs whitespace-nowrap">
        {by}
        {isOneSided && ' *'}
      </span>
    </li>
  );
}
