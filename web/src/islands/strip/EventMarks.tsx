import { type Happening, lastHappenings } from '@zygopod/core';
import { useRef, useState } from 'react';
import { usePainter } from '../chart/frames.ts';
import { useTuning } from '../tuning/context.ts';

/** Interval (ms) of updating the marks, and their maximum number. */
const PAUSE = 100;
const MOST = 60;

/** The visible events as marks on the upper edge of the strip: hover or focus shows time and cause, a click looks back. */
export function EventMarks({ span, left, right }: { span(): [number, number]; left: number; right: number }) {
  const { drive } = useTuning();
  const [found, setFound] = useState<Happening[]>([]);
  const lastSearch = useRef({ at: 0, key: '' });
  const layer = useRef<HTMLDivElement>(null);

  usePainter((now) => {
    const [from, to] = span();
    if (layer.current)
      for (const mark of layer.current.children as HTMLCollectionOf<HTMLElement>) {
        const share = (Number(mark.dataset['time']) - from) / (to - from);
        mark.style.left = `${share * 100}%`;
        mark.hidden = share < 0 || share > 1;
      }
    if (now - lastSearch.current.at < PAUSE) return;
    const { trace, parameters } = drive.world;
    const happenings = lastHappenings(trace, Math.max(trace.first, trace.rowAt(from)), trace.end - 1, parameters, MOST);
    const key = happenings.map(({ row, name }) => `${row}${name}`).join();
    lastSearch.current.at = now;
    if (key !== lastSearch.current.key) setFound(happenings);
    lastSearch.current.key = key;
  });

  return (
    <div ref={layer} className="pointer-events-none absolute top-0 h-0" style={{ left, right }} data-testid="events">
      {moments(found).map((all) => {
        const { row, time } = all[0] as Happening;
        const grave = all.some(({ name }) => /Refused|emptied|Cancelled|startMoved/.test(name));
        const sentences = all.map(({ words, cause }) => (cause ? `${words}, ${cause}` : words));
        return (
          <button
            key={row}
            type="button"
            data-time={time}
            data-event={all.map(({ name }) => name).join(' ')}
            aria-label={`${time.toFixed(2)} s: ${sentences.join('; ')}`}
            className="group pointer-events-auto absolute top-0 -ml-1.5 size-3 hover:z-10 focus-visible:z-10"
            onClick={() => {
              if (!drive.$running.get()) drive.$lookBack.set(row);
            }}
          >
            <span aria-hidden="true" className={`block text-[9px] leading-3 ${grave ? 'text-now' : 'text-ink-soft'}`}>
              {grave ? '◆' : '▼'}
            </span>
            <span className="digits absolute top-3 left-1/2 z-20 hidden -translate-x-1/2 border border-ink bg-sheet px-2 py-1 text-left text-[11px] whitespace-nowrap text-ink group-hover:block group-focus-visible:block">
              {time.toFixed(2)} s
              {sentences.map((line) => (
                <b key={line} className="block font-medium">
                  {line}
                </b>
              ))}
            </span>
          </button>
        );
      })}
    </div>
  );
}

/** Happenings closer together than this (s) share a mark. */
const CLOSE = 0.1;

/** The happenings, oldest first, those that are close together as one. */
function moments(found: Happening[]): Happening[][] {
  const groups: Happening[][] = [];
  for (const happening of found.toReversed()) {
    const last = groups.at(-1);
    if (last?.[0] && happening.time - last[0].time < CLOSE) last.push(happening);
    else groups.push([happening]);
  }
  return groups;
}
