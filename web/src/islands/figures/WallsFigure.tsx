import { useStore } from '@nanostores/react';
import { keptAtContact, shortNumber, steadySlide } from '@zygopod/core';
import { scaleLinear } from 'd3-scale';
import { useState } from 'react';
import { Handle } from '../fields/Handle.tsx';
import { putNumber } from '../fields/model.ts';
import { useTuning } from '../tuning/context.ts';
import { FigureFrame } from './FigureFrame.tsx';
import { TargetBar, useTargetsAt } from './TargetBar.tsx';
import { runKey, useDrawn } from './useDrawn.ts';

const WIDTH = 268;
const HEIGHT = 106;
const SPLIT = 150;
const BASE = HEIGHT - 14;
/** Where on the curve its handle sits, degrees. */
const HELD = 40;
const x = scaleLinear([0, 90], [8, SPLIT - 10]);
const y = scaleLinear([0, 1], [BASE, 10]);
const angles = Array.from({ length: 46 }, (_, i) => i * 2);

/** The speed kept along a wall at each angle, and a small scene: an arrow to be turned against a wall. */
export function WallsFigure({ number }: { number: number }) {
  const { editing } = useTuning();
  const { parameters } = useStore(editing.$tuning);
  const before = useStore(editing.$beforeTuning).parameters.contact;
  const { contact } = parameters;
  const targets = useTargetsAt('slideKept');
  const set = (path: string, value: number) => void putNumber(editing, path, value, path.split('.')[1] ?? path);
  const curve = (of: typeof contact) => angles.map((angle, i) => `${i ? 'L' : 'M'}${x(angle)},${y(keptAtContact(of, angle))}`).join('');
  const held = keptAtContact(contact, HELD);
  const radians = (HELD * Math.PI) / 180;
  return (
    <FigureFrame
      number={number}
      id="walls"
      drawing={
        <svg
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          className="w-full shrink-0 select-none"
          role="group"
          aria-label="Fraction of the speed kept, by angle to the wall"
        >
          <path d={`M8,4 V${BASE} H${SPLIT - 6}`} className="fill-none stroke-ink" strokeWidth="1.2" />
          <path
            d={curve({ ...contact, wallFriction: 0, keepSpeed: false, response: 'slide' })}
            className="fill-none stroke-ink-soft"
            strokeDasharray="1.5 3"
          />
          {JSON.stringify(before) !== JSON.stringify(contact) && (
            <path d={curve(before)} className="fill-none stroke-other" strokeDasharray="4 3" strokeWidth="1.4" />
          )}
          {targets.map((target) => (
            <TargetBar
              key={target.at}
              target={target}
              words={`the slide at ${target.at}° keeps`}
              level={x(target.at ?? 0)}
              place={y}
              edge={y(1)}
              isUpright
            />
          ))}
          <path d={curve(contact)} className="fill-none stroke-ink" strokeWidth="2" />
          <text x={x(HELD) + 9} y={y(held) - 5} className="digits fill-ink-soft text-[10px]">
            {`${Math.round(held * 100)} % at ${HELD}°`}
          </text>
          <text x="10" y={HEIGHT - 3} className="digits fill-ink-soft text-[10px]">
            0°
          </text>
          <text x={SPLIT - 8} y={HEIGHT - 3} textAnchor="end" className="digits fill-ink-soft text-[10px]">
            90°
          </text>
          <Handle
            x={x(HELD)}
            y={y(held)}
            label="Speed kept along the wall"
            value={`${Math.round(held * 100)} % at ${HELD}°, friction ${shortNumber(contact.wallFriction)}`}
            number={contact.wallFriction}
            drag={(_px, py) => {
              const kept = Math.min(Math.cos(radians), Math.max(0, y.invert(py)));
              set('contact.wallFriction', Number(((Math.cos(radians) - kept) / Math.sin(radians)).toFixed(2)));
            }}
            nudge={(across, along) => set('contact.wallFriction', Math.max(0, contact.wallFriction + (across - along) * 0.01))}
          />
          <Scene />
        </svg>
      }
      more={{ 'contact.cornerAssist': <AssistDrawing /> }}
    />
  );
}

const ARM = 62;

