import { contours } from 'd3-contour';

/** A line of equal value, in cells from the upper left corner of the grid. */
export type Line = [number, number][];

/** A grid with one more cell on each side, as the cells at its edge go on, so that lines run straight over the edge. */
function padded(values: ArrayLike<number>, width: number, height: number): number[] {
  const at = (x: number, y: number) => values[y * width + x] as number;
  const held = (i: number, count: number) => Math.min(count - 1, Math.max(0, i));
  const grid: number[] = [];
  for (let y = -1; y <= height; y++)
    for (let x = -1; x <= width; x++) {
      const [ix, iy] = [held(x, width), held(y, height)];
      const edge = at(ix, iy);
      // As far beyond the edge as the cell before it is on this side of it.
      const [bx, by] = [held(2 * ix - x, width), held(2 * iy - y, height)];
      const on = 2 * edge - at(bx, by);
      grid.push(Number.isNaN(on) ? edge : on);
    }
  return grid;
}

/** Cells of a grid from which its lines are taken from every second one, or third, and so on: lines of so many cells take a frame. */
const MANY = 20_000;

/** A grid, or every so many cells of a large one, with the cells of the whole one for each of its own. */
export interface Thinned {
  values: ArrayLike<number>;
  width: number;
  height: number;
  step: number;
}

/** Leaves out cells of a large grid. */
export function thinned(values: ArrayLike<number>, width: number, height: number): Thinned {
  const step = Math.max(1, Math.ceil(Math.sqrt((width * height) / MANY)));
  if (step === 1) return { values, width, height, step };
  const [w, h] = [Math.ceil(width / step), Math.ceil(height / step)];
  const middle = (i: number, count: number) => Math.min(count - 1, i * step + (step >> 1));
  const few = Float64Array.from(
    { length: w * h },
    (_, cell) => values[middle(Math.floor(cell / w), height) * width + middle(cell % w, width)] as number,
  );
  return { values: few, width: w, height: h, step };
}

/** The regions of a grid in which values are at least so much, one for each level: rings in cells from the upper left corner, which reach beyond the grid. */
function regions(values: ArrayLike<number>, width: number, height: number, levels: readonly number[]): Line[][] {
  const found = contours()
    .size([width + 2, height + 2])
    .thresholds([...levels])(padded(values, width, height)) as unknown as { coordinates: number[][][][] }[];
  return found.map(({ coordinates }) => coordinates.flat().map((ring) => ring.map(([x = 0, y = 0]): [number, number] => [x - 1, y - 1])));
}

/** The lines of equal value of a grid by level. What lies beyond the grid is left out. */
export function contourLines(values: ArrayLike<number>, width: number, height: number, levels: readonly number[]): Line[][] {
  const isInside = ([x, y]: [number, number]) => x > 0 && y > 0 && x < width && y < height;
  return regions(values, width, height, levels).map((rings) =>
    rings.flatMap((ring) => {
      const lines: Line[] = [];
      let line: Line = [];
      for (const [i, point] of ring.entries()) {
        const before = ring[i - 1];
        if (before && !isInside(before) && !isInside(point)) {
          if (line.length > 1) lines.push(line);
          line = [];
        }
        line.push(point);
      }
      if (line.length > 1) lines.push(line);
      return lines;
    }),
  );
}

/** The outlines of where values are between two ends, as rings to be filled by the even-odd rule; they reach beyond the grid. */
export function bandRings(values: ArrayLike<number>, width: number, height: number, min: number, max: number): Line[] {
  const found = regions(values, width, height, [min, max].filter(Number.isFinite)).flat();
  const all: Line = [
    [-1, -1],
    [width + 1, -1],
    [width + 1, height + 1],
    [-1, height + 1],
    [-1, -1],
  ];
  // Without a lower end the whole grid is at least that much.
  return Number.isFinite(min) ? found : [all, ...found];
}

/** The outlines of the cells whose values are between two ends, one by one. */
export function cellRings(values: ArrayLike<number>, width: number, _height: number, min: number, max: number): Line[] {
  return Array.from(values).flatMap((value, cell): Line[] => {
    if (!(value >= min && value <= max)) return [];
    const [x, y] = [cell % width, Math.floor(cell / width)];
    return [
      [
        [x, y],
        [x + 1, y],
        [x + 1, y + 1],
        [x, y + 1],
        [x, y],
      ],
    ];
  });
}

/** A line as an SVG path, with so many pixels for a cell. */
export const pathText = (line: Line, sx: number, sy: number): string =>
  line.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${(x * sx).toFixed(1)},${(y * sy).toFixed(1)}`).join('');

/** The middle of the longest of some lines, where its value is written; null if all have fewer than `least` points. */
export function labelPlace(lines: readonly Line[], least: number): [number, number] | null {
  const longest = lines.reduce<Line>((most, line) => (line.length > most.length ? line : most), []);
  return longest.length < least ? null : (longest[Math.floor(longest.length / 2)] as [number, number]);
}
