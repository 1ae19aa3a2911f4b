import { bucketWalls, type Ground, Navigator, newTuning, readGround, resolveTuning, WallIndex, withValue } from '@zygopod/core';
import { type BenchMap, blocks, caves, rooms, ruins } from './maps.ts';
import { PlainAstar } from './plainAstar.ts';
import { sequence } from './scenes.ts';
import type { Figure } from './ticks.ts';

/**
 * Requests for warming up, so that the engine has compiled both; then, on the ground prepared again, the first requests and the later ones. No
 * request repeats.
 */
const WARMING = 900;
const FIRST = 300;
const QUERIES = 600;
const BATCH = 300;

/** Limits of a map's figures. */
interface Reach {
  setUp: number;
  p99: number;
}

const median = (values: number[]) => quantile(values, 0.5);
function quantile(values: number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] as number;
}

/** Routes over random blocks and over maps as games have them. */
export function measureRoutes(): Figure[] {
  return [
    ...measureMap(blocks(), { setUp: 150, p99: 5 }),
    ...[caves(), ruins(), rooms()].flatMap((map) => measureMap(map, { setUp: 250, p99: 5 })),
  ];
}

function groundOf({ rows, cell }: BenchMap): Ground {
  const [columns, lines] = [(rows[0] as string).length, rows.length];
  const read = readGround({
    format: 'zygopod/ground',
    version: 1,
    name: 'Bench',
    size: { width: columns * cell, height: lines * cell },
    cell,
    cells: rows,
    start: { x: cell / 2, y: cell / 2 },
  });
  if (!read.ok) throw new Error('the bench has no ground');
  return read.value;
}

/** Routes between random cells, against plain A* over the same cells in the same run. */
function measureMap(map: BenchMap, reach: Reach): Figure[] {
  const next = sequence(31);
  const ground = groundOf(map);
  const { rows, cell } = map;
  const columns = (rows[0] as string).length;
  const tuning = resolveTuning(withValue(newTuning('Bench'), 'route.enabled', true));
  if (!tuning.ok) throw new Error('the bench has no tuning');
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
  const open = Uint8Array.from(rows.join(''), (mark) => (mark === '.' ? 1 : 0));
  const plain = new PlainAstar(columns, rows.length, open);
  const pairs: [number, number][] = [];
  while (pairs.length < WARMING + FIRST + QUERIES) {
    const pair: [number, number] = [Math.floor(next() * open.length), Math.floor(next() * open.length)];
    if (pair.every((at) => open[at])) pairs.push(pair);
  }
  const centre = (at: number): [number, number] => [((at % columns) + 0.5) * cell, (Math.floor(at / columns) + 0.5) * cell];
  // As much room as a route keeps: the body, its skin and margin, and the hair that a mesh adds.
  const half = parameters.body.radius + parameters.contact.skin + parameters.route.margin + 1e-3;
  const isOpen = (x: number, y: number) => open[Math.floor(y / cell) * columns + Math.floor(x / cell)] === 1;
  const compared: { milliseconds: number; ratio: number; isLonger: boolean }[] = [];
  let navigator = laidOut();
  for (let done = 0; done < pairs.length; done += BATCH) {
    if (done === WARMING) {
      navigator = laidOut();
      // The very first path builds the search's cached data of the mesh.
      navigator.plan(...centre(pairs[0]?.[0] ?? 0), ...centre(pairs[0]?.[1] ?? 1));
    }
    // Turn and turn about, so that both have the machine as it is; not one by one, as each would find its memory taken up by the other.
    const batch = pairs.slice(done, done + BATCH);
    const paths = timed(batch, ([from, to]) => plain.find(from, to));
    const routes = timed(batch, ([from, to]) => navigator.plan(...centre(from), ...centre(to)));
    routes.forEach(({ found: route, milliseconds }, i) => {
      const path = paths[i];
      if (done < WARMING || !path?.found || !route?.reached || route.squeezed) return;
      const isLonger = route.length > smoothed(path.found.map(centre), isOpen, half) + 1e-6;
      compared.push({ milliseconds, ratio: path.milliseconds / milliseconds, isLonger });
    });
  }
  const [first, later] = [compared.slice(0, FIRST), compared.slice(FIRST)];
  const times = later.map(({ milliseconds }) => milliseconds);
  return [
    { name: `routes, ${map.name}: set-up`, figure: `${setUp.toFixed(0)} ms`, reach: `reach < ${reach.setUp} ms` },
    {
      name: '  median, and against plain A*',
      figure: `${(median(times) * 1000).toFixed(0)} µs, ${median(later.map(({ ratio }) => ratio)).toFixed(1)} × faster`,
      reach: 'reach 10 ×',
    },
    { name: `  the first ${FIRST} on a new ground`, figure: `${median(first.map(({ ratio }) => ratio)).toFixed(1)} × faster`, reach: '' },
    { name: '  99th percentile', figure: `${quantile(times, 0.99).toFixed(2)} ms`, reach: `reach < ${reach.p99} ms` },
    {
      name: '  longer than the smoothed path of A*',
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

/** Length of a path over cells without the bends past which the cells are open: the usual smoothing by lines of sight. */
function smoothed(points: readonly [number, number][], isOpen: (x: number, y: number) => boolean, half: number): number {
  let length = 0;
  for (let at = 0; at < points.length - 1; ) {
    let end = points.length - 1;
    while (end > at + 1 && !isSeen(points[at] as [number, number], points[end] as [number, number], isOpen, half)) end--;
    const [[ax, ay], [bx, by]] = [points[at], points[end]] as [[number, number], [number, number]];
    length += Math.hypot(bx - ax, by - ay);
    at = end;
  }
  return length;
}

/** True if a body of half that width passes straight between two points: points along both of its sides and its middle lie in open cells. */
function isSeen([ax, ay]: [number, number], [bx, by]: [number, number], isOpen: (x: number, y: number) => boolean, half: number): boolean {
  const size = Math.hypot(bx - ax, by - ay);
  const [ux, uy] = [(bx - ax) / size, (by - ay) / size];
  for (let along = 0; along <= size; along += 2)
    for (const aside of [-half, 0, half]) {
      const [x, y] = [ax + ux * along - uy * aside, ay + uy * along + ux * aside];
      if (!isOpen(x, y)) return false;
    }
  return true;
}
