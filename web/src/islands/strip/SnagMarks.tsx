import { useStore } from '@nanostores/react';
import { type Snag, snagWords } from '@zygopod/core';
import { useRef } from 'react';
import { usePainter } from '../chart/frames.ts';
import { severityMarks } from '../judging/severityMarks.ts';
import { useTuning } from '../tuning/context.ts';

/** The moments of the looped tape's snags, as marks at the foot of the lanes: a click goes there. */
export function SnagMarks({ span, left, right, bottom }: { span(): [number, number]; left: number; right: number; bottom: number }) {
  const { drive, $snags } = useTuning();
  const snags = useStore($snags);
  const loop = useStore(drive.$loop);
  const layer = useRef<HTMLDivElement>(null);
  const found = loop ? snags.filter((snag): snag is Snag & { time: number } => snag.time !== undefined) : [];

  usePainter(() => {
    if (!layer.current) return;
    const [from, to] = span();
    for (const mark of layer.current.children as HTMLCollectionOf<HTMLElement>) {
      const share = (Number(mark.dataset['time']) - from) / (to - from);
      mark.style.left = `${share * 100}%`;
      mark.hidden = share < 0 || share > 1;
    }
  });

  return (
    <div ref={layer} className="pointer-events-none absolute h-0" style={{ left, right, bottom }} data-testid="snag-moments">
      {found.map(({ id, severity, time, evidence }) => {
        const { mark, text, words } = severityMarks[severity];
        return (
          <button
            key={`${id} ${time}`}
            type="button"
            data-time={time}
            data-snag-at={id}
            aria-label={`${words} at ${time.toFixed(2)} s: ${snagWords[id][0]}`}
            title={`${time.toFixed(2)} s: ${snagWords[id][0]}. ${evidence}`}
            className="pointer-events-auto absolute bottom-0 -ml-3 size-6 hover:z-10 focus-visible:z-10"
            onClick={() => loop?.goTo(loop.world.trace.rowAt(time))}
          >
            <span aria-hidden="true" className={`block text-[13px] leading-6 ${text}`}>
              {mark}
            </span>
          </button>
        );
      })}
    </div>
  );
}
