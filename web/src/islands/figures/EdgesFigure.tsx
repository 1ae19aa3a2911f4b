import { useStore } from '@nanostores/react';
import { bodySize, HELD_AGAINST, policies, pressAgainstEdge, shortNumber } from '@zygopod/core';
import { Handle } from '../fields/Handle.tsx';
import { putNumber } from '../fields/model.ts';
import { useTuning } from '../tuning/context.ts';
import { FigureFrame } from './FigureFrame.tsx';
import { runKey, useDrawn } from './useDrawn.ts';

const WIDTH = 268;
const HEIGHT = 106;
/** Room of the frame's drawing. */
const BOX = { x: 8, y: 8, width: 128, height: 86 };
const words = { clamp: 'clamp', push: 'push', wrap: 'wrap', sendTo: 'send to', none: 'none' };

/** The frame with its insets to drag and the body pressed against it; and what each policy makes of a second against an edge. */
export function EdgesFigure({ number }: { number: number }) {
  const { editing, drive } = useTuning();
  const { parameters } = useStore(editing.$tuning);
  const { bounds, body } = parameters;
  const { ground } = drive.world;
  const frame = bounds.frame === 'screen' && ground.frame ? ground.frame : { x: 0, y: 0, ...ground.size };
  const scale = Math.min(BOX.width / frame.width, BOX.height / frame.height);
  const [width, height] = [frame.width * scale, frame.height * scale];
  const [left, top] = [BOX.x + (BOX.width - width) / 2, BOX.y + (BOX.height - height) / 2];
  const { inset } = bounds;
  const limit = {
    left: left + inset.left * scale,
    right: left + width - inset.right * scale,
    top: top + inset.top * scale,
    bottom: top + height - inset.bottom * scale,
  };
  const [midX, midY] = [(limit.left + limit.right) / 2, (limit.top + limit.bottom) / 2];
  const set = (path: string, value: number) => void putNumber(editing, path, Math.round(value), path.replace('bounds.', ''));
  // The body is drawn no smaller than can be seen.
  const size = bodySize(body);
  const bodyScale = Math.max(scale, 9 / Math.max(size.width, size.height));
  const [bw, bh] = [size.width * bodyScale, size.height * bodyScale];
  const bodyX = limit.right - (bounds.measure === 'body' ? bw / 2 : 0);
  const pushAt = limit.right - bounds.push * scale;
  const inside = (name: string, value: number) => `${name} ${shortNumber(value)} ${ground.unit}`;

  return (
    <FigureFrame
      number={number}
      id="edges"
      drawing={
        <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full shrink-0 select-none" role="group" aria-label="The frame and its edges">
          <rect x={left} y={top} width={width} height={height} className="fill-sheet stroke-ink-soft" />
          <rect
            x={limit.left}
            y={limit.top}
            width={Math.max(0, limit.right - limit.left)}
            height={Math.max(0, limit.bottom - limit.top)}
            className="fill-none stroke-now"
            strokeDasharray="5 3"
          />
          {body.shape === 'circle' ? (
            <circle cx={bodyX} cy={midY - 18} r={bw / 2} className="fill-none stroke-ink" strokeWidth="1.6" />
          ) : (
            <rect x={bodyX - bw / 2} y={midY - 18 - bh / 2} width={bw} height={bh} className="fill-none stroke-ink" strokeWidth="1.6" />
          )}
          {bounds.policy === 'push' && (
            <line x1={pushAt} x2={pushAt} y1={limit.top} y2={limit.bottom} className="stroke-now" strokeWidth="1" />
          )}
          <Handle
            x={midX}
            y={limit.top}
            label="Inset top"
            value={inside('top', inset.top)}
            number={inset.top}
            drag={(_px, py) => set('bounds.inset.top', (py - top) / scale)}
            nudge={(across, along) => set('bounds.inset.top', inset.top + across - along)}
          />
          <Handle
            x={limit.right}
            y={midY}
            label="Inset right"
            value={inside('right', inset.right)}
            number={inset.right}
            drag={(px) => set('bounds.inset.right', (left + width - px) / scale)}
            nudge={(across, along) => set('bounds.inset.right', inset.right - across + along)}
          />
          <Handle
            x={midX}
            y={limit.bottom}
            label="Inset bottom"
            value={inside('bottom', inset.bottom)}
            number={inset.bottom}
            drag={(_px, py) => set('bounds.inset.bottom', (top + height - py) / scale)}
            nudge={(across, along) => set('bounds.inset.bottom', inset.bottom + across + along)}
          />
          <Handle
            x={limit.left}
            y={midY}
            label="Inset left"
            value={inside('left', inset.left)}
            number={inset.left}
            drag={(px) => set('bounds.inset.left', (px - left) / scale)}
            nudge={(across, along) => set('bounds.inset.left', inset.left + across + along)}
          />
          {bounds.policy === 'push' && (
            <Handle
              x={pushAt}
              y={limit.bottom - 12}
              label="Push"
              value={inside('by', bounds.push)}
              number={bounds.push}
              drag={(px) => set('bounds.push', Math.max(0, (limit.right - px) / scale))}
              nudge={(across, along) => set('bounds.push', bounds.push - across + along)}
            />
          )}
          {bounds.policy === 'sendTo' && (
            <Handle
              x={left + (bounds.sendToX - frame.x) * scale}
              y={top + (bounds.sendToY - frame.y) * scale}
              label="Send to"
              value={`${shortNumber(bounds.sendToX)}, ${shortNumber(bounds.sendToY)}`}
              number={bounds.sendToX}
              drag={(px, py) => {
                set('bounds.sendToX', frame.x + (px - left) / scale);
                set('bounds.sendToY', frame.y + (py - top) / scale);
              }}
              nudge={(across, along) => {
                if (across) set('bounds.sendToX', bounds.sendToX + across);
                if (along) set('bounds.sendToY', bounds.sendToY - along);
              }}
            />
          )}
          <Policies />
        </svg>
      }
    />
  );
}

