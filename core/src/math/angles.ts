/** The turn from one angle to another, degrees, in the shorter direction: in (−180, 180]. */
export function turnTo(from: number, to: number): number {
  const turn = (((to - from) % 360) + 540) % 360;
  return turn === 0 ? 180 : turn - 180;
}
