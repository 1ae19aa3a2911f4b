import type { Trace } from '../../motion/trace.ts';
import { bodySize } from '../../tuning/body.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import { GRAZES, type Metrics, metricKey } from '../metricSpecs.ts';
import { plainGround } from '../scenes/plainGround.ts';
import type { Drill, DrillLayout, Ran, Scene } from './drill.ts';
import { boxWall, cannotMove, lineWall, middleOf, openGround, START, walledGround } from './layout.ts';
import { distanceBetween, trembles } from './read.ts';
import { Script } from './script.ts';

const feelsNone = (parameters: Parameters): string | null =>
  cannotMove(parameters) ?? (parameters.contact.response === 'none' ? 'walls are not felt' : null);

/** Hands that go ahead all the while. */
function straightAhead(parameters: Parameters): Script {
  const script = new Script(parameters);
  return script.press(0, script.ahead);
}

/** Seconds after the rise in which the contact settles. */
const SETTLE = 0.1;

/** Seconds of sliding along a wall; the last of them are read. */
const SLIDING = 1.2;
const READ = 0.4;

/** Body widths of run-up before what is met. */
const RUN_UP = 2;

/** Seconds to cover a distance at full walking speed after the rise. */
const secondsTo = ({ rise, riseDistance, walk }: DrillLayout, distance: number): number =>
  rise + Math.max(0, distance - riseDistance) / walk;

/** The angles of walls that are needed. */
const grazesOf = ({ wanted }: DrillLayout): readonly number[] =>
  wanted ? GRAZES.filter((degrees) => wanted.has(metricKey('slideKept', degrees))) : GRAZES;

/**
 * Full speed against long walls at 5° to 85°. slideKept(θ): speed of the steady slide to that of the same time on open ground
 * (instant ramp: max(0, cos θ − wallFriction·sin θ); 1 with keepSpeed).
 */
export const wallGraze: Drill = {
  name: 'wall-graze',
  title: 'Wall graze',
  words: 'Runs at full speed against walls at 5° to 85°, and slides along them.',
  main: 'slideKept',
  at: 45,
  drawing: 'path',
  gives: GRAZES.map((degrees) => metricKey('slideKept', degrees)),
  unless: feelsNone,
  lay: (layout) => {
    const { parameters, width } = layout;
    const middle = middleOf(layout);
    const script = straightAhead(parameters);
    const walled = grazesOf(layout).map((degrees) => {
      const angle = (degrees * Math.PI) / 180;
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      // The wall crosses the body's path after so many widths, on the side that it leans to.
      const reach = width * RUN_UP + layout.riseDistance + width / (2 * Math.max(s, 0.05));
      const long = width * 4 + layout.walk * (SLIDING + 1) + 4 * reach;
      const at: [number, number] = [middle.x + reach, middle.y];
      const wall = lineWall([at[0] - c * long, at[1] - s * long], [at[0] + c * long, at[1] + s * long]);
      return { ground: walledGround([wall]), tape: script.tape(`Wall graze ${degrees}°`, secondsTo(layout, reach) + SLIDING) };
    });
    const longest = walled.reduce((most, { tape }) => Math.max(most, tape.ticks), 0);
    return [...walled, { ground: openGround(), tape: { ...script.tape('Open ground', 1), ticks: longest } }];
  },
  measure: (runs, layout) => {
    const open = runs.at(-1) as Ran;
    const metrics: Metrics = {};
    for (const [i, degrees] of grazesOf(layout).entries()) {
      const { trace } = runs[i] as Ran;
      const end = trace.at('time', trace.end - 1);
      const free = distanceBetween(open.trace, end - READ, end);
      if (free > 0) metrics[`slideKept(${degrees})`] = Math.min(1.5, distanceBetween(trace, end - READ, end) / free);
    }
    return metrics;
  },
};

/** Seconds of pressing into a corner, of which the last are read. */
const PRESSED = 1.2;

