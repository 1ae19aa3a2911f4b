import { useStore } from '@nanostores/react';
import { clickRun, Navigator, type Parameters, shortNumber } from '@zygopod/core';
import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { useState } from 'react';
import { Handle } from '../fields/Handle.tsx';
import { putNumber } from '../fields/model.ts';
import { useTuning } from '../tuning/context.ts';
import { FigureFrame } from './FigureFrame.tsx';
import { runKey, useDrawn } from './useDrawn.ts';

const WIDTH = 268;
const HEIGHT = 112;
const SPLIT = 164;
const BASE = HEIGHT - 16;

/** Speed along the path to a click, and the area around the point: the body stops on it, slides past or circles. */
export function ClicksFigure({ number }: { number: number }) {
  const { editing, drive } = useTuning();
  const { parameters } = useStore(editing.$tuning);
  const before = useStore(editing.$beforeTuning).parameters;
  const { route, pace } = parameters;
  const { unit } = drive.world.ground;
  // No whole number of ticks away, so that a body which circles does not hit the point by luck.
  const distance = Math.max(40, pace.walkSpeed * 1.2) + (0.37 * pace.walkSpeed) / parameters.clock.hz;
  const run = useDrawn(`${runKey(parameters)} ${distance}`, () => clickRun(parameters, distance));
  const ghost = useDrawn(`${runKey(before)} ${distance}`, () => clickRun(before, distance));
  const top = Math.max(pace.walkSpeed, ...[...run.speeds, ...ghost.speeds].map(([, speed]) => speed), 1e-3) * 1.15;
  const x = scaleLinear([0, distance * 1.15], [8, SPLIT - 8]);
  const y = scaleLinear([0, top], [BASE, 8]);
  const draw = line<[number, number]>(
    ([travelled]) => x(Math.min(travelled, distance * 1.15)),
    ([, speed]) => y(speed),
  );
  return (
    <FigureFrame
      number={number}
      id="clicks"
      drawing={
        <svg
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          className={`w-full shrink-0 select-none ${route.enabled ? '' : 'opacity-60'}`}
          role="group"
          aria-label="Speed along the path to a click, and the arrival"
        >
          <path d={`M8,4 V${BASE} H${SPLIT - 4}`} className="fill-none stroke-ink" strokeWidth="1.2" />
          <line x1={x(distance)} x2={x(distance)} y1="6" y2={BASE} className="stroke-route" strokeDasharray="2 3" />
          {runKey(parameters) !== runKey(before) && (
            <path d={draw(ghost.speeds) ?? ''} className="fill-none stroke-other" strokeDasharray="4 3" strokeWidth="1.3" />
          )}
          <path d={draw(run.speeds) ?? ''} className="fill-none stroke-ink" strokeWidth="2" strokeLinejoin="round" />
          <text x={SPLIT - 8} y={HEIGHT - 4} textAnchor="end" className="digits fill-ink-soft text-[10px]" data-testid="click-run">
            {run.arrived ? `there in ${shortNumber(run.seconds, 2)} s` : 'never arrives'}
          </text>
          <TapHandle tapTime={route.tapTime} />
          <Arrival run={run.around} parameters={parameters} unit={unit} />
        </svg>
      }
      more={{ 'route.enabled': <PlannerLengths /> }}
    />
  );
}

/** A short press on a line of half a second: what is shorter goes to the point, what is longer follows. */
function TapHandle({ tapTime }: { tapTime: number }) {
  const { editing } = useTuning();
  const x = scaleLinear([0, 0.6], [16, 66]).clamp(true);
  return (
    <>
      <line x1={x(0)} x2={x(0.6)} y1={HEIGHT - 7} y2={HEIGHT - 7} className="stroke-rule" strokeWidth="1.2" />
      <line x1={x(0)} x2={x(tapTime)} y1={HEIGHT - 7} y2={HEIGHT - 7} className="stroke-route" strokeWidth="3" />
      <Handle
        x={x(tapTime)}
        y={HEIGHT - 7}
        label="Longest tap"
        value={`${shortNumber(tapTime, 2)} s`}
        number={tapTime}
        drag={(px) => void putNumber(editing, 'route.tapTime', Number(x.invert(px).toFixed(2)), 'tap time')}
        nudge={(across, along) => void putNumber(editing, 'route.tapTime', Math.max(0, tapTime + (across + along) * 0.01), 'tap time')}
      />
    </>
  );
}

const CX = 216;
const CY = 50;
const R = 42;

