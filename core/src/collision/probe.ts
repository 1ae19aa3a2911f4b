import type { WallIndex } from '../ground/wallIndex.ts';
import { SLOP_SHARE } from './tolerance.ts';

/** A fraction from the start, so that the engine keeps the field as a double. */
const REAL = -0;

/**
 * A body that searches for walls: its outline (a circle or a level box about its centre), the displacement along which it searches, and its contact.
 * All state is in fields, so that a tick allocates nothing.
 */
export class Probe {
  readonly index: WallIndex;
  readonly circle: boolean;
  /** Half sides with the skin, unit; for a circle both are the radius. */
  readonly halfWidth: number;
  readonly halfHeight: number;
  /** Depth that counts as touching, unit. */
  readonly slop: number;
  /** The centre, and the displacement along which it is swept, unit. */
  x = REAL;
  y = REAL;
  dx = REAL;
  dy = REAL;
  /** How far its centre may move in the following searches, unit. */
  reach = REAL;
  /** The first contact: the fraction of the displacement until it, in [0, 1]; the wall's normal, towards the body; the wall's number, −1 for none. */
  time = REAL;
  normalX = REAL;
  normalY = REAL;
  wall = -1;
  /** The walls near by, in the order of their numbers: all that the body can touch while its centre is within the box. */
  near = new Int32Array(16);
  count = 0;
  left = Infinity;
  right = -Infinity;
  top = Infinity;
  bottom = -Infinity;
  /** Distance that the body may move from where walls were last collected before it can meet one; below 0 if it may not move. */
  room = REAL;
  /** The remaining fraction of a tick's time. */
  rest = REAL;
  /** A sidestep: out of a wall, or round a corner, and the fraction of the displacement left after it. */
  easeX = REAL;
  easeY = REAL;
  easeRest = REAL;

  constructor(index: WallIndex, circle: boolean, halfWidth: number, halfHeight: number) {
    this.index = index;
    this.circle = circle;
    this.halfWidth = halfWidth;
    this.halfHeight = halfHeight;
    this.slop = SLOP_SHARE * Math.max(halfWidth, halfHeight);
  }
}
