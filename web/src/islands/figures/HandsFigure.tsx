import { useStore } from '@nanostores/react';
import { type Control, controls, shapedStick, shortNumber } from '@zygopod/core';
import { scaleLinear } from 'd3-scale';
import { useRef } from 'react';
import { usePainter } from '../chart/frames.ts';
import { place, write } from '../controls/inPlace.ts';
import { Handle } from '../fields/Handle.tsx';
import { putNumber } from '../fields/model.ts';
import { useTuning } from '../tuning/context.ts';
import { FigureFrame } from './FigureFrame.tsx';
import { SwipeDrawing } from './SwipeDrawing.tsx';

const PLOT = 106;
const TOP = 8;
const LEFT = 10;
const SIZE = 88;

/** Result of stick travel, with the live stick on the curve; and which of two opposite keys counts. */
export function HandsFigure({ number }: { number: number }) {
  const { editing, drive } = useTuning();
  const { input, pace } = useStore(editing.$tuning).parameters;
  const before = useStore(editing.$beforeTuning).parameters.input;
  const live = useRef<SVGCircleElement>(null);
  const x = scaleLinear([0, 1], [LEFT, LEFT + SIZE]);
  const y = scaleLinear([0, 1], [TOP + SIZE, TOP]);
  const set = (path: string, value: number) => void putNumber(editing, path, Number(value.toFixed(3)), path.split('.')[1] ?? path);
  const curve = (zones: typeof input) =>
    Array.from({ length: 51 }, (_, i) => `${i ? 'L' : 'M'}${x(i / 50)},${y(shapedStick(i / 50, zones))}`).join('');
  const middle = (input.deadZone + Math.max(input.outerZone, input.deadZone)) / 2;
  const middleValue = 0.5 ** input.curve;

  usePainter(() => {
    const { stickX, stickY } = drive.recorder.hands;
    const travel = Math.min(1, Math.hypot(stickX, stickY));
    place(live.current, { cx: x(travel), cy: y(shapedStick(travel, input)) });
  });

  return (
    <FigureFrame
      number={number}
      id="hands"
      drawing={
        <div className="flex">
          <svg
            viewBox={`0 0 ${PLOT} ${PLOT}`}
            className="w-[106px] shrink-0 select-none"
            role="group"
            aria-label="Magnitude over stick travel"
          >
            <rect x={x(0)} y={TOP} width={x(input.deadZone) - x(0)} height={SIZE} className="fill-rule/50" />
            <path d={`M${LEFT},${TOP} V${TOP + SIZE} H${LEFT + SIZE}`} className="fill-none stroke-ink" strokeWidth="1.2" />
            <path d={curve(before)} className="fill-none stroke-other" strokeDasharray="4 3" strokeWidth="1.2" />
            <path d={curve(input)} className="fill-none stroke-ink" strokeWidth="2" />
            <path
              d={`M${x(stickFor(pace.sprintMinStick, input))},${TOP + SIZE} V${y(pace.sprintMinStick)} H${LEFT}`}
              className="fill-none stroke-now"
              strokeDasharray="2 3"
            />
            <circle ref={live} r="3.5" className="fill-now" data-testid="live-stick" />
            <Handle
              x={LEFT}
              y={y(pace.sprintMinStick)}
              label="Minimum stick to sprint"
              value={shortNumber(pace.sprintMinStick)}
              number={pace.sprintMinStick}
              drag={(_px, py) => set('pace.sprintMinStick', Math.min(1, Math.max(0, y.invert(py))))}
              nudge={(across, along) => set('pace.sprintMinStick', pace.sprintMinStick + (across + along) * 0.01)}
            />
            <Handle
              x={x(input.deadZone)}
              y={y(0)}
              label="Dead zone"
              value={shortNumber(input.deadZone)}
              number={input.deadZone}
              drag={(px) => set('input.deadZone', x.invert(px))}
              nudge={(across, along) => set('input.deadZone', input.deadZone + (across + along) * 0.01)}
            />
            <Handle
              x={x(input.outerZone)}
              y={y(1)}
              label="Outer zone"
              value={shortNumber(input.outerZone)}
              number={input.outerZone}
              drag={(px) => set('input.outerZone', x.invert(px))}
              nudge={(across, along) => set('input.outerZone', input.outerZone + (across + along) * 0.01)}
            />
            <Handle
              x={x(middle)}
              y={y(middleValue)}
              label="Curve"
              value={shortNumber(input.curve)}
              number={input.curve}
              drag={(_px, py) => set('input.curve', Math.log(Math.min(0.98, Math.max(0.02, y.invert(py)))) / Math.log(0.5))}
              nudge={(across, along) => set('input.curve', input.curve + (across - along) * 0.05)}
            />
          </svg>
          <ConflictTable />
        </div>
      }
    />
  );
}

/** The stick travel at which the magnitude comes to `amount`: the inverse of the curve. */
function stickFor(amount: number, zones: { deadZone: number; outerZone: number; curve: number }): number {
  return zones.deadZone + Math.max(0, zones.outerZone - zones.deadZone) * amount ** (1 / zones.curve);
}

/** The answer to opposite keys under each choice; press A and D to try it: the row in force shows what is done now. */
function ConflictTable() {
  const { editing, drive } = useTuning();
  const { conflict } = useStore(editing.$tuning).parameters.input;
  const now = useRef<HTMLParagraphElement>(null);
  usePainter(() => {
    const { held } = drive.recorder.hands;
    const { intentX: x, intentY: y } = drive.world.body;
    const isDown = (control: Control) => (held[controls.indexOf(control)] ?? 0) > 0;
    const opposite = (isDown('left') && isDown('right')) || (isDown('up') && isDown('down'));
    const words = opposite
      ? `now: ${x > 0 ? 'right' : x < 0 ? 'left' : ''}${y > 0 ? ' down' : y < 0 ? ' up' : ''}${x === 0 && y === 0 ? 'neither' : ''}`
      : 'press both to try';
    write(now.current, words);
  });
  const rows = [
    ['newest', '→', '←'],
    ['oldest', '←', '→'],
    ['cancel', '·', '·'],
  ] as const;
  return (
    <div className="digits ml-1.5 min-w-0 text-[10px]">
      <table className="w-full">
        <caption className="pb-0.5 text-left text-ink-soft">pressed in order</caption>
        <thead>
          <tr className="text-ink-soft">
            <td />
            <th scope="col" className="px-2 font-normal whitespace-nowrap">
              ←, →
            </th>
            <th scope="col" className="px-2 font-normal whitespace-nowrap">
              →, ←
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, first, second]) => (
            <tr
              key={name}
              aria-current={name === conflict ? 'true' : undefined}
              className="aria-[current=true]:bg-ink aria-[current=true]:text-sheet"
            >
              <th scope="row" className="px-1 text-left font-normal">
                {name}
              </th>
              <td className="text-center">{first}</td>
              <td className="text-center">{second}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p ref={now} className="mt-px text-now" />
      <SwipeDrawing />
    </div>
  );
}
