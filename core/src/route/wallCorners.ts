import type { SideTable } from './sideTable.ts';

/** How far (unit) behind the line of a wall something still counts as in front of it. */
const BEHIND = 1e-6;

/** A hand on which a wall lies, as a bit. */
export const LEFT = 1;
export const RIGHT = 2;

/** The corners of walls in a mesh round which a path can bend, with the sides of the wall there. */
export class WallCorners {
  /** By corner: the mesh's side that begins there along the wall, which then lies to the right; −1 if no path bends there. */
  readonly firstSide: Int32Array;
  /** By corner, four numbers: the direction on from the wall's side that ends there, and that along the one that begins there. */
  readonly turns: Float64Array;

  constructor({ mesh, twins, before, after, bend, x, y }: SideTable) {
    const count = mesh.x.length;
    this.firstSide = new Int32Array(count).fill(-1);
    this.turns = new Float64Array(count * 4);
    for (let side = 0; side < twins.length; side++) {
      const corner = bend[side] as number;
      if (corner === -1 || twins[side] !== -1) continue;
      // From polygon to polygon round the corner to the wall's side that ends there.
      let back = before[side] as number;
      while (twins[back] !== -1) back = before[twins[back] as number] as number;
      const end = after[side] as number;
      const onX = (x[side] as number) - (x[back] as number);
      const onY = (y[side] as number) - (y[back] as number);
      const alongX = (x[end] as number) - (x[side] as number);
      const alongY = (y[end] as number) - (y[side] as number);
      // Of several rooms that touch in the corner one alone is wider than half a turn.
      if (onX * alongY - onY * alongX >= 0) continue;
      this.firstSide[corner] = side;
      this.turns.set([onX, onY, alongX, alongY], corner * 4);
    }
  }

  /**
   * The hands on which the wall at a corner holds a path that comes or leaves in a direction (any length), as it would a taut string: between going
   * on from one of its sides and going along the other. Both where the path runs along a needle's end.
   */
  handsAt(corner: number, dx: number, dy: number): number {
    const at = corner * 4;
    const onX = this.turns[at] as number;
    const onY = this.turns[at + 1] as number;
    const alongX = this.turns[at + 2] as number;
    const alongY = this.turns[at + 3] as number;
    const on = onX * dy - onY * dx;
    const along = dx * alongY - dy * alongX;
    const isAsideOn = on * on > BEHIND * BEHIND * (onX * onX + onY * onY);
    const isAsideAlong = along * along > BEHIND * BEHIND * (alongX * alongX + alongY * alongY);
    const hasLeft = !((isAsideOn && on < 0) || (isAsideAlong && along < 0));
    const hasRight = !((isAsideOn && on > 0) || (isAsideAlong && along > 0));
    return (hasLeft ? LEFT : 0) + (hasRight ? RIGHT : 0);
  }
}
