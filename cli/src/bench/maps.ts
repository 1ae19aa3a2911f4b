import { sequence } from './scenes.ts';

/** A map as rows of cells, `#` solid and `.` open, and the side of a cell in units. */
export interface BenchMap {
  name: string;
  cell: number;
  rows: string[];
}

type Grid = Uint8Array[];

const gridOf = (width: number, height: number, fill: number): Grid =>
  Array.from({ length: height }, () => new Uint8Array(width).fill(fill));
const rowsOf = (grid: Grid) => grid.map((row) => Array.from(row, (solid) => (solid ? '#' : '.')).join(''));

function fill(grid: Grid, x: number, y: number, width: number, height: number, solid: number): void {
  for (let row = y; row < y + height; row++) grid[row]?.fill(solid, Math.max(0, x), x + width);
}

/** Random blocks of 2 to 11 cells a side. */
export function blocks(): BenchMap {
  const next = sequence(12345);
  const grid = gridOf(256, 256, 0);
  for (let block = 0; block < 400; block++) {
    const [width, height] = [2 + Math.floor(next() * 10), 2 + Math.floor(next() * 10)];
    fill(grid, Math.floor(next() * (256 - width)), Math.floor(next() * (256 - height)), width, height, 1);
  }
  return { name: '256 × 256 cells, 400 blocks', cell: 32, rows: rowsOf(grid) };
}

/** Eight neighbours that are solid; beyond the border all is. */
function crowd(grid: Grid, x: number, y: number): number {
  let count = 0;
  for (let dy = -1; dy <= 1; dy++) for (let dx = -1; dx <= 1; dx++) if ((dx !== 0 || dy !== 0) && (grid[y + dy]?.[x + dx] ?? 1)) count++;
  return count;
}

/** Caves by a cellular automaton: noise, smoothed by the majority of the neighbours (Johnson, Yannakakis and Togelius 2010). */
export function caves(): BenchMap {
  const next = sequence(777);
  let grid = gridOf(200, 200, 0);
  for (const row of grid) for (let x = 0; x < row.length; x++) row[x] = next() < 0.43 ? 1 : 0;
  for (let round = 0; round < 4; round++) {
    const before = grid;
    grid = before.map((row, y) => row.map((solid, x) => (crowd(before, x, y) + solid >= 5 ? 1 : 0)));
  }
  return { name: '200 × 200 cells of caves', cell: 32, rows: rowsOf(grid) };
}

/** Ruins: many broken rings with jagged outlines about several centres. */
export function ruins(): BenchMap {
  const next = sequence(4242);
  const [width, height] = [193, 194];
  const grid = gridOf(width, height, 0);
  for (let centre = 0; centre < 14; centre++) {
    const [cx, cy] = [next() * width, next() * height];
    for (let radius = 5; radius < 34; radius += 5 + Math.floor(next() * 3)) {
      const doors = Array.from({ length: 3 }, () => next() * 2 * Math.PI);
      for (let step = 0; step < radius * 14; step++) {
        const angle = (step / (radius * 14)) * 2 * Math.PI;
        if (doors.some((door) => Math.abs(Math.sin((angle - door) / 2)) < 1.6 / radius)) continue;
        const reach = radius + (next() < 0.35 ? 1 : 0);
        const [x, y] = [Math.round(cx + Math.cos(angle) * reach), Math.round(cy + Math.sin(angle) * reach)];
        if (x >= 0 && y >= 0 && x < width && y < height && next() < 0.93) (grid[y] as Uint8Array)[x] = 1;
      }
    }
  }
  return { name: '193 × 194 cells of ruined rings', cell: 32, rows: rowsOf(grid) };
}

/** Rooms of 6 to 14 cells a side with a door in every wall between two. */
export function rooms(): BenchMap {
  const next = sequence(99);
  const size = 512;
  const grid = gridOf(size, size, 0);
  const lines = (): number[] => {
    const at = [0];
    while ((at.at(-1) as number) < size - 1) at.push(Math.min(size - 1, (at.at(-1) as number) + 7 + Math.floor(next() * 9)));
    return at;
  };
  const [across, down] = [lines(), lines()];
  for (const x of across) fill(grid, x, 0, 1, size, 1);
  for (const y of down) fill(grid, 0, y, size, 1, 1);
  const between = (low: number, high: number) => low + 1 + Math.floor(next() * Math.max(1, high - low - 3));
  for (let j = 0; j + 1 < down.length; j++)
    for (let i = 0; i + 1 < across.length; i++) {
      const [left, right, top, bottom] = [across[i], across[i + 1], down[j], down[j + 1]] as [number, number, number, number];
      if (i + 2 < across.length && next() < 0.8) fill(grid, right, between(top, bottom), 1, 2, 0);
      if (j + 2 < down.length && next() < 0.8) fill(grid, between(left, right), bottom, 2, 1, 0);
    }
  return { name: '512 × 512 cells of rooms with doors', cell: 32, rows: rowsOf(grid) };
}