/** Into a square and an obtuse corner, along their middles. cornerTremble: peak-to-peak of the place over the last 0.4 s, the worse of the two. */
export const cornerPress: Drill = {
  name: 'corner-press',
  title: 'Corner press',
  words: 'Pushes straight into a square and an obtuse corner.',
  main: 'cornerTremble',
  drawing: 'path',
  gives: ['cornerTremble'],
  unless: feelsNone,
  lay: (layout) => {
    const { parameters, width } = layout;
    const middle = middleOf(layout);
    const script = straightAhead(parameters);
    return [45, 67.5].map((half) => {
      const angle = (half * Math.PI) / 180;
      const tip = width * 3 + layout.riseDistance;
      const long = 8 * width + 2 * tip;
      const arm = (sign: number): [number, number] => [middle.x + tip - Math.cos(angle) * long, middle.y + sign * Math.sin(angle) * long];
      const wall = lineWall(arm(-1), [middle.x + tip, middle.y], arm(1));
      return { ground: walledGround([wall]), tape: script.tape('Corner press', secondsTo(layout, tip) + PRESSED) };
    });
  },
  measure: (runs) => ({ cornerTremble: Math.max(...runs.map(({ trace }) => trembles(trace, READ))) }),
};

/** Widths of the gaps, as fractions of the body's width across: from wide to just too narrow. */
const GAPS = [2, 1.5, 1.25, 1.1, 1.05, 1.02, 1.01, 1.005, 1.002, 1, 0.98] as const;

/** True if a body is beyond the wall with the gap at the end of a trace. */
const isThrough = (trace: Trace, width: number): boolean => trace.at('x', trace.end - 1) - START.x > width * 4.5;

/** Straight at gaps in a wall, from wide to just too narrow. tightestGap: the narrowest that it comes through, as all wider ones. */
export const gapSeries: Drill = {
  name: 'gap-series',
  title: 'Gap series',
  words: 'Walks straight through gaps, from wide to slightly too narrow.',
  main: 'tightestGap',
  drawing: 'path',
  gives: ['tightestGap'],
  unless: feelsNone,
  lay: (layout) => {
    const { parameters, width, wanted, prepared } = layout;
    const middle = middleOf(layout);
    const across = bodySize(parameters.body).height;
    const script = straightAhead(parameters);
    const far = width * 3;
    return GAPS.map((share) => {
      const half = (across * share) / 2;
      const walls = () => [
        boxWall(middle.x + far, middle.y - 20 * width, middle.x + far + width, middle.y - half),
        boxWall(middle.x + far, middle.y + half, middle.x + far + width, middle.y + 20 * width),
      ];
      return {
        ground: prepared.ground('gap', [middle.x, middle.y, width, half], () => walledGround(walls())),
        tape: script.tape(`Gap of ${share}`, secondsTo(layout, far + 5 * width) + 0.5),
        // Nothing is beyond the wall that could turn it back.
        ...(wanted ? { until: (trace: Trace) => isThrough(trace, width) } : {}),
      };
    });
  },
  measure: (runs, { parameters, width }) => {
    const across = bodySize(parameters.body).height;
    const through = runs.map(({ trace }) => isThrough(trace, width));
    const last = through.indexOf(false) < 0 ? GAPS.length : through.indexOf(false);
    return { tightestGap: last === 0 ? undefined : across * (GAPS[last - 1] as number) };
  },
};

/** Cells of the row that is run along. */
const CELLS = 24;

