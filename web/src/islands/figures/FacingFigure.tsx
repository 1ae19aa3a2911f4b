import { useStore } from '@nanostores/react';
import { compassName, type Parameters, shortNumber, TURNED, turnedBy, turnOverTime } from '@zygopod/core';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { useRef } from 'react';
import { usePainter } from '../chart/frames.ts';
import { place } from '../controls/inPlace.ts';
import { Handle } from '../fields/Handle.tsx';
import { putNumber } from '../fields/model.ts';
import { useTuning } from '../tuning/context.ts';
import { FigureFrame } from './FigureFrame.tsx';
import { runKey, useDrawn } from './useDrawn.ts';

const WIDTH = 268;
const HEIGHT = 112;
const CX = 62;
const CY = 56;
const R = 38;
const BASE = HEIGHT - 16;

const along = (degrees: number, reach: number): [number, number] => {
  const radians = (degrees * Math.PI) / 180;
  return [CX + Math.cos(radians) * reach, CY + Math.sin(radians) * reach];
};

/** A slice of the rose between two angles. */
function slice(from: number, to: number, inner: number, outer: number): string {
  const [[ax, ay], [bx, by], [cx, cy], [dx, dy]] = [along(from, inner), along(from, outer), along(to, outer), along(to, inner)];
  return `M${ax},${ay} L${bx},${by} A${outer},${outer} 0 0 1 ${cx},${cy} L${dx},${dy} A${inner},${inner} 0 0 0 ${ax},${ay} Z`;
}

/** The rose of directions with the bands in which each is kept, and a turn over time. */
export function FacingFigure({ number }: { number: number }) {
  const { editing, drive } = useTuning();
  const { parameters } = useStore(editing.$tuning);
  const { facing } = parameters;
  const needle = useRef<SVGLineElement>(null);
  const wish = useRef<SVGLineElement>(null);
  const count = facing.directions === 'free' ? 0 : Number(facing.directions);
  const sector = count > 0 ? 360 / count : 0;
  const set = (path: string, value: number) => void putNumber(editing, path, value, path.split('.')[1] ?? path);

  usePainter(() => {
    const { trace, body } = drive.world;
    const [x, y] = along(trace.at('facing', drive.row), R);
    place(needle.current, { x2: x, y2: y });
    const { vx, vy } = body;
    const moving = Math.hypot(vx, vy) > 1e-3;
    const [wx, wy] = moving ? along((Math.atan2(vy, vx) * 180) / Math.PI, R + 6) : [CX, CY];
    place(wish.current, { x2: wx, y2: wy });
  });

  const border = sector / 2;
  return (
    <FigureFrame
      number={number}
      id="facing"
      drawing={
        <svg
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          className="w-full shrink-0 select-none"
          role="group"
          aria-label="Facing directions, and a turn over time"
        >
          <circle cx={CX} cy={CY} r={R} className="fill-sheet stroke-ink-soft" />
          {Array.from({ length: count }, (_, i) => {
            const middle = i * sector;
            const [bx, by] = along(middle + border, R);
            const [tx, ty] = along(middle, R + 9);
            return (
              <g key={middle}>
                {facing.stickiness > 0 && (
                  <path
                    d={slice(
                      middle + border - Math.min(facing.stickiness, border),
                      middle + border + Math.min(facing.stickiness, border),
                      12,
                      R,
                    )}
                    className="fill-now/15"
                  />
                )}
                <line x1={CX} y1={CY} x2={bx} y2={by} className="stroke-rule" strokeWidth="1" />
                {count <= 8 && (
                  <text x={tx} y={ty + 3} textAnchor="middle" className="digits fill-ink-soft text-[9px]">
                    {compassName((middle * Math.PI) / 180, facing.directions)}
                  </text>
                )}
              </g>
            );
          })}
          <line ref={wish} x1={CX} y1={CY} x2={CX} y2={CY} className="stroke-now" strokeDasharray="3 2" strokeWidth="1.2" />
          <line ref={needle} x1={CX} y1={CY} x2={CX} y2={CY} className="stroke-ink" strokeWidth="2.4" />
          {count > 0 && <StickinessHandle border={border} stickiness={facing.stickiness} set={set} />}
          <Handle
            x={along(facing.start, R + 1)[0]}
            y={along(facing.start, R + 1)[1]}
            label="Facing at the start"
            value={`${shortNumber(facing.start)}° if the ground gives none`}
            number={facing.start}
            drag={(px, py) => set('facing.start', Math.round((Math.atan2(py - CY, px - CX) * 180) / Math.PI))}
            nudge={(across, up) => set('facing.start', facing.start + across - up)}
          />
          <TurnOverTime parameters={parameters} before={useStore(editing.$beforeTuning).parameters} set={set} />
        </svg>
      }
    />
  );
}

