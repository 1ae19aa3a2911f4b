import { World } from '../../motion/world.ts';
import { Recorder } from '../../tape/recorder.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import { plainGround } from './plainGround.ts';

/** A click on open ground: speed along the path, and the body's place relative to the point. */
interface ClickRun {
  /** [distance travelled, speed] tick by tick. */
  speeds: [number, number][];
  /** Places about the destination over the last second. */
  around: [number, number][];
  arrived: boolean;
  seconds: number;
}

/** Seconds that a click is watched. */
const WATCHED = 4;

/** Clicks at a place `distance` away and runs the core. */
export function clickRun(parameters: Parameters, distance: number): ClickRun {
  const { clock, pace } = parameters;
  const start = { x: 5e5, y: 5e5, facing: 0 };
  const free: Parameters = {
    ...parameters,
    scheme: 'steer',
    bounds: { ...parameters.bounds, policy: 'none' },
    contact: { ...parameters.contact, response: 'none' },
    pace: { ...pace, autoRun: 'off', backwardFactor: 1, sidewaysFactor: 1 },
    route: { ...parameters.route, enabled: true, planner: 'straight', margin: 0 },
    clock: { ...clock, stepping: 'fixed' },
  };
  const world = new World(free, plainGround({ start }), 4);
  const recorder = new Recorder();
  const to = [start.x + distance, start.y + 0.4] as const;
  recorder.push({ point: to });
  recorder.push({ press: 'pointer' });
  recorder.push({ release: 'pointer' });
  const speeds: [number, number][] = [[0, 0]];
  const around: [number, number][] = [];
  const ticks = Math.min(1200, Math.ceil(WATCHED * clock.hz));
  let arrivedAt = -1;
  for (let tick = 0; tick < ticks; tick++) {
    world.tick(recorder.next());
    const { body } = world;
    if (arrivedAt < 0 && body.routeActive === 0) arrivedAt = tick;
    speeds.push([body.x - start.x, Math.sqrt(body.vx ** 2 + body.vy ** 2)]);
    if (Math.abs(body.x - to[0]) < distance * 0.5) around.push([body.x - to[0], body.y - to[1]]);
    if (arrivedAt >= 0 && body.vx === 0 && body.vy === 0) break;
  }
  return { speeds, around, arrived: arrivedAt >= 0, seconds: world.body.clockTime };
}
