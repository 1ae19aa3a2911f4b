import type { Ground } from '../ground/ground.ts';
import { solidTester } from '../ground/outlines.ts';
import type { WallIndex } from '../ground/wallIndex.ts';
import { bodySize, centreOffset } from '../tuning/body.ts';
import { type BodyParameters, type Limits, originLimits } from './limits.ts';
import { overlaps } from './overlap.ts';
import { Probe } from './probe.ts';
import { gather, sweep } from './sweep.ts';

/** A body on a ground: its free places and its limits. */
export interface PlacedBody {
  probe: Probe;
  ground: Ground;
  /** True if there are walls to meet. */
  felt: boolean;
  /** From the body's origin to its centre, unit. */
  centreX: number;
  centreY: number;
  /** Limits of its origin; infinite on a side without one. */
  limits: Limits;
}

const NO_LIMITS: Limits = { left: -Infinity, right: Infinity, top: -Infinity, bottom: Infinity };

/** The body of a tuning among the walls of a ground, with its skin and an additional `margin`. Only clamping edges hold it. */
export function placedBody(parameters: BodyParameters, ground: Ground, walls: WallIndex, margin = 0): PlacedBody {
  const { contact, body, bounds } = parameters;
  const { width, height } = bodySize(body);
  const offset = centreOffset(body);
  const room = contact.skin + margin;
  return {
    probe: new Probe(walls, body.shape === 'circle', width / 2 + room, height / 2 + room),
    ground,
    felt: contact.response !== 'none' && walls.segments.length > 0,
    centreX: offset.x,
    centreY: offset.y,
    limits: bounds.policy === 'clamp' ? originLimits(parameters, ground) : NO_LIMITS,
  };
}

/** Solid places of a ground, computed once for each. */
const testers = /* @__PURE__ */ new WeakMap<Ground, (x: number, y: number) => boolean>();

function isSolid(ground: Ground, x: number, y: number): boolean {
  let tester = testers.get(ground);
  if (!tester) {
    tester = solidTester(ground);
    testers.set(ground, tester);
  }
  return tester(x, y);
}

/** True if a body whose origin is at (x, y) is within its limits and clear of walls. */
export function isFree(body: PlacedBody, x: number, y: number): boolean {
  const { limits, probe } = body;
  if (x < limits.left || x > limits.right || y < limits.top || y > limits.bottom) return false;
  if (!body.felt) return true;
  probe.x = x + body.centreX;
  probe.y = y + body.centreY;
  return !overlaps(probe) && !isSolid(body.ground, probe.x, probe.y);
}

/** True if the straight line between two places of the origin is clear for the body. */
export function isClear(body: PlacedBody, fromX: number, fromY: number, toX: number, toY: number): boolean {
  if (!body.felt) return true;
  const { probe } = body;
  probe.x = fromX + body.centreX;
  probe.y = fromY + body.centreY;
  probe.dx = toX - fromX;
  probe.dy = toY - fromY;
  probe.reach = Math.sqrt(probe.dx * probe.dx + probe.dy * probe.dy);
  gather(probe);
  return !sweep(probe);
}
