import type { Ground, Wall } from '../../ground/ground.ts';
import { turnTo } from '../../math/angles.ts';
import { ARRIVED, CIRCLED, STUCK } from '../../motion/events.ts';
import type { Trace } from '../../motion/trace.ts';
import { Navigator } from '../../route/navigator.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import { firstRowWith } from '../eventRows.ts';
import { plainGround } from '../scenes/plainGround.ts';
import { turnLaw } from '../speedLaw.ts';
import { arrivedAt } from './arrival.ts';
import type { Drill, DrillLayout, Ran } from './drill.ts';
import { boxWall, movedBy, turnSeconds } from './layout.ts';
import { distanceBetween, reaches, rowFrom } from './read.ts';
import { CLICK, Script } from './script.ts';

const noClicks = ({ route, scheme, pace }: Parameters): string | null =>
  !route.enabled
    ? 'needs click to go'
    : scheme === 'step'
      ? 'it steps from cell to cell'
      : pace.walkSpeed <= 0
        ? 'the walk speed is 0'
        : null;

/** Seconds after which a walk to a click is given up, and those that are watched after the time it should take. */
const PATIENCE = 2;

/** Second in which a place is clicked. */
const PRESSED = 0.05;

/** Places that are clicked, in body widths from the start: near, far, behind the wall, the body itself, in the wall. */
const places = {
  near: [1.5, 0.4],
  far: [-14, 9],
  behind: [12, 1],
  itself: [0, 0],
  inside: [6, 0],
} as const;
type PlaceName = keyof typeof places;
const names = Object.keys(places) as PlaceName[];

/** Half a side of the ground about the start, in body widths, beyond the walked area. */
const ROOM = 32;
/** Side of the cells for grid planners, in body widths; and their maximum number along a side. */
const CELL = 4 / 3;
const CELLS = 512;

/** Half the side of a ground on which so much is walked, unit: the start is in its middle. */
const middleOf = (width: number, reach = 0): number => reach + ROOM * width;

/** Grounds that were laid out last, by their sizes: tunings with one body share them, and what is prepared for them. */
const laid = new Map<string, Ground>();
const MOST_LAID = 16;

/** A ground around a start in its middle, perhaps with a wall between it and the place behind. */
function clickGround(width: number, reach = 0, isWalled = false): Ground {
  const key = `${width} ${reach} ${isWalled}`;
  const known = laid.get(key);
  if (known) return known;
  const ground = layOut(width, reach, isWalled ? [boxWall(5 * width, -5 * width, 7 * width, 4 * width)] : []);
  const [oldest] = laid.keys();
  if (laid.size >= MOST_LAID && oldest !== undefined) laid.delete(oldest);
  laid.set(key, ground);
  return ground;
}

function layOut(width: number, reach: number, walls: readonly Wall[]): Ground {
  const half = middleOf(width, reach);
  const start = { x: half, y: half, facing: 0 };
  const size = { width: 2 * half, height: 2 * half };
  return plainGround({ size, cell: Math.max(CELL * width, (2 * half) / CELLS), start, walls: walls.map((wall) => movedBy(wall, start)) });
}

/** Where a click is put, unit. */
const pointOf = (name: PlaceName, width: number): [number, number] => [
  middleOf(width) + places[name][0] * width,
  middleOf(width) + places[name][1] * width,
];

const tourGround = (width: number) => clickGround(width, 0, true);

/** Length of the shortest path to a point for the body, its margin included. */
function shortest({ parameters, width }: DrillLayout, to: readonly [number, number], world: Ran['world']): number {
  const plan = { ...parameters, route: { ...parameters.route, planner: 'shortest' as const } };
  const navigator = new Navigator(plan, tourGround(width), world.walls);
  if (world.navigator.ready && world.navigator.key === navigator.key) navigator.take(world.navigator.mesh);
  return navigator.plan(middleOf(width), middleOf(width), ...to)?.length ?? 0;
}

const at = (trace: Trace, row: number) => [trace.at('x', row), trace.at('y', row)] as const;
const apart = ([x, y]: readonly [number, number], [u, v]: readonly [number, number]) => Math.sqrt((x - u) ** 2 + (y - v) ** 2);

