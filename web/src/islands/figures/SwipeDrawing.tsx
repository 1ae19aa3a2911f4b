import { useStore } from '@nanostores/react';
import { shortNumber } from '@zygopod/core';
import { scaleLinear } from 'd3-scale';
import { useRef, useState } from 'react';
import { usePainter } from '../chart/frames.ts';
import { place, write } from '../controls/inPlace.ts';
import { Handle } from '../fields/Handle.tsx';
import { putNumber } from '../fields/model.ts';
import { useTuning } from '../tuning/context.ts';

const WIDTH = 150;
const HEIGHT = 40;
const BASE = HEIGHT - 3;

/** The strokes that count as swipes (shaded: long enough and soon enough), and the last stroke over the yard among them. */
export function SwipeDrawing() {
  const { editing, hub } = useTuning();
  const { swipeTime, swipeDistance } = useStore(editing.$tuning).parameters.input;
  const [frozen, freeze] = useState<{ seconds: number; length: number } | null>(null);
  const dot = useRef<SVGCircleElement>(null);
  const words = useRef<SVGTextElement>(null);
  const extent = frozen ?? { seconds: Math.max(0.6, swipeTime * 1.6), length: Math.max(90, swipeDistance * 2.2) };
  const x = scaleLinear([0, extent.seconds], [4, WIDTH - 6]).clamp(true);
  const y = scaleLinear([0, extent.length], [BASE, 4]).clamp(true);
  const set = (path: string, value: number, what: string) => void putNumber(editing, path, value, what);

  usePainter(() => {
    const last = hub.lastSwipe;
    const text = last ? (last.direction ?? (last.length < swipeDistance ? 'too short' : 'too slow')) : 'no swipe yet';
    write(words.current, text);
    place(dot.current, { cx: last ? x(last.seconds) : -9, cy: last ? y(last.length) : -9 });
  });

  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-[150px] max-w-full select-none"
      role="group"
      aria-label="Length and time of strokes that count as swipes"
    >
      <rect x={x(0)} y={4} width={x(swipeTime) - x(0)} height={y(swipeDistance) - 4} className="fill-now/15" />
      <path d={`M4,4 V${BASE} H${WIDTH - 4}`} className="fill-none stroke-ink" strokeWidth="1" />
      <path d={`M4,${y(swipeDistance)} H${x(swipeTime)} V4`} className="fill-none stroke-now" strokeDasharray="3 2" />
      <circle ref={dot} r="3" className="fill-ink" />
      <text ref={words} x={WIDTH - 2} y={BASE - 3} textAnchor="end" className="digits fill-ink-soft text-[10px]" data-testid="last-swipe" />
      <Handle
        x={x(swipeTime)}
        y={y(swipeDistance)}
        label="Swipe time and length"
        value={`${shortNumber(swipeTime)} s, ${shortNumber(swipeDistance)} px`}
        number={swipeDistance}
        drag={(px, py) => {
          set('input.swipeTime', Number(x.invert(px).toFixed(2)), 'swipe');
          set('input.swipeDistance', Math.round(y.invert(py)), 'swipe');
        }}
        nudge={(across, along) => {
          if (across) set('input.swipeTime', swipeTime + across * 0.02, 'swipe time');
          if (along) set('input.swipeDistance', swipeDistance + along, 'swipe length');
        }}
        began={() => freeze(extent)}
        ended={() => freeze(null)}
      />
    </svg>
  );
}
