import { World } from '../../motion/world.ts';
import { Recorder } from '../../tape/recorder.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import { plainGround } from './plainGround.ts';

/** The turn of the facing in the drawing, degrees: a sector's middle for 8 and 16 directions. */
export const TURNED = 135;
/** Maximum seconds of the turn in the drawing. */
const LONGEST = 1.2;

/** Facing (degrees from 0) over time after the wish to face `TURNED`, until it is there. */
export function turnOverTime(parameters: Parameters): [number, number][] {
  const { clock, facing } = parameters;
  const free: Parameters = {
    ...parameters,
    scheme: 'steer',
    bounds: { ...parameters.bounds, policy: 'none' },
    contact: { ...parameters.contact, response: 'none' },
    input: { ...parameters.input, axes: 'both', directions: 'free', relativeTo: 'screen', deadZone: 0 },
    pace: { ...parameters.pace, autoRun: 'off' },
    facing: { ...facing, from: 'input', directions: 'free' },
    clock: { ...clock, stepping: 'fixed' },
  };
  const world = new World(free, plainGround(), 4);
  const recorder = new Recorder();
  const radians = (TURNED * Math.PI) / 180;
  recorder.push({ stick: [Math.cos(radians), Math.sin(radians)] });
  const curve: [number, number][] = [[0, 0]];
  for (let tick = 1; tick <= clock.hz * LONGEST; tick++) {
    world.tick(recorder.next());
    const angle = (world.body.facingAngle * 180) / Math.PI;
    curve.push([tick / clock.hz, angle < -1 ? angle + 360 : angle]);
    if (Math.abs(angle - TURNED) < 0.5) break;
  }
  return curve;
}

/** Seconds until a share of the turn is done, inside the tick; null when it is not within the time shown. */
export function turnedBy(curve: readonly [number, number][], share: number): number | null {
  const goal = TURNED * share;
  const after = curve.findIndex(([, angle]) => angle >= goal);
  if (after < 0) return null;
  const [t1, a1] = curve[after] as [number, number];
  const [t0, a0] = curve[Math.max(0, after - 1)] as [number, number];
  return a1 === a0 ? t1 : t0 + ((goal - a0) / (a1 - a0)) * (t1 - t0);
}

/** Seconds of right, no key and left in the camera's drawing. */
export const CAMERA_PHASES = { start: 1.1, stop: 0.9, back: 1.1 } as const;
export const WATCHED_LAG = CAMERA_PHASES.start + CAMERA_PHASES.stop + CAMERA_PHASES.back;

/** How far the body is ahead of the middle of the view (along x) over a start, a stop and a turn-round: [s, unit]. */
export function cameraLag(parameters: Parameters): [number, number][] {
  const { clock } = parameters;
  const free: Parameters = {
    ...parameters,
    scheme: 'steer',
    bounds: { ...parameters.bounds, policy: 'none' },
    contact: { ...parameters.contact, response: 'none' },
    input: { ...parameters.input, axes: 'both', relativeTo: 'screen' },
    pace: { ...parameters.pace, autoRun: 'off', backwardFactor: 1, sidewaysFactor: 1 },
    camera: { ...parameters.camera, keepInGround: false, heading: 0 },
    clock: { ...clock, stepping: 'fixed' },
  };
  const world = new World(free, plainGround(), 4);
  const recorder = new Recorder();
  const curve: [number, number][] = [[0, 0]];
  const run = (seconds: number) => {
    for (let tick = 0; tick < Math.round(seconds * clock.hz); tick++) {
      world.tick(recorder.next());
      curve.push([world.body.clockTime, world.body.x - world.body.cameraX]);
    }
  };
  recorder.push({ press: 'right' });
  run(CAMERA_PHASES.start);
  recorder.push({ release: 'right' });
  run(CAMERA_PHASES.stop);
  recorder.push({ press: 'left' });
  run(CAMERA_PHASES.back);
  return curve;
}
