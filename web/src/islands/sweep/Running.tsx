import { useStore } from '@nanostores/react';
import { isStale } from './choice.ts';
import { useKept, useSweep } from './context.ts';
import { MOST_HERE } from './sweepWork.ts';

const grouped = (count: number) => count.toLocaleString('en');

/** How long something takes or took, in words. */
const secondsWords = (seconds: number) =>
  seconds < 9.95
    ? `${Math.max(0.1, seconds).toFixed(1)} s`
    : seconds < 99.5
      ? `${Math.round(seconds)} s`
      : `${Math.round(seconds / 60)} min`;

const workersWords = (count: number) => `${count} ${count === 1 ? 'worker' : 'workers'}`;

/** How far the sweep is, and the buttons to run and stop it. */
export function Running() {
  const sweep = useSweep();
  const { state, done, cells, left, took, on } = useStore(sweep.$progress);
  const swept = useStore(sweep.$swept);
  const choice = useStore(sweep.$choice);
  const faults = useStore(sweep.$faults);
  const isQueued = useStore(sweep.$isQueued);
  const file = useStore(sweep.work.editing.$now);
  const targets = useStore(sweep.$targets);
  const isOther =
    swept !== null && faults.length === 0 && (sweep.isOther(swept, choice) || swept.sweep.definition.targets !== targets?.set.targets);
  const hasChanged = swept !== null && isStale(swept.sweep, file);
  const chosen = sweep.cells();
  const isRunning = state === 'running';
  const isKept = useStore(sweep.$kept) !== null;
  const changes = useKept().changedWords();
  return (
    <div className="border-t border-rule pt-2" data-testid="progress" data-state={state}>
      {state !== 'waiting' && (
        <>
          <p className="digits font-semibold">
            {isRunning || done < cells ? `${grouped(done)} of ${grouped(cells)}` : `${grouped(cells)} tunings`}
          </p>
          <div
            role="progressbar"
            aria-label="Measured tunings"
            aria-valuemin={0}
            aria-valuemax={cells}
            aria-valuenow={done}
            className="my-1 h-2 border border-ink"
          >
            <div className="h-full bg-now" style={{ width: `${cells === 0 ? 0 : (100 * done) / cells}%` }} />
          </div>
          <p className="text-ink-soft">
            {isRunning
              ? `${left === null ? '' : `${secondsWords(left)} left, `}${workersWords(on ? on.workers : sweep.workers)} ${on ? 'on the queue' : 'in this page'}`
              : state === 'stopped'
                ? `Stopped after ${secondsWords(took)}`
                : state === 'done' && isKept
                  ? 'Kept results'
                  : state === 'done'
                    ? `Measured in ${secondsWords(took)}`
                    : ''}
          </p>
        </>
      )}
      {on && on.refusing.length > 0 && (
        <p className="text-stamina-ink">
          ◆ Workers with core {on.refusing.join(', ')} refuse it: this server’s is {on.core}.
        </p>
      )}
      {changes.map((words) => (
        <p key={words} className="text-stamina-ink">
          ◆ {words}
        </p>
      ))}
      {hasChanged && !isRunning && <p className="text-stamina-ink">◆ The tuning has changed since.</p>}
      <label
        className="flex min-h-6 items-center gap-2"
        title="By the worker processes of the server, and of other machines on its database"
      >
        <input
          type="checkbox"
          checked={isQueued || chosen > MOST_HERE}
          disabled={chosen > MOST_HERE}
          onChange={(event) => sweep.$isQueued.set(event.target.checked)}
        />
        On the queue
      </label>
      <p className="mt-1 flex gap-3">
        {isRunning ? (
          <button type="button" className="action min-h-6" onClick={() => sweep.stop()}>
            Stop, keep what is there
          </button>
        ) : (
          <button
            type="button"
            className={
              isOther || hasChanged || changes.length > 0 || state === 'stopped' || state === 'waiting'
                ? 'min-h-6 border border-now px-2 font-semibold text-now'
                : 'action min-h-6'
            }
            disabled={faults.length > 0}
            onClick={() => sweep.run()}
          >
            {isOther ? `Run ${grouped(chosen)} tunings` : state === 'waiting' ? 'Run' : 'Run again'}
          </button>
        )}
      </p>
    </div>
  );
}
