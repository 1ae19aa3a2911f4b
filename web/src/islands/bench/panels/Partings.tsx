import { useStore } from '@nanostores/react';
import { apartAt, type Parting, partings } from '@zygopod/core';
import { useMemo, useRef } from 'react';
import { usePainter } from '../../chart/frames.ts';
import { shownTime } from '../../chart/pose.ts';
import { write } from '../../controls/inPlace.ts';
import type { Loop } from '../../drive/loop.ts';
import { useTuning } from '../../tuning/context.ts';

/** Moments at most. */
const MOST = 12;

/** When what the looped hands do with the tuning parts from what they do with the other one; each moment can be gone to. */
export function Partings() {
  const { drive } = useTuning();
  const loop = useStore(drive.$loop);
  return loop && <PartingsOf loop={loop} />;
}

function PartingsOf({ loop }: { loop: Loop }) {
  const { drive, editing } = useTuning();
  const cost = useStore(loop.$cost);
  const flipped = useStore(editing.$flipped);
  const apart = useRef<HTMLSpanElement>(null);
  const { unit } = drive.world.ground;
  const [shown, other] = flipped ? ['before', 'now'] : ['now', 'before'];
  const found = useMemo<Parting[]>(() => {
    void cost;
    const { world, ghost } = loop;
    if (!ghost || !loop.isWhole) return [];
    const side = (name: string, { trace, parameters }: typeof world) => ({ name, trace, parameters });
    return partings(side(shown, world), side(other, ghost), unit);
  }, [loop, cost, shown, other, unit]);
  usePainter(() => {
    const { ghost } = loop;
    if (!ghost || !apart.current) return;
    const text = `${apartAt(loop.world.trace, ghost.trace, shownTime(drive)).toFixed(1)} ${unit}`;
    write(apart.current, text);
  });
  if (!loop.ghost) return null;
  return (
    <section aria-label="Now and before">
      <h2 className="rubric flex justify-between">
        Now and before{' '}
        <span ref={apart} className="digits font-normal" title="How far apart the two are at this moment" data-testid="apart" />
      </h2>
      {found.length === 0 && <p className="mt-1.5 text-ink-soft">{loop.isWhole ? 'The same from beginning to end.' : 'Simulating …'}</p>}
      <ul className="mt-1">
        {found.slice(0, MOST).map(({ time, words }) => (
          <li key={`${time} ${words}`}>
            <button
              type="button"
              className="flex min-h-6 w-full gap-2 py-0.5 text-left hover:text-now"
              title="Hold the tape at this moment"
              onClick={() => loop.goTo(loop.world.trace.rowAt(time))}
            >
              <span className="digits w-[7ch] shrink-0 text-now">{time.toFixed(2)} s</span>
              {words}
            </button>
          </li>
        ))}
      </ul>
      {found.length > MOST && <p className="text-ink-soft">and {found.length - MOST} more</p>}
    </section>
  );
}
