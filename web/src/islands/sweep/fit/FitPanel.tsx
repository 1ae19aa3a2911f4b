import { useStore } from '@nanostores/react';
import { axisLabel, type FitReport, fitNumber, metricSpecOf, resolveTuning, significant, type TuningFile } from '@zygopod/core';
import { useState } from 'react';
import { Failed } from '../../controls/Failed.tsx';
import { useScreens } from '../../work/place.ts';
import { driveFound, type Found, saveFound } from '../actions.ts';
import { axisUnit, metricWords } from '../words.ts';
import type { Fitted, FitWork } from './fitWork.ts';
import { MoveChoice } from './MoveChoice.tsx';
import { TradeOff } from './TradeOff.tsx';

/** The search for numbers that meet the targets. */
export function FitPanel({ fit }: { fit: FitWork }) {
  const { sweep } = fit;
  const state = useStore(fit.$state);
  const moves = useStore(fit.$moves);
  const targets = useStore(sweep.$targets);
  const [isChoosing, choose] = useState(false);
  if (!targets || targets.set.targets.length === 0) return null;
  const count = moves.length;
  return (
    <section aria-label="Fit" tabIndex={0} data-testid="fit" data-state={state.is} className="min-h-0 flex-1 overflow-y-auto">
      <p className="flex flex-wrap items-baseline gap-x-1.5">
        Meets {targets.set.name} by moving
        <button type="button" className="text-other underline" onClick={() => choose(true)}>
          {count === 0 ? 'the numbers that matter' : `${count} ${count === 1 ? 'number' : 'numbers'}`}
        </button>
      </p>
      {state.is === 'running' && (
        <p className="mt-1 flex gap-4">
          <span className="text-ink-soft">
            <span className="digits">{state.measurements}</span> tunings measured
          </span>
          <button type="button" className="action min-h-6" onClick={() => fit.stop()}>
            Stop
          </button>
        </p>
      )}
      {(state.is === 'idle' || state.is === 'failed') && (
        <p className="mt-1">
          <button type="button" className="action min-h-6" onClick={() => void fit.run()}>
            Find the numbers
          </button>
        </p>
      )}
      {state.is === 'failed' && <Failed why={`It couldn’t be fitted: ${state.why}`} retry={() => void fit.run()} />}
      {(state.is === 'done' || state.is === 'running') && state.found && (
        <Result fit={fit} found={state.found} isWhole={state.is === 'done'} />
      )}
      {isChoosing && <MoveChoice fit={fit} close={() => choose(false)} />}
    </section>
  );
}

/** The result; without the ranges, or the conflicts, while these are being measured. */
function Result({ fit, found: { report, from, targets, seconds }, isWhole }: { fit: FitWork; found: Fitted; isWhole: boolean }) {
  const { sweep } = fit;
  const { screens } = useScreens();
  const { file } = useStore(sweep.work.editing.$plainTuning);
  const front = useStore(fit.$front);
  const chosen = useStore(sweep.$targets)?.set.targets;
  const found: Found = { file: fit.fileWith(report.set), words: fit.wordsOf(report.set) };
  const isSame = (one: TuningFile, other: TuningFile) => JSON.stringify(one) === JSON.stringify(other);
  const isApplied = Object.keys(report.set).length > 0 && isSame(file, found.file) && !isSame(file, from);
  const isStale = (!isSame(file, from) && !isApplied) || chosen !== targets;
  const missed = report.metrics.filter(({ ok }) => ok === false).length;
  const keys = report.metrics.map(({ name }) => name);
  const pair = report.conflicts.find(({ targets: all }) => all.length > 1)?.targets ?? keys;
  return (
    <div data-testid="fit-result" data-met={report.met}>
      <p className={`mt-1 ${report.met ? 'text-route' : 'text-now'}`}>
        {report.met ? `✓ All ${keys.length} targets are met` : `▲ ${missed} of ${keys.length} targets can’t be met`}
        <span className="text-ink-soft">
          {isWhole ? `, found in ${significant(seconds, 2)} s` : ', measuring how well they are held …'}
        </span>
      </p>
      {report.conflicts.map(({ why }) => (
        <p key={why}>{why}.</p>
      ))}
      <Numbers report={report} from={from} />
      <Outcomes report={report} unit={from.unit ?? 'px'} />
      {isStale && <p className="text-stamina-ink">◆ The tuning or its targets have changed since.</p>}
      <p className="mt-1 flex flex-wrap gap-x-4">
        {isStale ? (
          <button type="button" className="action min-h-6" onClick={() => void fit.run()}>
            Fit again
          </button>
        ) : (
          Object.keys(report.set).length > 0 && (
            <>
              <button
                type="button"
                className="action min-h-6 disabled:opacity-50"
                disabled={isApplied}
                onClick={() => sweep.work.editing.replace(found.file, `Fit: ${found.words}`)}
              >
                {isApplied ? 'Applied' : 'Apply'}
              </button>
              <button type="button" className="action min-h-6" onClick={() => void driveFound(sweep.work, found, screens)}>
                Drive it
              </button>
              <button
                type="button"
                className="action min-h-6"
                onClick={() => void saveFound(sweep.work, found, 'From a fit').then((why) => sweep.$trouble.set(why))}
              >
                Save as revision
              </button>
            </>
          )
        )}
        {isWhole && keys.length > 1 && !front && !isStale && (
          <button type="button" className="action min-h-6" onClick={() => void fit.tradeOff([pair[0] as string, pair[1] as string])}>
            Trade-off
          </button>
        )}
      </p>
      {front && !isStale && <TradeOff fit={fit} front={front} keys={keys} targets={targets} />}
    </div>
  );
}

