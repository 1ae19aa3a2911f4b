import {
  moverPaths,
  type RecordingReport,
  reproduce,
  significant,
  significantPair,
  specOf,
  type TuningFile,
  titleOf,
  unitOf,
  withValue,
} from '@zygopod/core';
import { type ReactNode, useMemo, useState } from 'react';
import { RecordedPath } from './RecordedPath.tsx';
import { SpeedStrip } from './SpeedStrip.tsx';
import { TriedNumber } from './TriedNumber.tsx';

export const mainButton = 'border border-now px-3 py-1 font-semibold text-now disabled:opacity-50';

type MoverKey = keyof typeof moverPaths;
const keyOf = (path: string) => (Object.keys(moverPaths) as MoverKey[]).find((key) => moverPaths[key] === path);

/** Places that are drawn at most. */
const DRAWN = 900;

/** The numbers that were found in a recording, the model on the same hands beside it, and the fit as numbers are dragged. */
export function Found({
  report,
  unit,
  close,
  actions,
}: {
  report: RecordingReport;
  unit: 'px' | 'm';
  close(): void;
  /** Buttons for the numbers as they are shown, beside that which cancels. */
  actions(shown: { set: RecordingReport['set']; tuning: TuningFile }): ReactNode;
}) {
  const [tried, setTried] = useState<Readonly<Record<string, number>>>({});
  const { motion } = report;
  const shown = useMemo(
    () => reproduce(motion, Object.fromEntries(Object.entries(tried).map(([path, value]) => [keyOf(path) as MoverKey, value]))),
    [motion, tried],
  );
  const found = useMemo(() => reproduce(motion), [motion]);
  const places = (x: Float64Array, y: Float64Array) => {
    const stride = Math.ceil(x.length / DRAWN);
    return [...x.keys()].filter((i) => i % stride === 0).map((i): [number, number] => [x[i] as number, y[i] as number]);
  };
  const isTried = Object.keys(tried).length > 0;
  const tuning = Object.entries(tried).reduce((file, [path, value]) => withValue(file, path, value), report.tuning);
  return (
    <>
      <div className="mt-3 grid grid-cols-[340px_minmax(0,1fr)] gap-4">
        <div>
          <RecordedPath places={places(motion.x, motion.y)} model={places(shown.x, shown.y)} />
          <p className="mt-1 text-xs text-ink-soft">
            <span className="mr-1 inline-block h-[3px] w-5 bg-route align-middle" /> recording{' '}
            <span className="mr-1 ml-3 inline-block h-px w-5 bg-ink align-middle" /> model
          </p>
        </div>
        <section aria-label="Numbers" tabIndex={0} className="max-h-[42vh] min-w-0 overflow-y-auto" data-testid="recording-numbers">
          <table className="w-full border-collapse">
            <tbody>
              {Object.entries(report.set).map(([path, value]) => {
                const spec = specOf(path);
                const range = report.held[path];
                const ownUnit = spec.kind === 'number' ? unitOf(spec.quantity, unit) : '';
                return (
                  <tr key={path} className="border-t border-rule/70" data-path={path}>
                    {typeof value === 'number' && keyOf(path) ? (
                      <TriedNumber
                        label={titleOf(path)}
                        title="Drag to see how the fit changes"
                        value={tried[path] ?? value}
                        unit={ownUnit}
                        put={(next) => setTried({ ...tried, [path]: next })}
                      />
                    ) : (
                      <>
                        <td className="py-0.5 align-top" title={path}>
                          {titleOf(path)}
                        </td>
                        <td className="digits pl-3 text-right align-top text-xs whitespace-nowrap">
                          {typeof value === 'number' ? `${significant(value)} ${ownUnit}` : String(value)}
                        </td>
                      </>
                    )}
                    <td className="pl-3 align-top text-xs text-ink-soft">
                      {range && (
                        <>
                          <span className="digits">{significantPair(range.low, range.high).join(' to ')}</span>, {range.evidence}
                        </>
                      )}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
          <p className="mt-2 text-ink-soft">Not shown by the recording: {report.unknown.map(titleOf).join(', ')}.</p>
          {report.notes.map((note) => (
            <p key={note} className="text-stamina-ink">
              ◆ {note}
            </p>
          ))}
        </section>
      </div>
      <h3 className="rubric mt-3 flex items-baseline justify-between">
        <span>Speed, {`${unit}/s`}, and the distance to the model</span>
        <span className="font-normal" data-testid="recording-residual">
          Places deviate by <span className="digits">{`${significant(shown.place, 2)} ${unit}`}</span>
          {isTried && (
            <>
              , as found by <span className="digits">{`${significant(found.place, 2)} ${unit}`}</span>{' '}
              <button type="button" className="action ml-2" onClick={() => setTried({})}>
                Revert to the fit
              </button>
            </>
          )}
        </span>
      </h3>
      <SpeedStrip times={motion.times} shown={shown} unit={unit} />
      <ul className="columns-2 text-xs" aria-label="Stretches that don’t fit">
        {shown.misfits.map(({ from, to, words, apart }) => (
          <li key={from}>
            <span className="mr-1 text-now" aria-hidden="true">
              ▲
            </span>
            <span className="digits">{`${from.toFixed(1)} to ${to.toFixed(1)} s`}</span>: {words}, up to{' '}
            <span className="digits">{`${significant(apart, 2)} ${unit}`}</span> apart
          </li>
        ))}
        {shown.misfits.length === 0 && <li className="text-ink-soft">The model moves as the recording does, throughout.</li>}
      </ul>
      <p className="mt-3 flex items-baseline justify-end gap-4">
        <button type="button" className="action min-h-6" onClick={close}>
          Cancel
        </button>
        {actions({ set: { ...report.set, ...tried }, tuning })}
      </p>
    </>
  );
}
