import { useStore } from '@nanostores/react';
import { type Difference, differences, isLink, linkWords, significantPair, specOf, unitOf } from '@zygopod/core';
import { useState } from 'react';
import { useTuning } from '../../tuning/context.ts';

/** Number of changes listed until all are requested. */
const SHOWN = 4;

/** A parameter's two values, in the fewest digits that distinguish them. */
const valuesOf = ({ a, b }: Difference): [string, string] =>
  typeof a === 'number' && typeof b === 'number' ? significantPair(a, b) : [String(a), String(b)];

/** The same as they are written in the file: links as links. */
function writtenOf(change: Difference): [string, string] {
  const [from, to] = valuesOf(change);
  const { writtenA, writtenB } = change;
  return [isLink(writtenA) ? linkWords(writtenA) : from, isLink(writtenB) ? linkWords(writtenB) : to];
}

/** The parameters that were changed by hand since the last revision, each to be reverted, and what follows them by a link. */
export function Changes() {
  const { editing, saving, drive } = useTuning();
  // A mend that is only tried moves nothing here: what is pointed at stays under the pointer.
  const tuning = useStore(editing.$plainTuning);
  const before = useStore(editing.$beforeTuning);
  const head = useStore(saving.$head);
  const flipped = useStore(editing.$flipped);
  const [all, showAll] = useState(false);
  const found = differences(before, tuning);
  const byHand = found.filter(({ isWritten }) => isWritten);
  const following = found.filter(({ isWritten }) => !isWritten);
  const unit = (path: string) => {
    const spec = specOf(path);
    return spec.kind === 'number' ? unitOf(spec.quantity, drive.world.ground.unit) : '';
  };
  const revertAll = () =>
    editing.setAll(Object.fromEntries(byHand.map(({ path, writtenA }) => [path, writtenA])), `revert to revision ${head}`);
  return (
    <section aria-label="Changes">
      <h2 className="rubric flex justify-between">
        Changed since rev {head}
        {!flipped && byHand.length > 1 && (
          <button type="button" className="action text-xs" onClick={revertAll}>
            Revert all
          </button>
        )}
      </h2>
      {flipped ? (
        <p className="mt-1 text-other">Driving revision {head}. Press B to come back.</p>
      ) : byHand.length === 0 ? (
        <p className="mt-1 text-ink-soft">Nothing yet. Drag a circle in a figure below, or a number’s name.</p>
      ) : (
        <ul className="mt-0.5">
          {(all ? byHand : byHand.slice(0, SHOWN)).map((change) => {
            const { path, writtenA } = change;
            const { label } = specOf(path);
            const [from, to] = writtenOf(change);
            return (
              <li key={path} className="flex items-center gap-1 border-b border-rule/60">
                <p className="flex min-w-0 flex-1 flex-wrap items-baseline justify-between gap-x-2 py-0.5">
                  <span>{label}</span>
                  <span className="digits ml-auto text-xs text-ink-soft">
                    {from} → <b className="font-medium text-ink">{to}</b> {unit(path)}
                  </span>
                </p>
                <button
                  type="button"
                  aria-label={`Revert ${label}`}
                  title={`Revert ${label.toLowerCase()} to ${from}`}
                  className="grid size-6 shrink-0 place-items-center text-route hover:bg-sheet"
                  onClick={() => editing.set(path, writtenA, `revert ${label.toLowerCase()}`)}
                >
                  <svg width="14" height="14" viewBox="0 0 16 16" aria-hidden="true" className="fill-none stroke-current" strokeWidth="1.6">
                    <path d="M3.5 5.5h7a3.5 3.5 0 0 1 0 7H7M6.5 2.5l-3 3 3 3" />
                  </svg>
                </button>
              </li>
            );
          })}
        </ul>
      )}
      {!flipped && following.length > 0 && (
        <p className="mt-1 text-xs text-ink-soft">
          {following.map((one, i) => (
            <span key={one.path}>
              {i > 0 && ', '}
              {specOf(one.path).label} follows: <span className="digits whitespace-nowrap">{valuesOf(one).join(' → ')}</span>
            </span>
          ))}
        </p>
      )}
      {!flipped && byHand.length > SHOWN && (
        <button type="button" className="action min-h-6 text-xs" aria-expanded={all} onClick={() => showAll(!all)}>
          {all ? 'Show fewer' : `Show all ${byHand.length}`}
        </button>
      )}
    </section>
  );
}
