import {
  bucketWalls,
  type Ground,
  Navigator,
  Recorder,
  type Route,
  resolveTuning,
  type Tuning,
  WallIndex,
  World,
  withValue,
} from '@zygopod/core';
import { groundFile, tuningFile } from '../files.ts';
import { FINDING, GOOD, Misuse } from '../misuse.ts';

interface RouteOptions {
  tuning: string;
  ground: string;
  from: string;
  to: string;
  json?: boolean;
}

function place(option: string, text: string): [number, number] {
  const pair = text.split(',').map(Number);
  if (pair.length !== 2 || text.trim() === '' || !pair.every((value) => Number.isFinite(value) && Math.abs(value) <= 1e7))
    throw new Misuse(`--${option}: found ${text}, expected two numbers with a comma, as in 120,300`);
  return pair as [number, number];
}

/** Seconds after which a body that has not arrived is given up. */
const PATIENCE = 600;

/** Seconds that the path takes with this tuning, by walking it. Null if that does not end in time. */
function walkingTime(tuning: Tuning, ground: Ground, [x, y]: [number, number], to: [number, number]): number | null {
  const clicked = resolveTuning(withValue(withValue(tuning.file, 'route.enabled', true), 'scheme', 'steer'));
  if (!clicked.ok) return null;
  const world = new World(clicked.value.parameters, { ...ground, start: { ...ground.start, x, y } }, 4);
  const recorder = new Recorder();
  recorder.push({ point: to });
  recorder.push({ press: 'pointer' });
  world.tick(recorder.next());
  recorder.push({ release: 'pointer' });
  while (world.body.routeActive === 1 && world.body.clockTime < PATIENCE) world.tick(recorder.next());
  return world.body.clockTime < PATIENCE ? Number(world.body.clockTime.toFixed(4)) : null;
}

/** Plans a path: its points, its length, its walking time, the number of visited bends or cells. Exit 1 if the point is not reached. */
export function route(options: RouteOptions): number {
  const tuning = tuningFile(options.tuning);
  const ground = groundFile(options.ground);
  const [from, to] = [place('from', options.from), place('to', options.to)];
  const navigator = new Navigator(tuning.parameters, ground, new WallIndex(bucketWalls(ground)));
  const begun = performance.now();
  void navigator.mesh;
  const ready = performance.now();
  const found: Route | null = navigator.plan(...from, ...to);
  const milliseconds = Number((performance.now() - ready).toFixed(3));
  const answer = {
    reached: found?.reached ?? false,
    points: found?.points ?? [],
    length: found?.length ?? 0,
    seconds: found ? walkingTime(tuning, ground, from, to) : null,
    expanded: found?.expanded ?? 0,
    milliseconds,
    setUpMilliseconds: Number((ready - begun).toFixed(3)),
  };
  if (options.json) process.stdout.write(`${JSON.stringify(answer)}\n`);
  else if (!found) process.stdout.write('no path\n');
  else {
    const { points, length, seconds, expanded } = answer;
    process.stdout.write(
      `${found.reached ? 'reached' : 'not reached, the nearest place is taken'}: ${length.toFixed(2)} ${ground.unit} over ${points.length} points, ` +
        `${seconds === null ? 'never arrives' : `${seconds.toFixed(2)} s`}, ${expanded} visited, ${milliseconds} ms\n`,
    );
    for (const [x, y] of points) process.stdout.write(`${x.toFixed(3)}, ${y.toFixed(3)}\n`);
  }
  return answer.reached ? GOOD : FINDING;
}
