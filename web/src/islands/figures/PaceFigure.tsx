import { useStore } from '@nanostores/react';
import { HALF_LIVES_TO_90, matters, type PaceCurve, type Parameters, paceProfile, rateToStopIn, shortNumber } from '@zygopod/core';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { useState } from 'react';
import { Handle } from '../fields/Handle.tsx';
import { outcome, putNumber } from '../fields/model.ts';
import { useTuning } from '../tuning/context.ts';
import { FactorRose, TurnArc } from './DirectionDrawings.tsx';
import { FigureFrame } from './FigureFrame.tsx';
import { PaceBands } from './PaceBands.tsx';
import { runKey, useDrawn } from './useDrawn.ts';

const WIDTH = 268;
const HEIGHT = 106;
const BASE = HEIGHT - 12;

function useProfile(parameters: Parameters) {
  return useDrawn(runKey(parameters), () => paceProfile(parameters));
}

/** Speed over one run. Drag the circles: up for the speeds, sideways for how soon they are reached. */
export function PaceFigure({ number }: { number: number }) {
  const { editing, drive } = useTuning();
  const tuning = useStore(editing.$tuning);
  const before = useStore(editing.$beforeTuning);
  const { pace, ramp, clock } = tuning.parameters;
  const profile = useProfile(tuning.parameters);
  const ghost = useProfile(before.parameters);
  const differs = runKey(tuning.parameters) !== runKey(before.parameters);
  const { unit } = drive.world.ground;
  const [frozen, freeze] = useState<{ seconds: number; top: number } | null>(null);

  const natural = {
    seconds: Math.max(profile.curve.at(-1)?.[0] ?? 1, differs ? (ghost.curve.at(-1)?.[0] ?? 0) : 0) * 1.04,
    top: Math.max(pace.walkSpeed, pace.sprintSpeed, 1e-3, ...(differs ? ghost.curve.map(([, speed]) => speed) : [])) * 1.18,
  };
  const extent = frozen ?? natural;
  const x = scaleLinear([0, extent.seconds], [8, WIDTH - 6]);
  const y = scaleLinear([0, extent.top], [BASE, 6]);
  const path = line<[number, number]>(
    (p) => x(p[0]),
    (p) => y(p[1]),
  );
  const draw = (curve: PaceCurve) => path(curve) ?? '';
  const { marks } = profile;
  const crowded = Math.abs(y(pace.walkSpeed) - y(pace.sprintSpeed)) < 12;
  const lower = pace.sprintSpeed < pace.walkSpeed ? 'sprint' : 'walk';
  const linear = ramp.model === 'linear' || ramp.model === 'curve';

  const set = (name: string, value: number) => void putNumber(editing, name, value, name.split('.')[1] ?? name);
  /** Brings a ramp's duration to `seconds`: by its rate, or with the smooth ramp by its half-life. */
  const setTime = (rate: string, seconds: number, present: number) => {
    const time = Math.max(0.25 / clock.hz, seconds);
    if (ramp.model === 'smooth') set('ramp.halfLife', ramp.halfLife * (time / present));
    else if (linear) set(rate, (tuning.parameters.ramp[rate.split('.')[1] as 'accelerate'] * present) / time);
  };
  const riseIn = ramp.model === 'smooth' ? ramp.halfLife * HALF_LIVES_TO_90 : marks.walkAt;
  const handle = { began: () => freeze(natural), ended: () => freeze(null) };
  const stopsIn = shortNumber(profile.stopDistance, 1);

  const reach = outcome(
    ramp.model === 'smooth' ? 'Reaches 90 % of walk after' : 'Reaches walk after',
    'Time from rest to the walk speed; sets accelerate (or the half-life).',
    's',
    riseIn,
    (seconds) => {
      if (!(seconds > 0)) return 'a time above 0 is needed';
      setTime('ramp.accelerate', seconds, riseIn);
      return null;
    },
  );
  const stop = outcome(
    'Stops within',
    'Distance from walk to rest with no input; sets decelerate (or the half-life).',
    unit,
    profile.stopDistance,
    (distance) => {
      if (!(distance > 0)) return 'a distance above 0 is needed';
      if (ramp.model === 'smooth') set('ramp.halfLife', (ramp.halfLife * distance) / Math.max(1e-9, profile.stopDistance));
      else set('ramp.decelerate', rateToStopIn(distance, pace.walkSpeed, 1 / clock.hz, clock.integration));
      return null;
    },
  );

  return (
    <FigureFrame
      number={number}
      id="pace"
      drawing={
        <svg
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          className="w-full shrink-0 select-none"
          role="group"
          aria-label="Speed over time for one run"
        >
          <path d={`M8,4 V${BASE} H${WIDTH - 4}`} className="fill-none stroke-ink" strokeWidth="1.2" />
          {(
            [
              [pace.walkSpeed, 'walk'],
              [pace.sprintSpeed, 'sprint'],
            ] as const
          ).map(([speed, name]) => (
            <g key={name}>
              <line
                x1="8"
                x2={WIDTH - 4}
                y1={y(speed)}
                y2={y(speed)}
                className="stroke-ink-soft"
                strokeDasharray="1.5 3"
                strokeWidth="0.8"
              />
              <text x="12" y={y(speed) + (name === lower && crowded ? 11 : -3)} className="digits fill-ink-soft text-[10px]">
                {shortNumber(speed, 0)}
              </text>
            </g>
          ))}
          <PaceBands
            x={x}
            walkY={y(pace.walkSpeed)}
            base={BASE}
            right={WIDTH - 4}
            stopFrom={marks.stopFrom}
            walk={pace.walkSpeed}
            isSteady={linear}
          />
          {differs && <path d={draw(ghost.curve)} className="fill-none stroke-other" strokeDasharray="4 3" strokeWidth="1.4" />}
          <path d={draw(profile.braking)} className="fill-none stroke-ink-soft" strokeDasharray="2 2" strokeWidth="1.2" />
          <path d={draw(profile.curve)} className="fill-none stroke-ink" strokeWidth="2" strokeLinejoin="round" />
          <text x={x(marks.walkAt) + 9} y={y(pace.walkSpeed) + 13} className="digits fill-ink-soft text-[10px]">
            {`${shortNumber(riseIn, 2)} s`}
          </text>
          <Handle
            x={x(marks.walkAt)}
            y={y(pace.walkSpeed)}
            label="Walk speed and time to it"
            value={`${shortNumber(pace.walkSpeed)} ${unit}/s in ${shortNumber(riseIn)} s`}
            number={pace.walkSpeed}
            drag={(px, py) => {
              set('pace.walkSpeed', roundTo(y.invert(py), extent.top));
              if (ramp.model !== 'instant') setTime('ramp.accelerate', x.invert(px), marks.walkAt);
            }}
            nudge={(across, along) => {
              if (along) set('pace.walkSpeed', pace.walkSpeed + along);
              else setTime('ramp.accelerate', marks.walkAt + across * 0.005, marks.walkAt);
            }}
            {...handle}
          />
          <Handle
            x={x(marks.sprintAt)}
            y={y(pace.sprintSpeed)}
            label="Sprint speed"
            value={`${shortNumber(pace.sprintSpeed)} ${unit}/s`}
            number={pace.sprintSpeed}
            drag={(_px, py) => set('pace.sprintSpeed', roundTo(y.invert(py), extent.top))}
            nudge={(across, along) => set('pace.sprintSpeed', pace.sprintSpeed + along + across)}
            {...handle}
          />
          <Handle
            x={x(marks.easeAt)}
            y={y(pace.restoredSpeed)}
            label="Time from sprint to walk, and the restored speed"
            value={`${shortNumber(marks.easeAt - marks.easeFrom)} s, ${shortNumber(pace.restoredSpeed)} ${unit}/s`}
            number={marks.easeAt - marks.easeFrom}
            drag={(px, py) => {
              setTime('ramp.ease', x.invert(px) - marks.easeFrom, Math.max(1e-6, marks.easeAt - marks.easeFrom));
              // Near the walk speed it is the walk speed: a slip of the hand makes no stale value.
              const restored = Math.abs(py - y(pace.walkSpeed)) < 7 ? pace.walkSpeed : roundTo(y.invert(py), extent.top);
              if (restored !== pace.restoredSpeed) set('pace.restoredSpeed', restored);
            }}
            nudge={(across, along) => {
              if (along) set('pace.restoredSpeed', pace.restoredSpeed + along);
              else setTime('ramp.ease', marks.easeAt - marks.easeFrom + across * 0.005, Math.max(1e-6, marks.easeAt - marks.easeFrom));
            }}
            {...handle}
          />
          <Handle
            x={x((marks.stopFrom + marks.brakeAt) / 2)}
            y={y(pace.restoredSpeed / 2)}
            label="Time to stop with opposite input"
            value={`${shortNumber(marks.brakeAt - marks.stopFrom)} s`}
            number={marks.brakeAt - marks.stopFrom}
            drag={(px) => setTime('ramp.brake', 2 * (x.invert(px) - marks.stopFrom), Math.max(1e-6, marks.brakeAt - marks.stopFrom))}
            nudge={(across, along) =>
              setTime(
                'ramp.brake',
                marks.brakeAt - marks.stopFrom + (across + along) * 0.005,
                Math.max(1e-6, marks.brakeAt - marks.stopFrom),
              )
            }
            {...handle}
          />
          <Handle
            x={x(marks.stopAt)}
            y={y(0)}
            label="Time to stop"
            value={`${shortNumber(marks.stopAt - marks.stopFrom)} s, ${stopsIn} ${unit}`}
            number={marks.stopAt - marks.stopFrom}
            drag={(px) => setTime('ramp.decelerate', x.invert(px) - marks.stopFrom, Math.max(1e-6, marks.stopAt - marks.stopFrom))}
            nudge={(across, along) =>
              setTime(
                'ramp.decelerate',
                marks.stopAt - marks.stopFrom + (across + along) * 0.005,
                Math.max(1e-6, marks.stopAt - marks.stopFrom),
              )
            }
            {...handle}
          />
        </svg>
      }
      outcomes={{ 'pace.sprintSpeed': [reach, stop] }}
      more={{ 'ramp.turnRate': matters('ramp.turnRate', tuning.parameters) && <TurnArc />, 'pace.sidewaysFactor': <FactorRose /> }}
    />
  );
}

/** A dragged value on steps that fit the drawing: a hundredth of its span or so, on a round number. */
function roundTo(value: number, span: number): number {
  const step = 10 ** Math.floor(Math.log10(span / 100));
  return Math.max(0, Math.round(value / step) * step);
}
