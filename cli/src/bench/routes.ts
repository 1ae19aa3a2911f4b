import { bucketWalls, Navigator, newTuning, readGround, resolveTuning, WallIndex, withValue } from '@zygopod/core';
import { PlainAstar } from './plainAstar.ts';

export interface RouteMeasure {
  name: string;
  figure: string;
  reach: string;
}

const SIZE = 256;
const CELL = 32;
const BLOCKS = 400;
const QUERIES = 300;

/** Numbers in [0, 1) from a fixed sequence. */
function sequence(): () => number {
  let state = 12345;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

/** Cells with random blocks of 2 to 11 cells a side. */
function blocks(next: () => number): string[] {
  const grid = Array.from({ length: SIZE }, () => Array.from({ length: SIZE }, () => '.'));
  for (let block = 0; block < BLOCKS; block++) {
    const [w, h] = [2 + Math.floor(next() * 10), 2 + Math.floor(next() * 10)];
    const [x, y] = [Math.floor(next() * (SIZE - w)), Math.floor(next() * (SIZE - h))];
    for (let row = y; row < y + h; row++) for (let column = x; column < x + w; column++) (grid[row] as string[])[column] = '#';
  }
  (grid[0] as string[])[0] = '.';
  (grid[SIZE - 1] as string[])[SIZE - 1] = '.';
  return grid.map((row) => row.join(''));
}

const median = (values: number[]) => quantile(values, 0.5);
function quantile(values: number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] as number;
}

/** Routes from corner to corner and between random cells, against plain A* over the same cells in the same run. */
export function measureRoutes(): RouteMeasure[] {
  const next = sequence();
  const cells = blocks(next);
  const read = readGround({
    format: 'zygopod/ground',
    version: 1,
    name: 'Blocks',
    size: { width: SIZE * CELL, height: SIZE * CELL },
    cell: CELL,
    cells,
    start: { x: CELL / 2, y: CELL / 2 },
  });
  const tuning = resolveTuning(withValue(newTuning('Bench'), 'route.enabled', true));
  if (!read.ok || !tuning.ok) throw new Error('the bench has no ground');
  const ground = read.value;
  const { parameters } = tuning.value;
  const walls = new WallIndex(bucketWalls(ground));
  let setUp = Infinity;
  let navigator = new Navigator(parameters, ground, walls);
  for (let round = 0; round < 6; round++) {
    navigator = new Navigator(parameters, ground, walls);
    const begun = performance.now();
    void navigator.mesh;
    setUp = Math.min(setUp, performance.now() - begun);
  }
  const open = Uint8Array.from(cells.join(''), (mark) => (mark === '.' ? 1 : 0));
  const plain = new PlainAstar(SIZE, open);
  const pairs: [number, number][] = [[0, SIZE * SIZE - 1]];
  while (pairs.length < QUERIES) {
    const pair: [number, number] = [Math.floor(next() * SIZE * SIZE), Math.floor(next() * SIZE * SIZE)];
    if (pair.every((cell) => open[cell])) pairs.push(pair);
  }
  const centre = (cell: number): [number, number] => [((cell % SIZE) + 0.5) * CELL, (Math.floor(cell / SIZE) + 0.5) * CELL];
  const ratios: number[] = [];
  const times: number[] = [];
  let longer = 0;
  // The first round warms both up.
  for (let round = 0; round < 3; round++)
    for (const [from, to] of pairs) {
      const begun = performance.now();
      const way = plain.find(from, to);
      const between = performance.now();
      const route = navigator.plan(...centre(from), ...centre(to));
      const ended = performance.now();
      if (round === 0 || !way || !route?.reached) continue;
      ratios.push((between - begun) / (ended - between));
      times.push(ended - between);
      if (route.length > smoothed(way.map(centre), open) + 1e-6) longer++;
    }
  return [
    { name: 'route set-up, 256 × 256 cells, 400 blocks', figure: `${setUp.toFixed(0)} ms`, reach: 'reach < 150 ms' },
    { name: 'route against plain A*, median', figure: `${median(ratios).toFixed(1)} × faster`, reach: 'reach 10 ×' },
    { name: 'route, 99th percentile', figure: `${quantile(times, 0.99).toFixed(2)} ms`, reach: 'reach < 5 ms' },
    { name: 'routes longer than the smoothed way of A*', figure: `${longer} of ${ratios.length}`, reach: 'reach 0' },
  ];
}

/** Length of a way over cells with every bend left out past which the cells are open: the usual smoothing by lines of sight. */
function smoothed(points: readonly [number, number][], open: Uint8Array): number {
  let length = 0;
  for (let at = 0; at < points.length - 1; ) {
    let end = points.length - 1;
    while (end > at + 1 && !isSeen(points[at] as [number, number], points[end] as [number, number], open)) end--;
    const [[ax, ay], [bx, by]] = [points[at], points[end]] as [[number, number], [number, number]];
    length += Math.hypot(bx - ax, by - ay);
    at = end;
  }
  return length;
}

/** Half the width of the body with its margin, as the default tuning has it. */
const HALF = 14.02;

/** Whether a body passes straight between two points: points along both of its sides and its middle lie in open cells. */
function isSeen([ax, ay]: [number, number], [bx, by]: [number, number], open: Uint8Array): boolean {
  const size = Math.hypot(bx - ax, by - ay);
  const [ux, uy] = [(bx - ax) / size, (by - ay) / size];
  for (let along = 0; along <= size; along += 2)
    for (const aside of [-HALF, 0, HALF]) {
      const [x, y] = [ax + ux * along - uy * aside, ay + uy * along + ux * aside];
      if (!open[Math.floor(y / CELL) * SIZE + Math.floor(x / CELL)]) return false;
    }
  return true;
}
