import { useStore } from '@nanostores/react';
import { CAMERA_PHASES, cameraLag, type Parameters, shortNumber, WATCHED_LAG } from '@zygopod/core';
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
const LEFT = 118;

/** How far the view lags over a start, a stop and a turn-round; and the view itself, turned and leaned, with its dead zone. */
export function CameraFigure({ number }: { number: number }) {
  const { editing } = useTuning();
  const { parameters } = useStore(editing.$tuning);
  return (
    <FigureFrame
      number={number}
      id="camera"
      drawing={
        <svg
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          className="w-full shrink-0 select-none"
          role="group"
          aria-label="The view, and its lag over time"
        >
          <ViewDrawing camera={parameters.camera} />
          <LagDrawing parameters={parameters} />
        </svg>
      }
    />
  );
}

const CX = 54;
const CY = 56;

/** The view on the ground: drag its upper side's knob to turn it, its corner to size it, the zone's side, the lean. */
function ViewDrawing({ camera }: { camera: Parameters['camera'] }) {
  const { editing } = useTuning();
  const [frozen, freeze] = useState<number | null>(null);
  const set = (path: string, value: number) => void putNumber(editing, path, value, path.split('.')[1] ?? path);
  const high = camera.viewHeight / Math.cos((camera.tilt * Math.PI) / 180);
  const scale = frozen ?? Math.min(72 / camera.viewWidth, 62 / high, 84 / Math.hypot(camera.viewWidth, high));
  const [w, h] = [(camera.viewWidth / 2) * scale, (high / 2) * scale];
  const radians = (camera.heading * Math.PI) / 180;
  const turned = (dx: number, dy: number): [number, number] => [
    CX + dx * Math.cos(radians) - dy * Math.sin(radians),
    CY + dx * Math.sin(radians) + dy * Math.cos(radians),
  ];
  /** A place of the drawing on the view's own axes. */
  const back = (px: number, py: number): [number, number] => [
    (px - CX) * Math.cos(radians) + (py - CY) * Math.sin(radians),
    (py - CY) * Math.cos(radians) - (px - CX) * Math.sin(radians),
  ];
  const knob = turned(0, -h - 10);
  const corner = turned(w, h);
  const zone = turned((camera.deadZoneWidth / 2) * scale, 0);
  const hold = { began: () => freeze(scale), ended: () => freeze(null) };
  return (
    <>
      <g transform={`rotate(${camera.heading} ${CX} ${CY})`}>
        <rect x={CX - w} y={CY - h} width={2 * w} height={2 * h} className="fill-sheet stroke-now" strokeDasharray="5 3" />
        <path d={`M${CX},${CY - h} v-6`} className="stroke-now" />
        {camera.follow === 'deadZone' && (
          <rect
            x={CX - (camera.deadZoneWidth / 2) * scale}
            y={CY - (camera.deadZoneHeight / 2) * scale}
            width={camera.deadZoneWidth * scale}
            height={camera.deadZoneHeight * scale}
            className="fill-now/10 stroke-ink-soft"
          />
        )}
      </g>
      <circle cx={CX} cy={CY} r="2.5" className="fill-ink" />
      <Handle
        x={knob[0]}
        y={knob[1]}
        label="Heading of the view"
        value={`${shortNumber(camera.heading)}°`}
        number={camera.heading}
        drag={(px, py) => set('camera.heading', Math.round((Math.atan2(py - CY, px - CX) * 180) / Math.PI + 90))}
        nudge={(across, up) => set('camera.heading', camera.heading + across + up)}
        {...hold}
      />
      <Handle
        x={corner[0]}
        y={corner[1]}
        label="Size of the view"
        value={`${shortNumber(camera.viewWidth)} × ${shortNumber(camera.viewHeight)}`}
        number={camera.viewWidth}
        drag={(px, py) => {
          const [dx, dy] = back(px, py);
          set('camera.viewWidth', Math.max(8, Math.round((2 * dx) / scale)));
          set('camera.viewHeight', Math.max(8, Math.round(((2 * dy) / scale) * Math.cos((camera.tilt * Math.PI) / 180))));
        }}
        nudge={(across, up) => {
          if (across) set('camera.viewWidth', camera.viewWidth + across);
          if (up) set('camera.viewHeight', camera.viewHeight - up);
        }}
        {...hold}
      />
      {camera.follow === 'deadZone' && (
        <Handle
          x={zone[0]}
          y={zone[1]}
          label="Width of the dead zone"
          value={shortNumber(camera.deadZoneWidth)}
          number={camera.deadZoneWidth}
          drag={(px, py) => set('camera.deadZoneWidth', Math.max(0, Math.round((2 * back(px, py)[0]) / scale)))}
          nudge={(across, up) => set('camera.deadZoneWidth', Math.max(0, camera.deadZoneWidth + across + up))}
          {...hold}
        />
      )}
      <Handle
        x={8}
        y={102 - camera.tilt}
        label="Tilt of the view"
        value={`${shortNumber(camera.tilt)}° from straight down`}
        number={camera.tilt}
        drag={(_px, py) => set('camera.tilt', Math.min(80, Math.max(0, Math.round(102 - py))))}
        nudge={(across, up) => set('camera.tilt', Math.min(80, Math.max(0, camera.tilt + across + up)))}
      />
      <text x="16" y="108" className="digits fill-ink-soft text-[10px]">
        {`${shortNumber(camera.heading)}° · tilt ${shortNumber(camera.tilt)}°`}
      </text>
    </>
  );
}