/**
 * Clicks near, far, behind a wall, on the body itself and into the wall. pathRatio: distance travelled to the shortest path, the worse of far and
 * behind. arriveError: distance from the point at the end, the worst of near, far and behind. arriveOvershoot: how far the body moves away from the
 * far point after it was nearest to it for the first time. arriveTime: from the end of the click, CLICK after its press, to the arrival at the far
 * point. stuckCount: walks that were given up.
 */
export const clickTour: Drill = {
  name: 'click-tour',
  title: 'Click tour',
  words: 'Clicks near, far, behind a wall, on the body itself and into the wall.',
  main: 'arriveOvershoot',
  drawing: 'path',
  gives: ['pathRatio', 'arriveError', 'arriveOvershoot', 'arriveTime', 'stuckCount'],
  unless: noClicks,
  lay: ({ parameters, width, walk, rise }) =>
    names.map((name) => {
      const [x, y] = pointOf(name, width);
      const long = (apart([0, 0], places[name]) * 2 + 10) * width;
      return {
        ground: tourGround(width),
        tape: new Script(parameters).click(PRESSED, x, y).tape(`Click ${name}`, long / walk + 2 * rise + PATIENCE),
      };
    }),
  measure: (runs, layout) => {
    const ran = Object.fromEntries(names.map((name, i) => [name, runs[i] as Ran])) as Record<PlaceName, Ran>;
    const error = (name: PlaceName) => {
      const { trace } = ran[name];
      return apart(at(trace, trace.end - 1), pointOf(name, layout.width));
    };
    const ratio = (name: PlaceName) => {
      const { trace, world } = ran[name];
      const path = shortest(layout, pointOf(name, layout.width), world);
      return path > 0 ? distanceBetween(trace, 0, Infinity) / path : 1;
    };
    const { trace: far } = ran.far;
    const goal = pointOf('far', layout.width);
    const arrived = firstRowWith(far, ARRIVED);
    const pressed = Math.round(PRESSED * layout.hz) / layout.hz;
    let [near, over] = [Infinity, 0];
    let isPast = false;
    for (let row = far.first; row < far.end; row++) {
      const away = apart(at(far, row), goal);
      if (away > near && near < layout.width) isPast = true;
      if (isPast) over = Math.max(over, away);
      near = Math.min(near, away);
    }
    return {
      pathRatio: Math.max(ratio('far'), ratio('behind')),
      arriveError: Math.max(error('near'), error('far'), error('behind')),
      arriveOvershoot: over,
      arriveTime: arrived < 0 ? undefined : arrivedAt(far, arrived, goal, layout.parameters) - pressed - CLICK,
      stuckCount: runs.filter(({ trace }) => firstRowWith(trace, STUCK | CIRCLED) >= 0).length,
    };
  },
};

/** Seconds of holding, and pointer events per second. */
const HOLDING = 4;
const SEEN = 30;

/** Where the held pointer is at a time: round a circle, at 0.6 of the walk speed. */
function pointerAt({ width, walk }: DrillLayout, time: number): [number, number] {
  const radius = 8 * width;
  const angle = (0.6 * walk * time) / radius;
  const middle = middleOf(width);
  return [middle + radius * Math.sin(angle), middle + radius * (1 - Math.cos(angle)) + 2 * width];
}

/** Holds the pointer and leads it round. followError: mean distance from it over the last second. */
export const holdAndFollow: Drill = {
  name: 'hold-and-follow',
  title: 'Hold and follow',
  words: 'Holds the pointer and leads it around a wide bend.',
  main: 'followError',
  drawing: 'path',
  gives: ['followError'],
  unless: noClicks,
  lay: (layout) => {
    const script = new Script(layout.parameters);
    for (let i = 0; i < HOLDING * SEEN; i++) script.say(i / SEEN, { point: pointerAt(layout, i / SEEN) });
    return [{ ground: clickGround(layout.width), tape: script.press(0.05, 'pointer').tape('Hold and follow', HOLDING) }];
  },
  measure: ([ran], layout) => {
    const { trace } = ran as Ran;
    let [sum, count] = [0, 0];
    for (let row = rowFrom(trace, HOLDING - 1); row < trace.end; row++) {
      sum += apart(at(trace, row), pointerAt(layout, trace.at('time', row)));
      count++;
    }
    return { followError: count > 0 ? sum / count : undefined };
  },
};

