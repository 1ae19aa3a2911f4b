import { useStore } from '@nanostores/react';
import { type Ground, groundWith, type RecordingReport, significant, specOf, titleOf, unitOf } from '@zygopod/core';
import { useEffect, useMemo, useState } from 'react';
import type { RecordingSummary } from '../../workers/recording.ts';
import { Overlay } from '../controls/Overlay.tsx';
import { createDocument } from '../work/documentActions.ts';
import { type RecordingUnit, RecordingWork } from './recordingWork.ts';

/** Finds the numbers of a recorded motion, and creates a tuning of them. */
export function NewFromRecording({ file, unit, close }: { file: File; unit: 'px' | 'm'; close(): void }) {
  const work = useMemo(() => new RecordingWork(file, unit), [file, unit]);
  useEffect(() => {
    void work.read();
    return () => work.stop();
  }, [work]);
  const state = useStore(work.$state);
  const summary = useStore(work.$summary);
  const chosen = useStore(work.$unit);
  const [why, setProblem] = useState<string | null>(null);
  const create = async (report: RecordingReport, drives: boolean) => {
    const created = await createDocument('tunings', report.tuning, `From the recording ${file.name}`);
    if ('why' in created) return setProblem(created.why);
    if (!drives) return window.location.assign(`/bench/${created.id}`);
    const ground = await createDocument('grounds', groundFor(work.name, unit, summary));
    const tape = 'id' in ground ? await createDocument('tapes', report.tape) : ground;
    if ('why' in ground || 'why' in tape) return setProblem('why' in tape ? tape.why : 'The ground could not be created.');
    window.location.assign(`/bench/${created.id}?${new URLSearchParams({ ground: ground.id, tape: tape.id })}`);
  };
  const isBusy = state.is === 'running';
  return (
    <Overlay title={`New from the recording ${file.name}`} close={close} size="w-[760px]">
      <div data-testid="recording" data-state={state.is}>
        <Units unit={unit} chosen={chosen} work={work} isBusy={isBusy} />
        {state.is === 'refused' && (
          <p role="alert" className="mt-3 text-now">
            ▲ It can’t be read: {state.why}.
          </p>
        )}
        {summary && state.is !== 'refused' && (
          <div className="mt-3 grid grid-cols-[300px_minmax(0,1fr)] gap-4">
            <div>
              <Path summary={summary} />
              <p className="mt-1 text-ink-soft">
                <span className="digits">{summary.rows}</span> rows over <span className="digits">{significant(summary.seconds)} s</span>,
                over <span className="digits">{`${significant(summary.span[0])} × ${significant(summary.span[1])} ${unit}`}</span>, up to{' '}
                <span className="digits">{`${significant(summary.topSpeed)} ${unit}/s`}</span>
              </p>
              {summary.notes.map((note) => (
                <p key={note} className="text-ink-soft">
                  ◆ {note}
                </p>
              ))}
            </div>
            <div className="min-w-0">
              {state.is === 'read' && <p>Check the path at the left: its size, and that it isn’t upside down.</p>}
              {state.is === 'running' && (
                <p className="text-ink-soft">
                  Finding speeds, ramps and hands … <span className="digits">{state.attempts}</span> attempts
                </p>
              )}
              {state.is === 'failed' && (
                <p role="alert" className="text-now">
                  ▲ {state.why}.
                </p>
              )}
              {state.is === 'done' && <Numbers report={state.report} unit={unit} />}
            </div>
          </div>
        )}
        {why && (
          <p role="alert" className="mt-2 text-now">
            ▲ {why}
          </p>
        )}
        <p className="mt-4 flex justify-end gap-4">
          {isBusy ? (
            <button type="button" className="action min-h-6" onClick={() => work.stop()}>
              Stop
            </button>
          ) : (
            <button type="button" className="action min-h-6" onClick={close}>
              Cancel
            </button>
          )}
          {state.is === 'done' ? (
            <>
              <button
                type="button"
                className="action min-h-6"
                title="Creates the tuning, an open ground, and a tape of the hands that were found"
                onClick={() => void create(state.report, true)}
              >
                Create and drive it on the same hands
              </button>
              <button type="button" className={main} onClick={() => void create(state.report, false)}>
                Create tuning
              </button>
            </>
          ) : (
            <button type="button" className={main} disabled={state.is !== 'read' && state.is !== 'failed'} onClick={() => void work.run()}>
              Find the numbers
            </button>
          )}
        </p>
      </div>
    </Overlay>
  );
}

/** Room around the recorded path on its ground, in shares of its size. */
const ROOM = 0.2;

