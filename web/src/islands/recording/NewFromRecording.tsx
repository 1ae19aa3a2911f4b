import { useStore } from '@nanostores/react';
import { type Ground, groundWith, type RecordingReport, significant, type TuningFile } from '@zygopod/core';
import { useEffect, useMemo, useState } from 'react';
import type { RecordingSummary } from '../../workers/recording.ts';
import { Overlay } from '../controls/Overlay.tsx';
import { createDocument } from '../work/documentActions.ts';
import { Found, mainButton } from './Found.tsx';
import { RecordedPath } from './RecordedPath.tsx';
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
  const create = async (report: RecordingReport, tuning: TuningFile, drives: boolean) => {
    const created = await createDocument('tunings', tuning, `From the recording ${file.name}`);
    if ('why' in created) return setProblem(created.why);
    if (!drives) return window.location.assign(`/bench/${created.id}`);
    const ground = await createDocument('grounds', groundFor(work.name, unit, summary));
    const tape = 'id' in ground ? await createDocument('tapes', report.tape) : ground;
    if ('why' in ground || 'why' in tape) return setProblem('why' in tape ? tape.why : 'The ground could not be created.');
    window.location.assign(`/bench/${created.id}?${new URLSearchParams({ ground: ground.id, tape: tape.id })}`);
  };
  const isBusy = state.is === 'running';
  return (
    <Overlay
      title={`New from the recording ${file.name}`}
      close={close}
      size={state.is === 'done' ? 'w-[min(1080px,calc(100vw-32px))]' : 'w-[760px]'}
    >
      <div data-testid="recording" data-state={state.is}>
        <Units unit={unit} chosen={chosen} work={work} isBusy={isBusy} />
        {state.is === 'refused' && (
          <p role="alert" className="mt-3 text-now">
            ▲ It can’t be read: {state.why}.
          </p>
        )}
        {summary && state.is !== 'refused' && state.is !== 'done' && (
          <div className="mt-3 grid grid-cols-[300px_minmax(0,1fr)] gap-4">
            <div>
              <RecordedPath places={summary.places} />
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
            </div>
          </div>
        )}
        {state.is === 'done' && (
          <Found
            report={state.report}
            unit={unit}
            close={close}
            actions={({ tuning }) => (
              <>
                <button
                  type="button"
                  className="action min-h-6"
                  title="Creates the tuning, an open ground, and a tape of the hands that were found"
                  onClick={() => void create(state.report, tuning, true)}
                >
                  Create and drive it on the same hands
                </button>
                <button type="button" className={mainButton} onClick={() => void create(state.report, tuning, false)}>
                  Create tuning
                </button>
              </>
            )}
          />
        )}
        {why && (
          <p role="alert" className="mt-2 text-now">
            ▲ {why}
          </p>
        )}
        {state.is !== 'done' && (
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
            <button
              type="button"
              className={mainButton}
              disabled={state.is !== 'read' && state.is !== 'failed'}
              onClick={() => void work.run()}
            >
              Find the numbers
            </button>
          </p>
        )}
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