/** The path near the point, enlarged, with draggable arrive and waypoint radii. */
function Arrival({ run, parameters, unit }: { run: readonly [number, number][]; parameters: Parameters; unit: string }) {
  const { editing } = useTuning();
  const { route, pace, clock } = parameters;
  const [frozen, freeze] = useState<number | null>(null);
  const travel = pace.walkSpeed / clock.hz;
  const span = frozen ?? Math.max(travel * 2.2, route.arriveRadius * 1.6, route.waypointRadius * 1.4, 4);
  const scale = R / span;
  const near = run.filter(([dx, dy]) => Math.abs(dx) < span && Math.abs(dy) < span);
  const path = near.map(([dx, dy], i) => `${i ? 'L' : 'M'}${CX + dx * scale},${CY + dy * scale}`).join('');
  const hold = { began: () => freeze(span), ended: () => freeze(null) };
  const set = (name: string, value: number) =>
    void putNumber(editing, name, Math.max(0, Math.round(value * 10) / 10), name.split('.')[1] ?? name);
  return (
    <>
      <clipPath id="arrival">
        <rect x={CX - R} y={CY - R} width={2 * R} height={2 * R} />
      </clipPath>
      <rect x={CX - R} y={CY - R} width={2 * R} height={2 * R} className="fill-sheet stroke-rule" />
      <circle cx={CX} cy={CY} r={route.waypointRadius * scale} className="fill-none stroke-ink-soft" strokeDasharray="2 3" />
      <circle cx={CX} cy={CY} r={route.arriveRadius * scale} className="fill-route/15 stroke-route" strokeWidth="1.4" />
      <g clipPath="url(#arrival)">
        <path d={path} className="fill-none stroke-ink" strokeWidth="1" />
        {near.map(([dx, dy], i) => (
          <circle key={i} cx={CX + dx * scale} cy={CY + dy * scale} r="1.6" className="fill-now" />
        ))}
      </g>
      <text x={CX} y={CY + R + 11} textAnchor="middle" className="digits fill-ink-soft text-[10px]">
        {`${shortNumber(travel, 1)} ${unit} a tick`}
      </text>
      <Handle
        x={CX + Math.min(R, route.arriveRadius * scale)}
        y={CY}
        label="Arrive radius"
        value={`${shortNumber(route.arriveRadius)} ${unit}`}
        number={route.arriveRadius}
        drag={(px) => set('route.arriveRadius', (px - CX) / scale)}
        nudge={(across, along) => set('route.arriveRadius', route.arriveRadius + (across + along) * 0.5)}
        {...hold}
      />
      <Handle
        x={CX}
        y={CY - Math.min(R, route.waypointRadius * scale)}
        label="Waypoint radius"
        value={`${shortNumber(route.waypointRadius)} ${unit}`}
        number={route.waypointRadius}
        drag={(_px, py) => set('route.waypointRadius', (CY - py) / scale)}
        nudge={(across, along) => set('route.waypointRadius', route.waypointRadius + (across + along) * 0.5)}
        {...hold}
      />
    </>
  );
}

const planners = ['straight', 'shortest', 'grid8', 'grid4'] as const;

/** The four planners on this ground, from the body to the goal: their lengths. Computed on request. */
function PlannerLengths() {
  const { editing, drive } = useTuning();
  const { parameters } = useStore(editing.$tuning);
  const [lines, setLines] = useState<readonly string[] | null>(null);
  const work = () => {
    const { ground, walls, body, navigator: present } = drive.world;
    const goal = body.routeActive === 1 ? { x: body.routeToX, y: body.routeToY } : ground.goal;
    if (!goal) {
      setLines(['This ground has no goal: click one first.']);
      return;
    }
    setLines(
      planners.map((planner) => {
        const navigator = new Navigator({ ...parameters, route: { ...parameters.route, planner } }, ground, walls);
        if (present.ready) navigator.take(present.mesh);
        const plan = navigator.plan(body.x, body.y, goal.x, goal.y);
        return `${planner.padEnd(9)} ${plan ? `${plan.length.toFixed(0)} ${ground.unit}` : 'no path'}`;
      }),
    );
  };
  return (
    <div className="border-t border-rule/60 py-[3px]">
      <button type="button" className="action text-xs" onClick={work}>
        Compare planners from here to the goal
      </button>
      {lines && (
        <ul className="digits text-[11px] text-ink-soft" data-testid="planner-lengths">
          {lines.map((words) => (
            <li key={words} className="whitespace-pre">
              {words}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
