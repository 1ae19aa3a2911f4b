import { useStore } from '@nanostores/react';
import { shortNumber } from '@zygopod/core';
import { useState } from 'react';
import { Handle } from '../fields/Handle.tsx';
import { putNumber } from '../fields/model.ts';
import { ParameterField } from '../fields/ParameterField.tsx';
import { useTuning } from '../tuning/context.ts';
import { FigureFrame } from './FigureFrame.tsx';

const WIDTH = 268;
const HEIGHT = 106;
const CX = WIDTH / 2;
const CY = HEIGHT / 2;

/** The outline beside a cell of the ground, with its origin: the point of its position. */
export function BodyFigure({ number }: { number: number }) {
  const { editing, drive } = useTuning();
  const { body } = useStore(editing.$tuning).parameters;
  const { ground } = drive.world;
  const circle = body.shape === 'circle';
  const [width, height] = circle ? [2 * body.radius, 2 * body.radius] : [body.width, body.height];
  const [frozen, freeze] = useState<number | null>(null);
  const scale = frozen ?? Math.min((HEIGHT - 26) / Math.max(height, ground.cell), (WIDTH - 60) / Math.max(width, ground.cell));
  const [w, h] = [width * scale, height * scale];
  const ox = CX + (body.originX - 0.5) * w;
  const oy = CY + (body.originY - 0.5) * h;
  const set = (path: string, value: number) => void putNumber(editing, path, value, path.split('.')[1] ?? path);
  const round = (value: number) => Math.max(0.5, Math.round(value * 2) / 2);
  const hold = { began: () => freeze(scale), ended: () => freeze(null) };

  return (
    <FigureFrame
      number={number}
      id="body"
      drawing={
        <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full shrink-0 select-none" role="group" aria-label="The body beside a cell">
          <rect
            x={CX - (ground.cell * scale) / 2}
            y={CY - (ground.cell * scale) / 2}
            width={ground.cell * scale}
            height={ground.cell * scale}
            className="fill-none stroke-ink-soft"
            strokeDasharray="3 3"
          />
          <text x={CX - (ground.cell * scale) / 2} y={CY + (ground.cell * scale) / 2 + 11} className="digits fill-ink-soft text-[10px]">
            {`cell ${shortNumber(ground.cell)}`}
          </text>
          {circle ? (
            <circle cx={CX} cy={CY} r={w / 2} className="fill-sheet stroke-ink" strokeWidth="2" />
          ) : (
            <rect x={CX - w / 2} y={CY - h / 2} width={w} height={h} className="fill-sheet stroke-ink" strokeWidth="2" />
          )}
          <path d={`M${ox - 7},${oy} h14 M${ox},${oy - 7} v14`} className="stroke-ink" />
          {circle ? (
            <Handle
              x={CX + w / 2}
              y={CY}
              label="Radius"
              value={`${shortNumber(body.radius)} ${ground.unit}`}
              number={body.radius}
              drag={(px) => set('body.radius', round((px - CX) / scale))}
              nudge={(a, b) => set('body.radius', body.radius + (a + b) * 0.5)}
              {...hold}
            />
          ) : (
            <>
              <Handle
                x={CX + w / 2}
                y={CY}
                label="Width"
                value={`${shortNumber(body.width)} ${ground.unit}`}
                number={body.width}
                drag={(px) => set('body.width', round((2 * (px - CX)) / scale))}
                nudge={(a, b) => set('body.width', body.width + a + b)}
                {...hold}
              />
              <Handle
                x={CX}
                y={CY + h / 2}
                label="Height"
                value={`${shortNumber(body.height)} ${ground.unit}`}
                number={body.height}
                drag={(_px, py) => set('body.height', round((2 * (py - CY)) / scale))}
                nudge={(a, b) => set('body.height', body.height - a - b)}
                {...hold}
              />
            </>
          )}
          <Handle
            x={ox}
            y={oy}
            label="Origin"
            value={`${shortNumber(body.originX)} across, ${shortNumber(body.originY)} down`}
            number={body.originX}
            drag={(px, py) => {
              const snap = (value: number) => Math.round(Math.min(1, Math.max(0, value)) * 20) / 20;
              set('body.originX', snap((px - CX) / w + 0.5));
              set('body.originY', snap((py - CY) / h + 0.5));
            }}
            nudge={(a, b) => {
              if (a) set('body.originX', body.originX + a * 0.05);
              if (b) set('body.originY', body.originY - b * 0.05);
            }}
            {...hold}
          />
        </svg>
      }
      more={{ 'body.originY': <Start /> }}
    />
  );
}

/** Start place and facing of the body. */
function Start() {
  const { editing, drive } = useTuning();
  const { facing } = useStore(editing.$tuning).parameters;
  const own = useStore(drive.$start);
  const { start } = drive.world.ground;
  const at = own ?? start;
  return (
    <>
      <p className="flex items-baseline justify-between border-t border-rule/60 py-[3px]">
        <span>
          Start <span className="digits text-ink-soft">{`${shortNumber(at.x, 1)}, ${shortNumber(at.y, 1)}`}</span>
        </span>
        <span className="flex gap-3 text-xs">
          {own && (
            <button type="button" className="action" onClick={() => drive.startHere(false)}>
              Use the ground’s start
            </button>
          )}
          <button type="button" className="action" title="The body’s place now (N); R returns to it" onClick={() => drive.startHere(true)}>
            Start here
          </button>
        </span>
      </p>
      <ParameterField path="facing.start" />
      {start.facing !== undefined && (
        <p className="text-xs text-ink-soft">
          This ground sets {shortNumber(start.facing)}° itself
          {facing.start === start.facing ? '' : ', so the number above does not show here'}.
        </p>
      )}
    </>
  );
}
