import { useStore } from '@nanostores/react';
import { useState } from 'react';
import { useTuning } from '../../tuning/context.ts';
import type { HandLaps } from './handLaps.ts';
import type { HandLap } from './lapStore.ts';

/** Laps listed until all are requested. */
const SHOWN = 3;

/** Orders of the list. */
const orders = {
  fastest: { label: 'Fastest', compare: (a: HandLap, b: HandLap) => a.lap.time - b.lap.time },
  newest: { label: 'Newest', compare: (a: HandLap, b: HandLap) => b.at - a.at },
  touches: { label: 'Fewest touches', compare: (a: HandLap, b: HandLap) => a.lap.touches - b.lap.touches || a.lap.time - b.lap.time },
};
type Order = keyof typeof orders;

/** The laps driven by hand on this ground: each can be looped as a tape, or deleted. */
export function LapList({ laps, loop }: { laps: HandLaps; loop(lap: HandLap): void }) {
  const kept = useStore(laps.$laps);
  const [order, sort] = useState<Order>('fastest');
  const [all, showAll] = useState(false);
  const sorted = [...kept].sort(orders[order].compare);
  const best = laps.best?.id;
  return (
    <section aria-label="Laps">
      <h2 className="rubric flex items-baseline justify-between">
        Laps
        {kept.length > 1 && (
          <select
            aria-label="Order of the laps"
            className="bg-transparent text-xs font-normal"
            value={order}
            onChange={(event) => sort(event.target.value as Order)}
          >
            {Object.entries(orders).map(([name, { label }]) => (
              <option key={name} value={name}>
                {label}
              </option>
            ))}
          </select>
        )}
      </h2>
      {kept.length === 0 && <p className="mt-1 text-ink-soft">None yet: drive through the gates in order.</p>}
      <ol>
        {(all ? sorted : sorted.slice(0, SHOWN)).map((lap) => (
          <LapRow key={lap.id} lap={lap} laps={laps} isBest={lap.id === best} loop={() => loop(lap)} />
        ))}
      </ol>
      {kept.length > SHOWN && (
        <button type="button" className="action text-xs" aria-expanded={all} onClick={() => showAll(!all)}>
          {all ? `Show ${SHOWN}` : `Show all ${kept.length}`}
        </button>
      )}
    </section>
  );
}

function LapRow({ lap, laps, isBest, loop }: { lap: HandLap; laps: HandLaps; isBest: boolean; loop(): void }) {
  const { saving } = useTuning();
  const { time, touches } = lap.lap;
  const { tuning } = lap;
  const name = tuning.id === saving.id ? '' : `${tuning.file.name}, `;
  const revision = tuning.revision === 0 ? 'draft' : `revision ${tuning.revision}${tuning.isDraft ? ' + draft' : ''}`;
  const marks = [
    isBest && 'best',
    lap.isChanged && 'tuning changed during the lap',
    !laps.isHere(lap) && 'on an earlier form of the ground',
  ].filter((mark) => mark !== false);
  const label = `lap of ${time.toFixed(2)} s`;
  return (
    <li className="border-b border-rule py-1" data-lap={time.toFixed(2)}>
      <p className="flex items-baseline justify-between gap-2">
        <span className={`digits ${isBest ? 'font-semibold' : ''}`}>{time.toFixed(2)} s</span>
        <span className="text-ink-soft">{touches === 1 ? '1 touch' : `${touches} touches`}</span>
      </p>
      <p className="text-xs text-ink-soft">
        {name}
        {revision}
        {marks.length > 0 && <span className="text-ink">{`: ${marks.join(', ')}`}</span>}
      </p>
      <p className="flex gap-3 text-xs">
        <button type="button" className="action" aria-label={`Loop the ${label}`} onClick={loop}>
          Loop
        </button>
        <button type="button" className="action" aria-label={`Delete the ${label}`} onClick={() => laps.remove(lap.id)}>
          Delete
        </button>
      </p>
    </li>
  );
}