/** An arrow against a wall: turn it; what goes on along the wall is what the core does with this tuning. */
function Scene() {
  const { editing } = useTuning();
  const { parameters } = useStore(editing.$tuning);
  const [angle, turn] = useState(35);
  const key = `${runKey(parameters)} ${angle}`;
  const goes = useDrawn(key, () => steadySlide(parameters, angle));
  const [cx, cy] = [SPLIT + 66, BASE];
  const radians = (angle * Math.PI) / 180;
  const [fx, fy] = [cx - Math.cos(radians) * ARM, cy - Math.sin(radians) * ARM];
  const kept = Math.hypot(goes.x, goes.y);
  const nearest = (px: number, py: number) => {
    const raw = (Math.atan2(cy - py, cx - px) * 180) / Math.PI;
    return Math.min(90, Math.max(1, Math.round(raw)));
  };
  return (
    <>
      <path d={`M${SPLIT + 6},${BASE} H${WIDTH - 2}`} className="stroke-ink" strokeWidth="1.5" />
      <path
        d={Array.from({ length: 14 }, (_, i) => `M${SPLIT + 10 + i * 8},${BASE + 8} l6,-8`).join('')}
        className="stroke-hatch"
        strokeWidth="1"
      />
      <path d={`M${fx},${fy} L${cx},${cy}`} className="stroke-ink" strokeWidth="2" />
      <path d={`M${cx},${cy} l${goes.x * ARM},${goes.y * ARM}`} className="stroke-now" strokeWidth="2.5" />
      <circle cx={cx + goes.x * ARM} cy={cy + goes.y * ARM} r="2.5" className="fill-now" />
      <path d={`M${cx + goes.x * ARM},${cy} L${cx + ARM},${cy}`} className="stroke-ink-soft" strokeDasharray="2 2" strokeWidth="1" />
      <text x={WIDTH - 4} y="14" textAnchor="end" className="digits fill-now text-[10px]" data-testid="slide-kept">
        {`steady ${Math.round(kept * 100)} %`}
      </text>
      <text x={WIDTH - 4} y="26" textAnchor="end" className="digits fill-ink-soft text-[10px]">
        {`at ${angle}°`}
      </text>
      <Handle
        x={fx}
        y={fy}
        label="Angle to the wall in the scene"
        value={`${angle}°`}
        number={angle}
        drag={(px, py) => turn(nearest(px, py))}
        nudge={(across, along) => turn(Math.min(90, Math.max(1, angle + across + along)))}
      />
    </>
  );
}

/** A body that overlaps a corner by the most that it is eased round. */
function AssistDrawing() {
  const { editing, drive } = useTuning();
  const { contact, body } = useStore(editing.$tuning).parameters;
  const size = body.shape === 'circle' ? 2 * body.radius : body.height;
  const scale = 34 / size;
  const [bodyX, corner] = [90, 40];
  const overlap = Math.min(size, contact.cornerAssist);
  const top = corner + overlap * scale - 34;
  return (
    <svg viewBox={`0 0 ${WIDTH} 64`} className="w-full border-t border-rule/60 select-none" role="group" aria-label="Overlap with a corner">
      <rect x={bodyX + 17} y={corner} width="120" height="24" className="fill-solid stroke-ink" strokeWidth="1.4" />
      {body.shape === 'circle' ? (
        <circle cx={bodyX} cy={top + 17} r="17" className="fill-none stroke-ink" strokeWidth="1.6" />
      ) : (
        <rect x={bodyX - 17} y={top} width="34" height="34" className="fill-none stroke-ink" strokeWidth="1.6" />
      )}
      <path d={`M${bodyX + 22},${top + 10} h24 m-5,-4 l5,4 l-5,4`} className="fill-none stroke-now" strokeWidth="1.6" />
      <text x={bodyX + 150} y={corner + 14} className="digits fill-ink-soft text-[10px]">
        {contact.cornerAssist === 0 ? 'no assist' : `eased by ${shortNumber(contact.cornerAssist, 1)}`}
      </text>
      <Handle
        x={bodyX}
        y={top + 34}
        label="Overlap that is eased around"
        value={`${shortNumber(contact.cornerAssist)} ${drive.world.ground.unit}`}
        number={contact.cornerAssist}
        drag={(_px, py) =>
          void putNumber(editing, 'contact.cornerAssist', Math.max(0, Math.round(((py - corner) / scale) * 2) / 2), 'corner assist')
        }
        nudge={(across, along) =>
          void putNumber(editing, 'contact.cornerAssist', contact.cornerAssist + (across - along) * 0.5, 'corner assist')
        }
      />
    </svg>
  );
}
