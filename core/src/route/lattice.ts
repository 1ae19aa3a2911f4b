/**
 * Twice the signed area of the triangle a, b, c: below 0 where it runs counter-clockwise with y upwards. Exact on the lattice of a mesh: coordinates are
 * whole numbers of at most 2²⁵, so that differences have 26 bits, their products 52, and the difference of two of these 53.
 */
export function orient(ax: number, ay: number, bx: number, by: number, cx: number, cy: number): number {
  return (ay - cy) * (bx - cx) - (ax - cx) * (by - cy);
}
