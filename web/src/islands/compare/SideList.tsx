import { useStore } from '@nanostores/react';
import { shortNumber, traceAt } from '@zygopod/core';
import { useRef, useState } from 'react';
import { usePainter } from '../chart/frames.ts';
import { write } from '../controls/inPlace.ts';
import { type DrivenBy, MOST_SIDES, rates } from '../work/comparison.ts';
import { DocumentFinder } from '../work/DocumentFinder.tsx';
import { BlindEntry } from './blind/Blind.tsx';
import type { Comparing } from './comparing.ts';
import { useComparing } from './context.ts';
import { PilotPanel } from './laps/PilotPanel.tsx';
import { MarkGlyph } from './MarkGlyph.tsx';
import { markOfSide } from './marks.ts';
import { RevisionFinder } from './RevisionFinder.tsx';
import type { ComparedSide } from './sides.ts';

const headings: Readonly<Record<DrivenBy, string>> = { tape: 'On the same hands', pilot: 'Sides', hand: 'Best laps by hand' };

/** The sides, each with its mark, its revision and its speed at the moment; and what can be put beside them. */
export function SideList() {
  const comparing = useComparing();
  const by = useStore(comparing.laps.$by);
  const sides = useStore(comparing.$sides);
  const [finding, find] = useState(false);
  const isRates = sides.some(({ ref }) => ref.rate !== null);
  return (
    <aside aria-label="Sides" className="flex min-h-0 flex-col overflow-y-auto border-r border-rule bg-paper px-3.5 py-2.5">
      {by === 'pilot' && <PilotPanel />}
      <div className="flex items-baseline gap-2">
        <h2 className="rubric flex-1 whitespace-nowrap">{headings[by]}</h2>
        {!isRates && sides.length < MOST_SIDES && (
          <button type="button" className="action text-xs" aria-label="Add a side" onClick={() => find(true)}>
            Add
          </button>
        )}
        {sides.length > 1 && (
          <button type="button" className="action text-xs" title="Swaps the first two sides" onClick={() => comparing.swap()}>
            Swap
          </button>
        )}
      </div>
      <ul className="mt-1">
        {sides.map((side, index) => (
          <SideRow key={`${side.ref.id} ${side.ref.revision} ${side.ref.rate} ${index}`} side={side} index={index} />
        ))}
      </ul>
      {by !== 'hand' && (
        <>
          <h2 className="rubric mt-4">Same tuning, other rates</h2>
          <button
            type="button"
            aria-pressed={isRates}
            title={isRates ? 'Back to the tunings' : 'The first side at all of these rates, to see what depends on the rate'}
            className="digits mt-1 min-h-6 text-left text-[11px] whitespace-nowrap text-route hover:underline aria-pressed:font-semibold"
            onClick={() => comparing.toggleRates()}
          >
            {rates.filter((rate) => rate !== 'uneven').join(' · ')} Hz{by === 'tape' ? ' · uneven' : ''}
          </button>
        </>
      )}
      {by === 'tape' && <BlindEntry />}
      {finding && (
        <DocumentFinder
          title="Tuning"
          collection="tunings"
          actions={[]}
          close={() => find(false)}
          go={(id) => {
            find(false);
            void comparing.add({ id, revision: null, rate: null });
          }}
        />
      )}
    </aside>
  );
}

/** The time of a side's lap; a dash without a finished one. */
function lapWords(comparing: Comparing, side: ComparedSide): string {
  const lap = comparing.laps.lapOf(side)?.lap;
  return lap?.finished ? `${lap.time.toFixed(2)} s` : '–';
}

function SideRow({ side, index }: { side: ComparedSide; index: number }) {
  const comparing = useComparing();
  const muted = useStore(comparing.$muted);
  const count = useStore(comparing.$sides).length;
  const [finding, find] = useState(false);
  const speed = useRef<HTMLSpanElement>(null);
  usePainter(() => {
    const { trace } = side.again.world;
    const text = shortNumber(traceAt(trace, 'speed', comparing.begins(side) + comparing.now), 1);
    write(speed.current, side.hands ? lapWords(comparing, side) : text);
  });
  const isMuted = muted.has(index);
  const { text } = markOfSide(index);
  const small = 'min-h-6 text-xs text-ink-soft hover:text-ink hover:underline aria-pressed:font-semibold aria-pressed:text-now';
  const rate = side.ref.rate === null ? '' : side.ref.rate === 'uneven' ? 'uneven' : `${side.ref.rate} Hz`;
  return (
    <li className="border-t border-rule py-1" data-testid="side">
      <p className={`flex items-center gap-1.5 ${isMuted ? 'text-ink-soft' : `font-semibold ${text}`}`}>
        <span className={isMuted ? 'opacity-50' : ''}>
          <MarkGlyph index={index} size={5} />
        </span>
        <span className="min-w-0 flex-1 truncate" title={side.name}>
          {side.name}
        </span>
        <span ref={speed} className="digits text-xs font-normal" title={side.hands ? 'The time of its lap' : 'Its speed at this moment'} />
      </p>
      <p className="flex flex-wrap items-baseline gap-x-2 pl-5.5">
        {rate ? (
          <span className="digits text-xs">{rate}</span>
        ) : (
          <button type="button" className={`${small} digits`} title="Choose another revision" onClick={() => find(true)}>
            {side.revision} ▾
          </button>
        )}
        {count > 1 && (
          <>
            <button type="button" className={small} aria-pressed={isMuted} onClick={() => comparing.mute(index)}>
              mute
            </button>
            <button type="button" className={small} title="Show only this side" onClick={() => comparing.alone(index)}>
              alone
            </button>
            {!rate && (
              <button
                type="button"
                className={`${small} min-w-6`}
                aria-label={`Remove ${side.name}`}
                onClick={() => comparing.remove(index)}
              >
                ×
              </button>
            )}
          </>
        )}
      </p>
      {finding && (
        <RevisionFinder
          name={side.name}
          id={side.ref.id}
          close={() => find(false)}
          go={(revision) => {
            find(false);
            void comparing.change(side, { ...side.ref, revision });
          }}
        />
      )}
    </li>
  );
}