const LINE = { x: 190, width: 74, height: 18 };

/** For each policy the body's side over a second against the edge (the thin line): what is above it hangs out. */
function Policies() {
  const { editing } = useTuning();
  const { parameters } = useStore(editing.$tuning);
  const { body, bounds } = parameters;
  const runs = useDrawn(runKey(parameters), () => policies.map((policy) => ({ policy, run: pressAgainstEdge(parameters, policy) })));
  const { width } = bodySize(body);
  // A body's width in either direction is shown; longer moves (wrapping, sending) leave the drawing.
  const y = (middle: number, beyond: number) => middle - Math.max(-1.4, Math.min(1.1, beyond / width)) * (LINE.height / 2.6);
  return (
    <>
      {runs.map(({ policy, run }, i) => {
        const middle = 14 + i * (LINE.height + 1.5);
        const now = policy === bounds.policy;
        const past = Math.max(...run.map(({ beyond }) => beyond));
        let pen = 'M';
        const path = run
          .map(({ time, beyond }, k) => {
            const jump = k > 0 && Math.abs(beyond - (run[k - 1]?.beyond ?? 0)) > width * 2;
            pen = k === 0 || jump ? 'M' : 'L';
            return `${pen}${LINE.x + (time / HELD_AGAINST) * LINE.width},${y(middle, beyond)}`;
          })
          .join('');
        return (
          <g key={policy}>
            <text
              x={LINE.x - 6}
              y={middle + 3}
              textAnchor="end"
              className={`text-[10px] ${now ? 'fill-now font-semibold' : 'fill-ink-soft'}`}
            >
              {words[policy]}
            </text>
            <line x1={LINE.x} x2={LINE.x + LINE.width} y1={middle} y2={middle} className="stroke-ink-soft" strokeWidth="0.7" />
            <path d={path} className={`fill-none ${now ? 'stroke-now' : 'stroke-ink'}`} strokeWidth={now ? 1.8 : 1.1}>
              <title>{`${words[policy]}: ${past > 0 ? `${shortNumber(past, 1)} of the body beyond the edge` : 'nothing beyond the edge'}`}</title>
            </path>
          </g>
        );
      })}
    </>
  );
}