/** Along a row of solid cells, pressed against it. seamCatches: how often the speed along it drops by more than 2 % of the fastest so far; a slide that gets going or is steady never does. */
export const seamRun: Drill = {
  name: 'seam-run',
  title: 'Seam run',
  words: 'Walks along a row of solid cells, pressed against them.',
  main: 'seamCatches',
  drawing: 'speed',
  gives: ['seamCatches'],
  unless: (parameters) =>
    feelsNone(parameters) ??
    (parameters.contact.response === 'stop' || parameters.scheme === 'turn' || parameters.input.directions === '4'
      ? 'it can’t slide in two directions at once'
      : null),
  lay: (layout): Scene[] => {
    const { parameters, width, rise, walk } = layout;
    const { height } = bodySize(parameters.body);
    const cell = Math.max(4, width);
    const rows = Math.ceil((height * 2) / cell) + 1;
    const cells = [...Array.from({ length: rows }, () => '.'.repeat(CELLS)), '#'.repeat(CELLS)];
    const { originX, originY } = parameters.body;
    const start = { x: cell + width * originX, y: rows * cell - height * (1 - originY) - 0.5, facing: 0 };
    const size = { width: cell * (CELLS + 4), height: cell * (rows + 3) };
    const seconds = rise + ((CELLS - 5) * cell) / walk;
    return [
      {
        ground: plainGround({ size, cell, cells, start }),
        tape: new Script(parameters).press(0, 'right', 'down').tape('Seam run', seconds),
      },
    ];
  },
  measure: ([ran], { rise }) => {
    const { trace } = ran as Ran;
    const from = Math.max(2, trace.rowAt(rise + SETTLE));
    const along = (row: number) => Math.abs(trace.at('vx', row));
    let fastest = 0;
    let [catches, isCaught] = [0, false];
    for (let row = from; row < trace.end; row++) {
      fastest = Math.max(fastest, along(row));
      const caught = along(row) < 0.98 * fastest;
      if (caught && !isCaught) catches++;
      isCaught = caught;
    }
    if (fastest === 0) catches = 1;
    return { seamCatches: catches };
  },
};

const sides = [
  { distance: 'right', axis: 'x', sign: 1 },
  { distance: 'left', axis: 'x', sign: -1 },
  { distance: 'down', axis: 'y', sign: 1 },
  { distance: 'up', axis: 'y', sign: -1 },
] as const;

/** Body widths of the frame's sides, and seconds of holding against an edge. */
const FRAME = 24;
const AGAINST = 1.5;

/**
 * Held against all four edges of a frame. edgeOvershoot: how far the body is beyond the limit at most. edgeTremble: peak-to-peak of the
 * place across the edge over the last 0.4 s of pressing against it; the worst of the sides.
 */
export const edgePress: Drill = {
  name: 'edge-press',
  title: 'Edges',
  words: 'Pushes against the edge on all four sides.',
  main: 'edgeOvershoot',
  drawing: 'path',
  gives: ['edgeOvershoot', 'edgeTremble'],
  unless: (parameters) => cannotMove(parameters) ?? (parameters.scheme === 'turn' ? 'it turns and goes' : null),
  lay: (layout) => {
    const { parameters, width } = layout;
    const side = FRAME * width;
    const frame = { x: 0, y: 0, width: side, height: side };
    const ground = layout.prepared.ground('edges', [side], () =>
      plainGround({ size: { width: side, height: side }, frame, start: { x: side / 2, y: side / 2, facing: 0 } }),
    );
    return sides
      .filter(({ axis }) => parameters.bounds.axes === 'both' || parameters.bounds.axes === axis)
      .map(({ distance }) => ({
        ground,
        tape: new Script(parameters).press(0, distance).tape(`Edge, ${distance}`, secondsTo(layout, side / 2) + AGAINST),
      }));
  },
  measure: (runs, { width }) => {
    const { body, bounds } = (runs[0] as Ran).world.parameters;
    const size = bodySize(body);
    const side = FRAME * width;
    let [over, tremble] = [0, 0];
    for (const [i, { axis, sign }] of sides.filter(({ axis }) => bounds.axes === 'both' || bounds.axes === axis).entries()) {
      const { trace } = runs[i] as Ran;
      const [long, origin] = axis === 'x' ? [size.width, body.originX] : [size.height, body.originY];
      const { top, right, bottom, left } = bounds.inset;
      const limit = axis === 'x' ? (sign > 0 ? side - right : left) : sign > 0 ? side - bottom : top;
      for (let row = trace.first; row < trace.end; row++) {
        const edge = trace.at(axis, row) + (sign > 0 ? (1 - origin) * long : -origin * long);
        over = Math.max(over, (edge - limit) * sign);
      }
      if (bounds.policy === 'clamp' || bounds.policy === 'push') tremble = Math.max(tremble, trembles(trace, READ));
    }
    return { edgeOvershoot: Math.max(0, over), edgeTremble: tremble };
  },
};