/** An open ground on which the recorded path has room, starting where that does. */
function groundFor(name: string, unit: 'px' | 'm', summary: RecordingSummary | null): Ground {
  const places = summary?.places ?? [];
  const [xs, ys] = [places.map(([x]) => x), places.map(([, y]) => y)];
  const [wide, tall] = summary?.span ?? [640, 360];
  const room = ROOM * Math.max(wide, tall);
  return groundWith({
    name: `${name}: open ground`,
    unit,
    size: { width: Math.ceil(wide + 2 * room), height: Math.ceil(tall + 2 * room) },
    start: { x: (xs[0] ?? 0) - Math.min(...xs) + room, y: (ys[0] ?? 0) - Math.min(...ys) + room },
  });
}

const main = 'border border-now px-3 py-1 font-semibold text-now disabled:opacity-50';

/** The unit and the axes of the recording. */
function Units({ unit, chosen, work, isBusy }: { unit: 'px' | 'm'; chosen: RecordingUnit; work: RecordingWork; isBusy: boolean }) {
  return (
    <fieldset className="flex flex-wrap items-center gap-x-4 gap-y-1" disabled={isBusy}>
      <legend className="sr-only">Unit and axes of the recording</legend>
      <label className="flex items-center gap-2">
        Places in
        <select
          className="min-h-6 border-b border-ink"
          value={chosen.is}
          onChange={(event) => work.setUnit({ is: event.target.value as RecordingUnit['is'] })}
        >
          <option value="same">{unit}</option>
          {unit === 'px' && <option value="m">m</option>}
          <option value="tiles">tiles</option>
        </select>
      </label>
      {chosen.is !== 'same' && (
        <label className="flex items-center gap-2">
          of
          <input
            aria-label={`Size of a unit, ${unit}`}
            className="digits min-h-6 w-16 border-b border-ink bg-transparent text-right"
            inputMode="decimal"
            value={chosen.each}
            onChange={(event) => work.setUnit({ each: event.target.value })}
          />
          {unit} each
        </label>
      )}
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={chosen.isYUp} onChange={(event) => work.setUnit({ isYUp: event.target.checked })} />y grows upwards
      </label>
    </fieldset>
  );
}

/** The path of the recording, from a ring to a dot. */
function Path({ summary: { places } }: { summary: RecordingSummary }) {
  const xs = places.map(([x]) => x);
  const ys = places.map(([, y]) => y);
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const size = Math.max(Math.max(...xs) - left, Math.max(...ys) - top, 1e-9);
  const room = size * 0.06;
  const [first, last] = [places[0], places.at(-1)] as [[number, number], [number, number]];
  return (
    <svg
      viewBox={`${left - room} ${top - room} ${size + 2 * room} ${size + 2 * room}`}
      className="aspect-square w-full border border-rule bg-paper"
      role="img"
      aria-label="The path of the recording"
      data-testid="recording-path"
    >
      <polyline points={places.map(([x, y]) => `${x},${y}`).join(' ')} className="fill-none stroke-route" strokeWidth={size / 200} />
      <circle cx={first[0]} cy={first[1]} r={size / 50} className="fill-none stroke-ink" strokeWidth={size / 200} />
      <circle cx={last[0]} cy={last[1]} r={size / 60} className="fill-now" />
    </svg>
  );
}

/** The numbers that were found, with their ranges and evidence, and those that the recording doesn’t tell. */
function Numbers({ report: { set, held, unknown, residual, notes }, unit }: { report: RecordingReport; unit: 'px' | 'm' }) {
  return (
    <section aria-label="Numbers" tabIndex={0} className="max-h-[46vh] overflow-y-auto" data-testid="recording-numbers">
      <table className="w-full border-collapse">
        <tbody>
          {Object.entries(set).map(([path, value]) => {
            const spec = specOf(path);
            const range = held[path];
            return (
              <tr key={path} className="border-t border-rule/70" data-path={path}>
                <td className="py-0.5 align-top" title={path}>
                  {titleOf(path)}
                </td>
                <td className="digits pl-3 text-right align-top text-xs whitespace-nowrap">
                  {typeof value === 'number'
                    ? `${significant(value)} ${spec.kind === 'number' ? unitOf(spec.quantity, unit) : ''}`
                    : String(value)}
                </td>
                <td className="pl-3 align-top text-xs text-ink-soft">
                  {range && (
                    <>
                      <span className="digits">{`${significant(range.low)} to ${significant(range.high)}`}</span>
                      <br />
                      {range.evidence}
                    </>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="mt-2">
        Places deviate by <span className="digits">{`${significant(residual.place, 2)} ${unit}`}</span>, speeds by{' '}
        <span className="digits">{`${significant(residual.speed, 2)} ${unit}/s`}</span>.
      </p>
      <p className="text-ink-soft">Not shown by the recording: {unknown.map(titleOf).join(', ')}.</p>
      {notes.map((note) => (
        <p key={note} className="text-stamina-ink">
          ◆ {note}
        </p>
      ))}
    </section>
  );
}