const relevant = (parameters: Parameters) => `${runKey(parameters)} ${JSON.stringify(parameters.camera)}`;

/** The body's lead over the middle of the view. The handle sets the steady lag at walk speed by the parameter of the follow mode. */
function LagDrawing({ parameters }: { parameters: Parameters }) {
  const { editing, drive } = useTuning();
  const before = useStore(editing.$beforeTuning).parameters;
  const { camera, pace, clock } = parameters;
  const [frozen, freeze] = useState<number | null>(null);
  const curve = useDrawn(relevant(parameters), () => cameraLag(parameters));
  const ghost = useDrawn(relevant(before), () => cameraLag(before));
  const natural = Math.max(4, ...[...curve, ...ghost].map(([, lag]) => Math.abs(lag))) * 1.2;
  const most = frozen ?? natural;
  const x = scaleLinear([0, WATCHED_LAG], [LEFT, WIDTH - 6]);
  const y = scaleLinear([-most, most], [HEIGHT - 18, 14]);
  const draw = line<[number, number]>(
    ([time]) => x(time),
    ([, lag]) => y(Math.max(-most, Math.min(most, lag))),
  );
  const steady = curve.find(([time]) => time >= CAMERA_PHASES.start - 1.5 / clock.hz)?.[1] ?? 0;
  const put = (path: string, value: number, digits: number) =>
    void putNumber(editing, path, Number(Math.max(0, value).toFixed(digits)), path.split('.')[1] ?? path);
  const setLag = (lag: number) => {
    const walk = Math.max(pace.walkSpeed, 1e-6);
    switch (camera.follow) {
      case 'smooth': {
        // A smooth view lags by v·dt·k/(1 − k), where k = 2^(−dt/halfLife) is kept of the lag in a tick.
        const kept = lag / (lag + walk / clock.hz);
        if (lag > 0) put('camera.halfLife', Math.max(0.001, -1 / clock.hz / Math.log2(kept)), 3);
        return;
      }
      case 'perTick':
        put('camera.perTick', Math.min(1, walk / clock.hz / Math.max(lag + walk / clock.hz, 1e-9)), 3);
        return;
      case 'deadZone':
        put('camera.deadZoneWidth', 2 * lag, 0);
        return;
      default:
        put('camera.lookAhead', -lag / walk, 2);
    }
  };
  return (
    <>
      <path d={`M${LEFT},6 V${HEIGHT - 16} M${LEFT},${y(0)} H${WIDTH - 4}`} className="fill-none stroke-ink" strokeWidth="1.1" />
      {[CAMERA_PHASES.start, CAMERA_PHASES.start + CAMERA_PHASES.stop].map((time) => (
        <line key={time} x1={x(time)} x2={x(time)} y1="16" y2={HEIGHT - 16} className="stroke-rule" strokeDasharray="2 3" />
      ))}
      {(
        [
          ['start', CAMERA_PHASES.start / 2],
          ['stop', CAMERA_PHASES.start + CAMERA_PHASES.stop / 2],
          ['back', CAMERA_PHASES.start + CAMERA_PHASES.stop + CAMERA_PHASES.back / 2],
        ] as const
      ).map(([name, time]) => (
        <text key={name} x={x(time)} y="12" textAnchor="middle" className="fill-ink-soft text-[10px]">
          {name}
        </text>
      ))}
      {relevant(parameters) !== relevant(before) && (
        <path d={draw(ghost) ?? ''} className="fill-none stroke-other" strokeDasharray="4 3" strokeWidth="1.3" />
      )}
      <path d={draw(curve) ?? ''} className="fill-none stroke-ink" strokeWidth="2" strokeLinejoin="round" />
      <text x={WIDTH - 6} y={HEIGHT - 4} textAnchor="end" className="digits fill-ink-soft text-[10px]">
        {camera.follow === 'none' ? 'stays' : `lags ${shortNumber(steady, 1)} ${drive.world.ground.unit}`}
      </text>
      {camera.follow !== 'none' && (
        <Handle
          x={x(CAMERA_PHASES.start)}
          y={y(Math.max(-most, Math.min(most, steady)))}
          label="Lag of the view at walk speed"
          value={`${shortNumber(steady, 1)} ${drive.world.ground.unit}`}
          number={steady}
          drag={(_px, py) => setLag(y.invert(py))}
          nudge={(across, up) => setLag(steady + across + up)}
          began={() => freeze(natural)}
          ended={() => freeze(null)}
        />
      )}
    </>
  );
}
