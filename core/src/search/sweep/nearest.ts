import { MET, type Sweep } from './sweep.ts';

/**
 * The cell that meets all targets nearest to a place; null if none does. Places are indices on the axes, perhaps between cells; distances count
 * in shares of each axis's length, so that neither axis outweighs the other. Of equally near cells the first counts.
 */
export function nearestMet({ met, width, height }: Sweep, [x = 0, y = 0]: readonly number[]): number | null {
  let [nearest, least] = [-1, Infinity];
  for (let cell = 0; cell < met.length; cell++) {
    if (met[cell] !== MET) continue;
    const distance = (((cell % width) - x) / width) ** 2 + ((Math.floor(cell / width) - y) / height) ** 2;
    if (distance < least) [nearest, least] = [cell, distance];
  }
  return nearest < 0 ? null : nearest;
}
