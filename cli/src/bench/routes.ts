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
/** Ways asked for so that the engine has compiled both; then, on the ground laid out anew, the first ones and those after them. None is asked for twice. */
const WARMING = 2100;
const FIRST = 300;
const QUERIES = 600;
const BATCH = 300;

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
  const laidOut = () => {
    const navigator = new Navigator(parameters, ground, walls);
    const begun = performance.now();
    void navigator.mesh;
    setUp = Math.min(setUp, performance.now() - begun);
    return navigator;
  };
  for (let round = 0; round < 5; round++) laidOut();
  const open = Uint8Array.from(cells.join(''), (mark) => (mark === '.' ? 1 : 0));
  const plain = new PlainAstar(SIZE, open);
  const pairs: [number, number][] = [[0, SIZE * SIZE - 1]];
  while (pairs.length < WARMING + FIRST + QUERIES) {
    const pair: [number, number] = [Math.floor(next() * SIZE * SIZE), Math.floor(next() * SIZE * SIZE)];
    if (pair.every((cell) => open[cell])) pairs.push(pair);
  }
  const centre = (cell: number): [number, number] => [((cell % SIZE) + 0.5) * CELL, (Math.floor(cell / SIZE) + 0.5) * CELL];
  // As much room as a route keeps: the body, its skin and margin, and the hair that a mesh adds.
  const half = parameters.body.radius + parameters.contact.skin + parameters.route.margin + 1e-3;
  const compared: { milliseconds: number; ratio: number; isLonger: boolean }[] = [];
  let navigator = laidOut();
  for (let done = 0; done < pairs.length; done += BATCH) {
    if (done === WARMING) {
      navigator = laidOut();
      // The first way of all makes what the search keeps about the mesh.
      navigator.plan(...centre(0), ...centre(1));
    }
    // Turn and turn about, so that both have the machine as it is; not one by one, as each would find its memory taken up by the other.
    const batch = pairs.slice(done, done + BATCH);
    const ways = timed(batch, ([from, to]) => plain.find(from, to));
    const routes = timed(batch, ([from, to]) => navigator.plan(...centre(from), ...centre(to)));
    routes.forEach(({ found: route, milliseconds }, i) => {
      const way = ways[i];
      if (done < WARMING || !way?.found || !route?.reached) return;
      const isLonger = route.length > smoothed(way.found.map(centre), open, half) + 1e-6;
      compared.push({ milliseconds, ratio: way.milliseconds / milliseconds, isLonger });
    });
  }
  const [first, later] = [compared.slice(0, FIRST), compared.slice(FIRST)];
  const times = later.map(({ milliseconds }) => milliseconds);
  return [
    { name: 'route set-up, 256 × 256 cells, 400 blocks', figure: `${setUp.toFixed(0)} ms`, reach: 'reach < 150 ms' },
    { name: 'route, median', figure: `${(median(times) * 1000).toFixed(0)} µs`, reach: '' },
    {
      name: 'route against plain A*, median',
      figure: `${median(later.map(({ ratio }) => ratio)).toFixed(1)} × faster`,
      reach: 'reach 10 ×',
    },
    {
      name: `the first ${FIRST} on a new ground, median`,
      figure: `${median(first.map(({ ratio }) => ratio)).toFixed(1)} × faster`,
      reach: '',
    },
    { name: 'route, 99th percentile', figure: `${quantile(times, 0.99).toFixed(2)} ms`, reach: 'reach < 5 ms' },
    {
      name: 'routes longer than the smoothed way of A*',
      figure: `${compared.filter(({ isLonger }) => isLonger).length} of ${compared.length}`,
      reach: 'reach 0',
    },
  ];
}

function timed<T>(pairs: readonly [number, number][], find: (pair: [number, number]) => T): { found: T; milliseconds: number }[] {
  return pairs.map((pair) => {
    const begun = performance.now();
    const found = find(pair);
    return { found, milliseconds: performance.now() - begun };
  });
}

/** Length of a way over cells with every bend left out past which the cells are open: the usual smoothing by lines of sight. */
function smoothed(points: readonly [number, number][], open: Uint8Array, half: number): number {
  let length = 0;
  for (let at = 0; at < points.length - 1; ) {
    let end = points.length - 1;
    while (end > at + 1 && !isSeen(points[at] as [number, number], points[end] as [number, number], open, half)) end--;
    const [[ax, ay], [bx, by]] = [points[at], points[end]] as [[number, number], [number, number]];
    length += Math.hypot(bx - ax, by - ay);
    at = end;
  }
  return length;
}

/** Whether a body of half that width passes straight between two points: points along both of its sides and its middle lie in open cells. */
function isSeen([ax, ay]: [number, number], [bx, by]: [number, number], open: Uint8Array, half: number): boolean {
  const size = Math.hypot(bx - ax, by - ay);
  const [ux, uy] = [(bx - ax) / size, (by - ay) / size];
  for (let along = 0; along <= size; along += 2)
    for (const aside of [-half, 0, half]) {
      const [x, y] = [ax + ux * along - uy * aside, ay + uy * along + ux * aside];
      if (!open[Math.floor(y / CELL) * SIZE + Math.floor(x / CELL)]) return false;
    }
  return true;
}