function StickinessHandle({ border, stickiness, set }: { border: number; stickiness: number; set(path: string, value: number): void }) {
  // Half-way out, so that it does not cover the start's handle.
  const [x, y] = along(-border - Math.min(stickiness, 45), R * 0.62);
  return (
    <Handle
      x={x}
      y={y}
      label="Stickiness"
      value={`${shortNumber(stickiness)}° past the border`}
      number={stickiness}
      drag={(px, py) => {
        const angle = (Math.atan2(py - CY, px - CX) * 180) / Math.PI;
        set('facing.stickiness', Math.min(45, Math.max(0, Math.round(-angle - border))));
      }}
      nudge={(across, up) => set('facing.stickiness', Math.min(45, Math.max(0, stickiness + across + up)))}
    />
  );
}

const LEFT = 136;
const x = (seconds: number, span: number) => LEFT + (seconds / span) * (WIDTH - LEFT - 8);
const y = scaleLinear([0, TURNED], [BASE, 14]);
/** A turn by 135° over time; its handle sets the time in which 90 % of it is done. */
function TurnOverTime({ parameters, before, set }: { parameters: Parameters; before: Parameters; set(path: string, value: number): void }) {
  const { facing, clock } = parameters;
  const curve = useDrawn(runKey(parameters), () => turnOverTime(parameters));
  const ghost = useDrawn(runKey(before), () => turnOverTime(before));
  const most = turnedBy(curve, 0.9);
  const span = Math.max(0.25, (curve.at(-1)?.[0] ?? 0) * 1.15);
  const draw = line<[number, number]>(
    ([time]) => x(Math.min(time, span), span),
    ([, angle]) => y(angle),
  );
  const setTime = (seconds: number) => {
    const time = Math.max(0.5 / clock.hz, seconds);
    if (facing.turn === 'rate') set('facing.rate', Math.round((0.9 * TURNED) / time));
    else if (facing.turn === 'smooth') set('facing.halfLife', Number((time / Math.log2(10)).toFixed(3)));
    else if (facing.turn === 'perTick') set('facing.perTick', Number((1 - 0.1 ** (1 / (time * clock.hz))).toFixed(3)));
  };
  return (
    <>
      <path d={`M${LEFT},8 V${BASE} H${WIDTH - 4}`} className="fill-none stroke-ink" strokeWidth="1.2" />
      <line x1={LEFT} x2={WIDTH - 4} y1={y(TURNED)} y2={y(TURNED)} className="stroke-ink-soft" strokeDasharray="1.5 3" strokeWidth="0.8" />
      <text x={LEFT + 4} y={y(TURNED) - 3} className="digits fill-ink-soft text-[10px]">
        {`${TURNED}°`}
      </text>
      {runKey(parameters) !== runKey(before) && (
        <path d={draw(ghost) ?? ''} className="fill-none stroke-other" strokeDasharray="4 3" strokeWidth="1.4" />
      )}
      <path d={`${draw(curve)} H${WIDTH - 8}`} className="fill-none stroke-ink" strokeWidth="2" strokeLinejoin="round" />
      <text x={WIDTH - 8} y={BASE + 12} textAnchor="end" className="digits fill-ink-soft text-[10px]">
        {facing.turn === 'instant' ? 'at once' : most === null ? 'not in 1.2 s' : `90 % in ${shortNumber(most, 3)} s`}
      </text>
      {facing.turn !== 'instant' && most !== null && (
        <Handle
          x={x(most, span)}
          y={y(TURNED * 0.9)}
          label="Time for 90 % of the turn"
          value={`${shortNumber(most, 3)} s`}
          number={most}
          drag={(px) => setTime(((px - LEFT) / (WIDTH - LEFT - 8)) * span)}
          nudge={(across, up) => setTime(most + (across + up) * 0.005)}
        />
      )}
    </>
  );
}
