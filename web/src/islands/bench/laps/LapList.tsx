import { useStore } from '@nanostores/react';
import type { Ground, Tuning } from '@zygopod/core';
import { useState } from 'react';
import { type HandLap, touchWords } from '../../laps/lapStore.ts';
import { useTuning } from '../../tuning/context.ts';
import { comparisonAddress, MOST_SIDES, usualPilot } from '../../work/comparison.ts';
import type { HandLaps } from './handLaps.ts';
import { askPilot } from './pilotLap.ts';

/** Laps listed until all are requested. */
const SHOWN = 3;

/** Orders of the list. */
const orders = {
  fastest: { label: 'Fastest', compare: (a: HandLap, b: HandLap) => a.lap.time - b.lap.time },
  newest: { label: 'Newest', compare: (a: HandLap, b: HandLap) => b.at - a.at },
  touches: { label: 'Fewest touches', compare: (a: HandLap, b: HandLap) => a.lap.touches - b.lap.touches || a.lap.time - b.lap.time },
};
type Order = keyof typeof orders;

/** The laps driven by hand on this ground: each can be looped as a tape, or deleted; and the pilot’s. */
export function LapList({ laps, loop }: { laps: HandLaps; loop(tape: unknown): void }) {
  const kept = useStore(laps.$laps);
  const [order, sort] = useState<Order>('fastest');
  const [all, showAll] = useState(false);
  const pilot = usePilot(laps.ground, loop);
  const sorted = [...kept].sort(orders[order].compare);
  const best = laps.best?.id;
  return (
    <section aria-label="Laps">
      <h2 className="rubric flex items-baseline justify-between">
        Laps
        <button type="button" className="action text-xs" disabled={pilot.isBusy} onClick={pilot.drive}>
          Let the pilot drive
        </button>
      </h2>
      {pilot.words && (
        <output className="block text-xs text-ink-soft" data-testid="piloted">
          {pilot.words}
        </output>
      )}
      <ol>
        {(all ? sorted : sorted.slice(0, SHOWN)).map((lap) => (
          <LapRow key={lap.id} lap={lap} laps={laps} isBest={lap.id === best} loop={() => loop(lap.tape)} />
        ))}
      </ol>
      {kept.length > 0 && (
        <p className="flex items-baseline justify-between gap-2 text-xs">
          {kept.length > 1 && (
            <select
              aria-label="Order of the laps"
              className="bg-transparent"
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
          <a className="action" href={compareAddress(laps, sorted)} title="Each tuning’s best lap by hand, side by side">
            Compare
          </a>
          {kept.length > SHOWN && (
            <button type="button" className="action" aria-expanded={all} onClick={() => showAll(!all)}>
              {all ? `Show ${SHOWN}` : `Show all ${kept.length}`}
            </button>
          )}
        </p>
      )}
    </section>
  );
}

/** The comparison of the best laps of each tuning in a list, as they are driven on a ground. */
function compareAddress(laps: HandLaps, sorted: readonly HandLap[]): string {
  const here = sorted.filter((lap) => !lap.isChanged && laps.isHere(lap)).sort(orders.fastest.compare);
  const firsts = here.filter((lap, i) => here.findIndex(({ tuning }) => tuning.id === lap.tuning.id) === i).slice(0, MOST_SIDES);
  const sides = (firsts.length > 0 ? firsts : sorted.slice(0, 1)).map(({ tuning: { id, revision, isDraft } }) => ({
    id,
    revision: isDraft ? null : revision,
    rate: null,
  }));
  return comparisonAddress({ sides, ground: { id: laps.id, revision: null }, tape: null, by: 'hand', pilot: usualPilot, at: null });
}

/** Has the pilot drive a lap with the numbers as they are, and loops it. */
function usePilot(ground: Ground, loop: (tape: unknown) => void): { isBusy: boolean; words: string; drive(): void } {
  const { editing } = useTuning();
  const tuning = useStore(editing.$tuning);
  const [isBusy, setBusy] = useState(false);
  const [driven, setDriven] = useState<{ tuning: Tuning; words: string } | null>(null);
  const drive = async () => {
    setBusy(true);
    const lap = await askPilot(tuning.file, ground);
    setBusy(false);
    if (!('tape' in lap)) return setDriven({ tuning, words: `Not driven: ${lap.why}` });
    loop(lap.tape);
    setDriven({
      tuning,
      words: lap.finished ? `Pilot: ${lap.time.toFixed(2)} s, ${touchWords(lap.touches)}` : `Pilot: not finished, ${lap.why}`,
    });
  };
  const words = driven ? `${driven.words}${driven.tuning === tuning ? '' : ', before the last change'}` : '';
  return { isBusy, words, drive: () => void drive() };
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
        <span className="text-ink-soft">{touchWords(touches)}</span>
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