/** A click during a walk, at right angles, at full speed. reclickKept: the least speed in the half second after it, relative to walk. */
export const reclick: Drill = {
  name: 're-click',
  title: 'Click again at speed',
  words: 'Clicks to the right, then at full speed at right angles to it.',
  main: 'reclickKept',
  drawing: 'speed',
  gives: ['reclickKept'],
  unless: noClicks,
  lay: ({ parameters, width, walk, rise }) => {
    const again = 0.05 + rise + 0.3;
    const far = (again + 2) * walk + 6 * width;
    const middle = middleOf(width, far);
    const script = new Script(parameters).click(0.05, middle + far, middle).click(again, middle + walk * again, middle + far);
    return [{ ground: clickGround(width, far), tape: script.tape('Click again', again + 0.8) }];
  },
  measure: ([ran], { rise, walk }) => {
    const { trace } = ran as Ran;
    const again = 0.05 + rise + 0.3;
    let least = Infinity;
    for (let row = rowFrom(trace, again) + 1; row < trace.end && trace.at('time', row) <= again + 0.5; row++)
      least = Math.min(least, trace.at('speed', row));
    return { reclickKept: Number.isFinite(least) ? least / walk : undefined };
  },
};

/** Degrees that a planted body must turn, and the seconds for which it is observed. */
const TURN = 135;
const PLANTED = 1.2;
/** Body widths to the pointer that it turns to: so far that gliding does not change the angle by much. */
const AWAY = 400;
const REST = 0.2;
/** Distance between a turn's goal and its end: the pointer is aimed from a body that still glides. */
const NEARLY = 0.02;

/**
 * The body is planted during a walk to a click, and the pointer goes behind it. plantTurn: from the press of plant until 90 % of the turn are done.
 * plantDrift: the distance moved while planted, after the first fifth of a second.
 */
export const plant: Drill = {
  name: 'plant',
  title: 'Plant',
  words: 'Plants the body while it goes to a click, and turns it to the pointer.',
  main: 'plantTurn',
  drawing: 'facing',
  gives: ['plantTurn', 'plantDrift'],
  unless: noClicks,
  lay: ({ parameters, walk, rise, width }) => {
    const plantAt = 0.05 + rise + 0.2;
    const far = (plantAt + 4) * walk + 10 * width;
    const angle = (TURN * Math.PI) / 180;
    const middle = middleOf(width, far);
    const there: [number, number] = [middle + plantAt * walk + Math.cos(angle) * AWAY * width, middle + Math.sin(angle) * AWAY * width];
    const script = new Script(parameters)
      .click(0.05, middle + far, middle)
      .press(plantAt, 'plant')
      .say(plantAt, { point: there });
    return [{ ground: clickGround(width, far), tape: script.tape('Plant', plantAt + Math.max(PLANTED, turnSeconds(parameters) + REST)) }];
  },
  measure: ([ran], { rise, hz, parameters }) => {
    const { trace } = ran as Ran;
    const planted = Math.round((0.05 + rise + 0.2) * hz) / hz;
    const row = rowFrom(trace, planted);
    const [from, to] = [trace.at('facing', row), trace.at('facing', trace.end - 1)];
    const turn = Math.abs(turnTo(from, to)) % 360;
    if (turn < 1) return { plantDrift: distanceBetween(trace, planted + 0.2, Infinity) };
    const turned = (r: number) => Math.abs(turnTo(from, trace.at('facing', r))) % 360;
    const time = reaches(trace, row, 0.9 * turn, turned, { limit: turn, law: turnLaw(parameters), alike: NEARLY });
    return { plantTurn: time === null ? undefined : time - planted, plantDrift: distanceBetween(trace, planted + 0.2, Infinity) };
  },
};
