import type { Ground } from '../ground/ground.ts';
import { isSolidAt } from '../ground/outlines.ts';
import type { WallIndex } from '../ground/wallIndex.ts';
import { cos, length, sin } from '../math/functions.ts';
import { bodySize, centreOffset } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { SLOP } from './sweep.ts';
import { gather, type SweptBody } from './sweptBody.ts';

/** Times that a body which overlaps walls is pushed out in one tick. */
const PUSHES = 4;

/** The place that `separate` comes to. */
export const out = { x: 0, y: 0 };

/** Pushes a body that overlaps walls (it has grown, or was put there) out of them; true when it did, with the place in `out`. */
export function separate(p: SweptBody, x: number, y: number): boolean {
  out.x = x;
  out.y = y;
  const { segments, found, count } = p.walls;
  let moved = false;
  for (let push = 0; push < PUSHES; push++) {
    let again = false;
    for (let i = 0; i < count; i++) if (pushOut(p, segments, (found[i] as number) * 4)) again = true;
    if (!again) return moved;
    moved = true;
  }
  return moved;
}

/** Pushes `out` from one segment, if it overlaps it by more than rounding. */
function pushOut(p: SweptBody, segments: Float64Array, i: number): boolean {
  const ax = segments[i] as number;
  const ay = segments[i + 1] as number;
  const ex = (segments[i + 2] as number) - ax;
  const ey = (segments[i + 3] as number) - ay;
  const size = ex * ex + ey * ey;
  const share = Math.max(0, Math.min(1, ((out.x - ax) * ex + (out.y - ay) * ey) / size));
  const fx = out.x - ax - ex * share;
  const fy = out.y - ay - ey * share;
  if (p.circle) {
    const distance = length(fx, fy);
    if (distance >= p.halfWidth - 2 * SLOP || distance === 0) return false;
    out.x += (fx / distance) * (p.halfWidth - distance);
    out.y += (fy / distance) * (p.halfWidth - distance);
    return true;
  }
  // The box against the nearest point of the segment, out by the shorter way.
  const overX = p.halfWidth - (fx < 0 ? -fx : fx);
  const overY = p.halfHeight - (fy < 0 ? -fy : fy);
  if (overX <= 2 * SLOP || overY <= 2 * SLOP) return false;
  if (overX < overY) out.x += fx < 0 ? -overX : overX;
  else out.y += fy < 0 ? -overY : overY;
  return true;
}

/** A body on a ground: what is needed to find it a place. */
export interface PlacedBody extends SweptBody {
  ground: Ground;
  felt: boolean;
  /** From the body's origin to its centre. */
  centreX: number;
  centreY: number;
}

/** The body of a tuning among the walls of a ground, with its skin and with `margin` more. */
export function placedBody({ contact, body }: Parameters, ground: Ground, walls: WallIndex, margin = 0): PlacedBody {
  const { width, height } = bodySize(body);
  const offset = centreOffset(body);
  return {
    walls,
    ground,
    felt: contact.response !== 'none' && walls.segments.length > 0,
    circle: body.shape === 'circle',
    halfWidth: width / 2 + contact.skin + margin,
    halfHeight: height / 2 + contact.skin + margin,
    centreX: offset.x,
    centreY: offset.y,
  };
}

/** Rings searched for a free place, and directions on each. */
const RINGS = 400;
const SPOKES = 48;

/**
 * Where a body can start: its place, or, when that lies inside a wall or too close to one, the nearest free place of the
 * rings around it. Null where there is none within the ground's length.
 */
export function freePlace(p: PlacedBody, x: number, y: number): { x: number; y: number } | null {
  if (!p.felt || isFree(p, x, y)) return { x, y };
  const step = Math.max(p.halfWidth, p.halfHeight) / 4;
  for (let ring = 1; ring <= RINGS; ring++)
    for (let spoke = 0; spoke < SPOKES; spoke++) {
      const angle = (spoke * 2 * Math.PI) / SPOKES;
      const at = { x: x + cos(angle) * ring * step, y: y + sin(angle) * ring * step };
      const inGround = at.x >= 0 && at.y >= 0 && at.x <= p.ground.size.width && at.y <= p.ground.size.height;
      if (inGround && isFree(p, at.x, at.y)) return at;
    }
  return null;
}

export function isFree(p: PlacedBody, x: number, y: number): boolean {
  const cx = x + p.centreX;
  const cy = y + p.centreY;
  if (isSolidAt(p.ground, cx, cy)) return false;
  gather(p, cx, cy, 0);
  return !separate(p, cx, cy);
}
