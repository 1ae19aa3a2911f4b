import type { Mesh } from './mesh.ts';

/** A mesh by its sides, laid out for walking from polygon to polygon. */
export class SideTable {
  readonly mesh: Mesh;
  readonly twins: Int32Array;
  /** By side, the sides before and after it round its polygon. */
  readonly before: Int32Array;
  readonly after: Int32Array;
  /** By side: its beginning, and the corner there if a path can bend round it, else −1. */
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly bend: Int32Array;

  constructor(mesh: Mesh) {
    const { starts, corners } = mesh;
    this.mesh = mesh;
    this.twins = mesh.twins;
    this.before = new Int32Array(corners.length);
    this.after = new Int32Array(corners.length);
    for (let polygon = 0; polygon + 1 < starts.length; polygon++) {
      const [first, end] = [starts[polygon] as number, starts[polygon + 1] as number];
      for (let side = first; side < end; side++) {
        this.after[side] = side + 1 === end ? first : side + 1;
        this.before[side] = side === first ? end - 1 : side - 1;
      }
    }
    this.x = new Float64Array(corners.length);
    this.y = new Float64Array(corners.length);
    this.bend = new Int32Array(corners.length);
    for (let side = 0; side < corners.length; side++) {
      const corner = corners[side] as number;
      this.x[side] = mesh.x[corner] as number;
      this.y[side] = mesh.y[corner] as number;
      this.bend[side] = mesh.bends[corner] ? corner : -1;
    }
  }

  /** From a side that begins at a corner to the one that begins there in the next polygon round it, towards the left; −1 at a wall. */
  turn(side: number): number {
    return this.twins[this.before[side] as number] as number;
  }
}