/** Each number that moved, or that is held, and how far it could go. */
function Numbers({ report: { set, held, free }, from }: { report: FitReport; from: TuningFile }) {
  const [before, after] = [from, Object.keys(set).length > 0 ? set : {}];
  const read = resolveTuning(before);
  if (!read.ok) return null;
  const paths = [...new Set([...Object.keys(after), ...Object.keys(held), ...free])];
  return (
    <table className="mt-1 w-full border-collapse">
      <tbody>
        {paths.map((path) => {
          const plain = path.replace(/\.times$/, '');
          const number = fitNumber(read.value, { path });
          const now = typeof number === 'string' ? 0 : number.now;
          const value = set[plain];
          const next = typeof value === 'number' ? value : typeof value === 'object' && 'times' in value ? `${value.times} ×` : null;
          const range = held[path];
          return (
            <tr key={path} className="border-t border-rule/70" data-path={path}>
              <td className="max-w-0 w-full truncate py-0.5" title={path}>
                {axisLabel(path)}
              </td>
              <td className="digits pl-2 text-right text-xs whitespace-nowrap text-ink-soft">{significant(now)}</td>
              <td className="digits pl-1 text-xs whitespace-nowrap">
                {next === null ? '' : `→ ${typeof next === 'number' ? significant(next) : next}`}
              </td>
              <td
                className="digits pl-2 text-right text-xs whitespace-nowrap text-ink-soft"
                title="All targets hold over this range, the other numbers fitted again"
              >
                {range ? `${significant(range.low)} to ${significant(range.high)}` : free.includes(path) ? 'any value does' : ''}
              </td>
              <td className="pl-1 text-xs whitespace-nowrap text-ink-soft">
                {axisUnit({ path, values: [], isLog: false }, from.unit ?? 'px')}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** The outcomes that were out of their bands, or still are. */
function Outcomes({ report, unit }: { report: FitReport; unit: string }) {
  const isOut = (value: number | null, { min = -Infinity, max = Infinity }: { min?: number; max?: number }) =>
    value === null || value < min || value > max;
  const shown = report.metrics.filter((metric) => isOut(metric.before, metric) || metric.ok === false);
  if (shown.length === 0) return null;
  return (
    <ul className="mt-1">
      {shown.map(({ name, before, after, ok }) => (
        <li key={name} className="flex gap-2" data-metric={name}>
          <span className="min-w-0 flex-1 truncate">{metricSpecOf(name).words}</span>
          <span className={`digits text-xs whitespace-nowrap ${ok ? 'text-route' : 'text-now'}`}>
            {`${before === null ? '–' : significant(before)} → ${metricWords(name as never, after ?? undefined, unit)} ${ok ? '✓' : '▲'}`}
          </span>
        </li>
      ))}
    </ul>
  );
}
