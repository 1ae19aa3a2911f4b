import { newGround, Replay, type Tape, type Tuning, World } from '@zygopod/core';

/** What of a tick is compared: place, velocity, facing, stamina, gait and what happened. */
export const compared = ['x', 'y', 'vx', 'vy', 'facingAngle', 'gaitStamina', 'gaitIndex', 'happened'] as const;

/** The hands of each tick of a tape as numbers, and what the model makes of them where nothing is in the way. */
export function modelRun(tuning: Tuning, tape: Tape): { hands: number[][]; rows: number[][] } {
  const { parameters } = tuning;
  const ground = { ...newGround('Open'), size: { width: 1e6, height: 1e6 }, start: { x: 0, y: 0 } };
  const world = new World({ ...parameters, bounds: { ...parameters.bounds, policy: 'none' } }, ground, 10);
  const replay = new Replay(tape, parameters.clock.hz);
  const hands: number[][] = [];
  const rows: number[][] = [];
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
    rows.push(compared.map((field) => world.body[field] + 0));
  }
  return { hands, rows };
}
