import type { Ground, Wall } from '../../ground/ground.ts';
import { bodySize, centreOffset } from '../../tuning/body.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import { traceMetrics } from '../metrics.ts';
import { plainGround } from '../scenes/plainGround.ts';
import type { DrillLayout, Run } from './drill.ts';
import { Script } from './script.ts';

/** Where bodies start on open ground. */
export const START = { x: 5e5, y: 5e5, facing: 0 };

/** Seconds after which a body that is still accelerating is used as it is. */
const PATIENCE = 12;

/** The tuning as drills drive it: nothing holds the body except the drill's own objects, and directions are the ground's. */
export function bared(parameters: Parameters): Parameters {
  return {
    ...parameters,
    bounds: { ...parameters.bounds, policy: 'none' },
    input: { ...parameters.input, axes: 'both', relativeTo: 'screen' },
    clock: { ...parameters.clock, stepping: 'fixed' },
  };
}

/** Computes the layout of drills: drives a start on open ground for it. */
export function layoutOf(parameters: Parameters, run: Run, { wanted, prepared }: Pick<DrillLayout, 'wanted' | 'prepared'>): DrillLayout {
  const own = bared(parameters);
  const { width, height } = bodySize(own.body);
  const script = new Script(own);
  const from = { seconds: PATIENCE, distance: own.pace.walkSpeed * PATIENCE };
  let rise = from;
  if (own.pace.walkSpeed > 0 && own.scheme !== 'step')
    // Most are at speed within a second.
    for (const seconds of [1, PATIENCE]) {
      const { trace } = run({
        ground: openGround(),
        tape: script.press(0, script.ahead).tape('Start', seconds),
        parameters: own,
      });
      const { riseTime, riseDistance } = traceMetrics(trace, own);
      if (riseTime === undefined || riseDistance === undefined) continue;
      rise = { seconds: riseTime, distance: riseDistance };
      break;
    }
  return {
    parameters: own,
    hz: own.clock.hz,
    width: Math.max(width, height),
    walk: own.pace.walkSpeed,
    sprint: own.pace.sprintSpeed,
    rise: rise.seconds,
    riseDistance: rise.distance,
    wanted,
    prepared,
  };
}

const open = plainGround({ start: START });

export const openGround = (): Ground => open;

/** A ground with walls around the start, relative to the start and in unit. */
export const walledGround = (walls: readonly Wall[]): Ground =>
  plainGround({ start: START, walls: walls.map((wall) => movedBy(wall, START)) });

/** Moves a wall relative to a start to its place. */
export const movedBy = (wall: Wall, start: { x: number; y: number }): Wall => ({
  ...wall,
  points: wall.points.map(([x, y]) => [start.x + x, start.y + y] as [number, number]),
});

/** A closed wall as a box between two corners. */
export const boxWall = (x0: number, y0: number, x1: number, y1: number): Wall => ({
  points: [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ],
  closed: true,
  solid: true,
});

export const lineWall = (...points: [number, number][]): Wall => ({ points, closed: false, solid: true });

/** From the start to the middle of the body, unit. */
export const middleOf = ({ parameters }: DrillLayout): { x: number; y: number } => centreOffset(parameters.body);

/** The reason why a body cannot be driven at all, or not by a held direction. */
export const cannotMove = ({ pace, scheme }: Parameters): string | null =>
  pace.walkSpeed <= 0 ? 'the walk speed is 0' : scheme === 'step' ? 'it steps from cell to cell' : null;

/** Longest turn that is waited for, s. */
const LONGEST_TURN = 20;
/** Half a turn, degrees, and its tolerance. */
const HALF = 180;

/** Seconds in which half a turn comes to within a degree. */
export function turnSeconds({ facing, clock }: Parameters): number {
  const halvings = Math.log2(HALF);
  const seconds = {
    instant: 0,
    rate: HALF / facing.rate,
    smooth: halvings * facing.halfLife,
    perTick: facing.perTick >= 1 ? 1 / clock.hz : halvings / -Math.log2(1 - facing.perTick) / clock.hz,
  }[facing.turn];
  return Math.min(LONGEST_TURN, seconds);
}
