import { type Ground, newGround, originLimits, Replay, type Tape, type Tuning, World } from '@zygopod/core';

/** The compared values of a tick: place, velocity, facing, stamina, gait and events. */
export const compared = ['x', 'y', 'vx', 'vy', 'facingAngle', 'gaitStamina', 'gaitIndex', 'happened'] as const;

/** The start of a run: the body's place, and the edges set for it. */
export const begun = ['x', 'y', 'edgeLeft', 'edgeRight', 'edgeTop', 'edgeBottom'] as const;

const open: Ground = { ...newGround('Open'), size: { width: 1e6, height: 1e6 }, start: { x: 0, y: 0 } };

/** Lets a world without obstacles plan straight paths; returns the paths planned since the last call, each once, as numbers. */
function listen(world: World, isOpen: boolean): () => number[] {
  const { navigator } = world;
  const work = navigator.plan.bind(navigator);
  const routes = new Map<string, number[]>();
  navigator.plan = (...ends) => {
    const [fromX, fromY, toX, toY] = ends;
    const points: [number, number][] = [
      [fromX, fromY],
      [toX, toY],
    ];
    const route = isOpen ? { points, length: 0, reached: true, squeezed: false, expanded: 0 } : work(...ends);
    const { reached, squeezed } = route ?? { reached: false, squeezed: false };
    const flat = route?.points.flat() ?? [];
    routes.set(ends.join(), [...ends, Number(route !== null), Number(reached), Number(squeezed), flat.length / 2, ...flat]);
    return route;
  };
  return () => {
    const all = [...routes.values()].flat();
    routes.clear();
    return all;
  };
}

/**
 * The hands of each tick of a tape as numbers, and the model's results: without obstacles and with straight paths, or on a ground; with the paths
 * planned in each tick. `begins` are the starts of runs, in the order of `begun`.
 */
export function modelRun(
  tuning: Tuning,
  tape: Tape,
  ground?: Ground,
): { hands: number[][]; rows: number[][]; begins: number[]; paths: number[][] } {
  const { parameters } = tuning;
  const world = ground
    ? new World(parameters, ground, 10)
    : new World({ ...parameters, bounds: { ...parameters.bounds, policy: 'none' } }, open, 10);
  const { left, right, top, bottom } = ground
    ? originLimits(parameters, ground)
    : { left: -1e300, right: 1e300, top: -1e300, bottom: 1e300 };
  // Not every language reads an endless number.
  const begins = [world.body.x, world.body.y, left, right, top, bottom].map((value) => Math.max(-1e300, Math.min(1e300, value)));
  const replay = new Replay(tape, parameters.clock.hz);
  const hands: number[][] = [];
  const rows: number[][] = [];
  const paths: number[][] = [];
  const planned = listen(world, !ground);
  while (replay.tick < replay.ticks) {
    const h = replay.next();
    // A tape begins with a body at its start.
    hands.push([
      replay.tick === 1 ? 1 : 0,
      ...h.held,
      ...h.order,
      h.pressed,
      h.stickX,
      h.stickY,
      h.pointX,
      h.pointY,
      h.swipe,
      h.spoke,
      Number(h.pointed),
      Number(h.changed),
    ]);
    world.tick(h);
    paths.push(planned());
    rows.push(compared.map((field) => world.body[field] + 0));
  }
  return { hands, rows, begins, paths };
}
