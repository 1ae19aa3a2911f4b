import { useStore } from '@nanostores/react';
import { shortNumber } from '@zygopod/core';
import { Handle } from '../fields/Handle.tsx';
import { putNumber } from '../fields/model.ts';
import { useTuning } from '../tuning/context.ts';

const SIZE = 84;
const WIDTH = 268;
const CX = 70;
const CY = SIZE / 2;
const UNIT = 32;

/** Speed of the body in each direction around its facing: an ellipse with the backward and the sideways factor as half-axes. */
export function FactorRose() {
  const { editing } = useTuning();
  const { backwardFactor, sidewaysFactor } = useStore(editing.$tuning).parameters.pace;
  const scale = UNIT / Math.max(1, backwardFactor, sidewaysFactor);
  const set = (path: string, value: number) =>
    void putNumber(editing, path, Math.max(0, Math.round(value * 20) / 20), path.split('.')[1] ?? path);
  const half = (end: number) => `M${CX},${CY - sidewaysFactor * scale} A${end * scale},${sidewaysFactor * scale} 0 0`;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${SIZE}`}
      className="w-full border-t border-rule/60 select-none"
      role="group"
      aria-label="Speed factor around the facing"
    >
      <circle cx={CX} cy={CY} r={scale} className="fill-none stroke-rule" strokeDasharray="2 3" />
      <path d={`${half(1)} 1 ${CX},${CY + sidewaysFactor * scale}`} className="fill-none stroke-ink" strokeWidth="2" />
      <path d={`${half(backwardFactor)} 0 ${CX},${CY + sidewaysFactor * scale}`} className="fill-none stroke-ink" strokeWidth="2" />
      <path d={`M${CX + scale + 4},${CY} l10,0 m-4,-4 l4,4 l-4,4`} className="fill-none stroke-now" strokeWidth="1.5" />
      <text x={CX + scale + 20} y={CY + 4} className="digits fill-ink-soft text-[10px]">
        facing
      </text>
      <Handle
        x={CX - backwardFactor * scale}
        y={CY}
        label="Backward factor"
        value={`× ${shortNumber(backwardFactor)}`}
        number={backwardFactor}
        drag={(px) => set('pace.backwardFactor', (CX - px) / scale)}
        nudge={(across, along) => set('pace.backwardFactor', backwardFactor + (along - across) * 0.05)}
      />
      <Handle
        x={CX}
        y={CY + sidewaysFactor * scale}
        label="Sideways factor"
        value={`× ${shortNumber(sidewaysFactor)}`}
        number={sidewaysFactor}
        drag={(_px, py) => set('pace.sidewaysFactor', (py - CY) / scale)}
        nudge={(across, along) => set('pace.sidewaysFactor', sidewaysFactor + (across - along) * 0.05)}
      />
    </svg>
  );
}

/** Seconds of turning that the arc shows. */
const SHOWN = 0.25;

/** How far the heading turns in a quarter second; a full circle is the most that can be dragged. */
export function TurnArc() {
  const { editing } = useTuning();
  const { turnRate } = useStore(editing.$tuning).parameters.ramp;
  const turned = Math.min(360, turnRate * SHOWN);
  const radians = (turned * Math.PI) / 180;
  const [x, y] = [CX + UNIT * Math.cos(radians), CY + UNIT * Math.sin(radians)];
  const set = (value: number) => void putNumber(editing, 'ramp.turnRate', Math.max(0, Math.round(value)), 'turn rate');
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${SIZE}`}
      className="w-full border-t border-rule/60 select-none"
      role="group"
      aria-label="Turn in a quarter second"
    >
      <circle cx={CX} cy={CY} r={UNIT} className="fill-none stroke-rule" />
      <line x1={CX} y1={CY} x2={CX + UNIT} y2={CY} className="stroke-ink-soft" strokeDasharray="2 3" />
      <path
        d={
          turned >= 360
            ? `M${CX - UNIT},${CY} a${UNIT},${UNIT} 0 1 1 ${2 * UNIT},0 a${UNIT},${UNIT} 0 1 1 ${-2 * UNIT},0`
            : `M${CX + UNIT},${CY} A${UNIT},${UNIT} 0 ${turned > 180 ? 1 : 0} 1 ${x},${y}`
        }
        className="fill-none stroke-ink"
        strokeWidth="2.4"
      />
      <line x1={CX} y1={CY} x2={x} y2={y} className="stroke-ink" strokeWidth="1.5" />
      <text x={CX + UNIT + 18} y={CY + 4} className="digits fill-ink-soft text-[10px]">
        {`${shortNumber(turnRate * SHOWN, 0)}° in ${SHOWN} s`}
      </text>
      <Handle
        x={x}
        y={y}
        label="Turn in a quarter second"
        value={`${shortNumber(turnRate)} ° a second`}
        number={turnRate}
        drag={(px, py) => set((((Math.atan2(py - CY, px - CX) * 180) / Math.PI + 360) % 360) / SHOWN)}
        nudge={(across, along) => set(turnRate + (across + along) * 10)}
      />
    </svg>
  );
}
