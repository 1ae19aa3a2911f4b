import { useStore } from '@nanostores/react';
import { type FramePattern, framePatterns, type Parameters, runUp, shortNumber } from '@zygopod/core';
import { useId, useState } from 'react';
import { Handle } from '../fields/Handle.tsx';
import { putNumber } from '../fields/model.ts';
import { useTuning } from '../tuning/context.ts';
import { FigureFrame } from './FigureFrame.tsx';
import { runKey, useDrawn } from './useDrawn.ts';

const WIDTH = 268;
const LEFT = 46;
const RULER = 20;
const rates = [30, 60, 144];

/** Part of a second that the ruler shows. */
const SHOWN = 0.1;

/** Ticks on a ruler, and the effect of the tick rate on a run-up: the distance lost at 30, 60 and 144 Hz against the exact one. */
export function ClockFigure({ number }: { number: number }) {
  const { editing, drive } = useTuning();
  const { parameters } = useStore(editing.$tuning);
  const { hz } = parameters.clock;
  const { unit } = drive.world.ground;
  const lengths = useLengths(parameters);
  const longest = Math.max(...lengths.map((l) => l.distance), 1e-9);
  const [grabbed, grab] = useState<number | null>(null);
  // The handle sits on the first tick that is far enough from the start to be dragged.
  const held = grabbed ?? Math.max(1, Math.ceil(hz / 45));
  const x = (seconds: number) => LEFT + (seconds / SHOWN) * (WIDTH - LEFT - 10);
  const marks = Math.min(200, Math.floor(SHOWN * hz + 1e-9));
  const put = (value: number) => void putNumber(editing, 'clock.hz', value, 'tick rate');

  return (
    <FigureFrame
      number={number}
      id="clock"
      drawing={
        <svg
          viewBox={`0 0 ${WIDTH} 106`}
          className="w-full shrink-0 select-none"
          role="group"
          aria-label="Ticks in a tenth of a second, and the run-up at three tick rates"
        >
          <line x1={LEFT} x2={WIDTH - 6} y1={RULER} y2={RULER} className="stroke-ink" strokeWidth="1.2" />
          {Array.from({ length: marks + 1 }, (_, i) => (
            <line
              key={i}
              x1={x(i / hz)}
              x2={x(i / hz)}
              y1={RULER - 6}
              y2={RULER}
              className="stroke-ink"
              strokeWidth={marks > 60 ? 0.5 : 1.2}
            />
          ))}
          <text x="0" y={RULER + 1} className="digits fill-ink-soft text-[10px]">
            {`${shortNumber(1000 / hz, 1)} ms`}
          </text>
          {lengths.map(({ name, distance }, i) => (
            <g key={name}>
              <text x="0" y={51 + i * 16} className={`digits text-[10px] ${name === 'exact' ? 'fill-other' : 'fill-ink-soft'}`}>
                {name}
              </text>
              <rect
                x={LEFT}
                y={44 + i * 16}
                width={(distance / longest) * (WIDTH - LEFT - 62)}
                height="7"
                className={name === 'exact' ? 'fill-none stroke-other' : name === `${hz} Hz` ? 'fill-now' : 'fill-ink-soft'}
                strokeDasharray={name === 'exact' ? '3 2' : undefined}
              />
              <text x={LEFT + (distance / longest) * (WIDTH - LEFT - 62) + 5} y={51 + i * 16} className="digits fill-ink text-[10px]">
                {`${shortNumber(distance, 2)} ${unit}`}
              </text>
            </g>
          ))}
          <Handle
            x={x(Math.min(SHOWN, held / hz))}
            y={RULER}
            label="Tick rate"
            value={`${shortNumber(hz)} Hz`}
            number={hz}
            drag={(px) => put(Math.round(held / Math.max(0.001, ((px - LEFT) / (WIDTH - LEFT - 10)) * SHOWN)))}
            nudge={(across, along) => put(hz + along - across)}
            began={() => grab(held)}
            ended={() => grab(null)}
          />
        </svg>
      }
      more={{
        'clock.stepping': <Frames />,
        'clock.snapToPixel': <p className="mt-1 text-xs text-ink-soft">Bars: distance lost while accelerating to walk.</p>,
      }}
    />
  );
}

/** Which frames the bench runs in: those of the display, or a pattern. A setting of the bench, not of the tuning. */
function Frames() {
  const { drive } = useTuning();
  const frames = useStore(drive.$frames);
  const id = useId();
  return (
    <div className="flex items-baseline gap-1.5 border-t border-rule/60 py-[3px]">
      <label htmlFor={id} className="flex-1" title="Frame rate of the bench; with per-frame stepping a tick is as long as its frame.">
        Frames (bench)
      </label>
      <select
        id={id}
        value={frames}
        className="digits border-b border-ink bg-transparent font-medium"
        onChange={(event) => {
          drive.setFrames(event.target.value as FramePattern | 'display');
          event.target.blur();
        }}
      >
        <option value="display">display</option>
        {Object.keys(framePatterns).map((name) => (
          <option key={name} value={name}>
            {name === 'uneven' ? name : `${name} Hz`}
          </option>
        ))}
      </select>
    </div>
  );
}

/** The run-up's length at the compared rates, and with exact integration. */
function useLengths(parameters: Parameters): { name: string; distance: number }[] {
  return useDrawn(runKey(parameters), () => [
    ...rates.map((hz) => ({ name: `${hz} Hz`, distance: runUp(parameters, hz) })),
    { name: 'exact', distance: runUp(parameters, 144, 'exact') },
  ]);
}
