import { useStore } from '@nanostores/react';
import { STEPS_SHOWN, shortNumber, stepRun } from '@zygopod/core';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { useState } from 'react';
import { Handle } from '../fields/Handle.tsx';
import { putNumber } from '../fields/model.ts';
import { ParameterField } from '../fields/ParameterField.tsx';
import { useTuning } from '../tuning/context.ts';
import { FigureFrame } from './FigureFrame.tsx';
import { TargetBar, useTarget } from './TargetBar.tsx';
import { runKey, useDrawn } from './useDrawn.ts';

const WIDTH = 268;
const HEIGHT = 112;
const BASE = HEIGHT - 34;

/** Three steps over time, with the window before the end of each in which a press is kept for the next. */
export function StepsFigure({ number }: { number: number }) {
  const { editing } = useTuning();
  const { parameters } = useStore(editing.$tuning);
  const before = useStore(editing.$beforeTuning).parameters;
  const { step } = parameters;
  const target = useTarget('stepTime');
  const [frozen, freeze] = useState<number | null>(null);
  const curve = useDrawn(runKey(parameters), () => stepRun(parameters));
  const ghost = useDrawn(runKey(before), () => stepRun(before));
  const natural = Math.max(0.1, step.turnTime + STEPS_SHOWN * step.time + 0.05) * 1.04;
  const span = frozen ?? natural;
  const x = scaleLinear([0, span], [10, WIDTH - 10]);
  const y = scaleLinear([0, STEPS_SHOWN], [BASE, 10]);
  const draw = line<[number, number]>(
    ([time]) => x(Math.min(time, span)),
    ([, cells]) => y(cells),
  );
  const ends = Array.from({ length: STEPS_SHOWN }, (_, i) => step.turnTime + (i + 1) * step.time);
  const set = (path: string, value: number, what: string) =>
    void putNumber(editing, path, Math.max(0, Math.round(value * 1000) / 1000), what);
  const hold = { began: () => freeze(natural), ended: () => freeze(null) };
  const window = Math.min(step.buffer, step.time);
  return (
    <FigureFrame
      number={number}
      id="steps"
      drawing={
        <svg
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          className={`w-full shrink-0 select-none ${parameters.scheme === 'step' ? '' : 'opacity-60'}`}
          role="group"
          aria-label="Three steps over time, with the window for the next press"
        >
          {ends.slice(0, -1).map((end) => (
            <rect
              key={end}
              x={x(end - window)}
              y="8"
              width={Math.max(0, x(end) - x(end - window))}
              height={BASE - 8}
              className="fill-now/12"
            />
          ))}
          {Array.from({ length: STEPS_SHOWN + 1 }, (_, i) => (
            <line key={i} x1="10" x2={WIDTH - 8} y1={y(i)} y2={y(i)} className="stroke-rule" strokeWidth="0.8" />
          ))}
          <path d={`M10,6 V${BASE} H${WIDTH - 6}`} className="fill-none stroke-ink" strokeWidth="1.2" />
          {runKey(parameters) !== runKey(before) && (
            <path d={draw(ghost) ?? ''} className="fill-none stroke-other" strokeDasharray="4 3" strokeWidth="1.3" />
          )}
          {target && (
            <TargetBar target={target} words="a step takes" level={y(1)} place={(time) => x(step.turnTime + time)} edge={WIDTH - 6} />
          )}
          <path d={draw(curve) ?? ''} className="fill-none stroke-ink" strokeWidth="2" strokeLinejoin="round" />
          <line x1="10" x2={x(step.bumpTime)} y1={HEIGHT - 8} y2={HEIGHT - 8} className="stroke-solid" strokeWidth="4" />
          <text x={WIDTH - 8} y={HEIGHT - 5} textAnchor="end" className="digits fill-ink-soft text-[10px]">
            {step.time === 0 ? 'at once' : `${shortNumber(1 / step.time, 1)} cells/s · bump ${shortNumber(step.bumpTime, 2)} s`}
          </text>
          <Handle
            x={x(ends[0] as number)}
            y={y(1)}
            label="Step time"
            value={`${shortNumber(step.time, 3)} s a cell`}
            number={step.time}
            drag={(px) => set('step.time', x.invert(px) - step.turnTime, 'step time')}
            nudge={(across, along) => set('step.time', step.time + (across + along) * 0.01, 'step time')}
            {...hold}
          />
          <Handle
            x={x((ends[0] as number) - window)}
            y={BASE}
            label="Buffer"
            value={`${shortNumber(step.buffer, 3)} s before the end`}
            number={step.buffer}
            drag={(px) => set('step.buffer', (ends[0] as number) - x.invert(px), 'buffer')}
            nudge={(across, along) => set('step.buffer', step.buffer + (along - across) * 0.01, 'buffer')}
            {...hold}
          />
          <Handle
            x={x(step.turnTime)}
            y={BASE + 14}
            label="Turn first"
            value={`${shortNumber(step.turnTime, 3)} s`}
            number={step.turnTime}
            drag={(px) => set('step.turnTime', x.invert(px), 'turn first')}
            nudge={(across, along) => set('step.turnTime', step.turnTime + (across + along) * 0.01, 'turn first')}
            {...hold}
          />
          <Handle
            x={Math.min(WIDTH - 10, x(step.bumpTime))}
            y={HEIGHT - 8}
            label="Bump"
            value={`${shortNumber(step.bumpTime, 3)} s`}
            number={step.bumpTime}
            drag={(px) => set('step.bumpTime', x.invert(px), 'bump')}
            nudge={(across, along) => set('step.bumpTime', step.bumpTime + (across + along) * 0.01, 'bump')}
            {...hold}
          />
        </svg>
      }
      more={{ 'step.cell': <ParameterField path="scheme" /> }}
    />
  );
}
