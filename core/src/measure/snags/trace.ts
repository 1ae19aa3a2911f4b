import type { Ground } from '../../ground/ground.ts';
import { turnTo } from '../../math/angles.ts';
import { significant } from '../../math/significant.ts';
import { CIRCLED, PLANTED, SENT, START_MOVED, STUCK, WRAPPED } from '../../motion/events.ts';
import type { Trace } from '../../motion/trace.ts';
import { DOWN, LEFT, RIGHT, UP } from '../../tape/controls.ts';
import { Replay } from '../../tape/replay.ts';
import type { Tape } from '../../tape/tape.ts';
import { bodySize } from '../../tuning/body.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import { firstRowWith } from '../eventRows.ts';
import type { Snag } from './snag.ts';

/** The input of a judgement: a trace with its tuning, ground and tape. */
export interface Judged {
  trace: Trace;
  parameters: Parameters;
  ground: Ground;
  /** The hands, where they are known. */
  tape?: Tape;
}

/** Seconds that a thing has to last, or within which it has to come again, to be one that a person sees. */
const LASTING = 0.3;
const WITHIN = 0.5;
/** Changes of mind within that time that are a flicker or a tremble. */
const CHANGES = 6;
/**
 * Fraction of the body by which a tick's distance may exceed the one that its speed explains; fraction by which a body that is held still may move.
 */
const JUMP = 0.5;
const SHAKE = 0.01;

const at = (trace: Trace, row: number) => ({ time: trace.at('time', row), place: { x: trace.at('x', row), y: trace.at('y', row) } });

/** The snags in a trace, each once, at its first occurrence. */
export function traceSnags(judged: Judged): Snag[] {
  return [circling, stuck, offScreen, trembling, facingWrongDirection, facingFlicker, popping, sprintOnEmpty, twoDevices].flatMap(
    (look) => {
      const snag = look(judged);
      return snag ? [snag] : [];
    },
  );
}

type Look = (judged: Judged) => Snag | null;

/** The first row for which a condition holds, and how long (s) it holds from there; null if it never lasts as long as required. */
function lasts({ trace }: Judged, seconds: number, holds: (row: number) => boolean): { row: number; seconds: number } | null {
  let since = -1;
  for (let row = trace.first + 1; row <= trace.end; row++) {
    if (row < trace.end && holds(row)) {
      if (since < 0) since = row;
      continue;
    }
    if (since < 0) continue;
    const length = trace.at('time', row - 1) - trace.at('time', since - 1);
    if (length >= seconds - 1e-9) return { row: since, seconds: length };
    since = -1;
  }
  return null;
}

const circling: Look = (judged) => {
  const row = firstRowWith(judged.trace, CIRCLED);
  if (row < 0) return null;
  const { trace, parameters } = judged;
  const evidence = `around the point for ${significant(parameters.route.stuckAfter)} s or more without getting nearer`;
  const mend =
    parameters.route.arrival === 'radiusOnly' ? { mend: { words: 'End on the point exactly', set: { 'route.arrival': 'exact' } } } : {};
  return { id: 'circling', severity: 'fault', path: 'route.arrival', evidence, ...at(trace, row), ...mend };
};

const stuck: Look = (judged) => {
  const row = firstRowWith(judged.trace, STUCK);
  if (row < 0) return null;
  const { trace, parameters } = judged;
  const mend =
    parameters.route.planner === 'straight' ? { mend: { words: 'Plan the shortest path', set: { 'route.planner': 'shortest' } } } : {};
  return {
    id: 'stuck',
    severity: 'fault',
    path: 'route.planner',
    evidence: `no progress for ${significant(parameters.route.stuckAfter)} s`,
    ...at(trace, row),
    ...mend,
  };
};

/** How far a body's outline is beyond a frame, unit. */
function beyond(
  trace: Trace,
  row: number,
  body: Parameters['body'],
  frame: { x: number; y: number; width: number; height: number },
): number {
  const { width, height } = bodySize(body);
  const left = trace.at('x', row) - body.originX * width;
  const top = trace.at('y', row) - body.originY * height;
  return Math.max(frame.x - left, left + width - frame.x - frame.width, frame.y - top, top + height - frame.y - frame.height);
}

const offScreen: Look = (judged) => {
  const { trace, parameters, ground } = judged;
  const { body, bounds } = parameters;
  // A body that wraps or is sent leaves visibly and on purpose; a view that follows has no screen to leave.
  if (bounds.policy === 'wrap' || bounds.policy === 'sendTo') return null;
  const { x, y, width, height } = bounds.frame === 'screen' && ground.frame ? ground.frame : { x: 0, y: 0, ...ground.size };
  // An inset below 0 lets the body out on purpose.
  const [top, right, bottom, left] = (['top', 'right', 'bottom', 'left'] as const).map((side) =>
    bounds.policy === 'none' ? 0 : Math.max(0, -bounds.inset[side]),
  ) as [number, number, number, number];
  const frame = { x: x - left, y: y - top, width: width + left + right, height: height + top + bottom };
  const slack = SHAKE * bodySize(body).width;
  const found = lasts(judged, 2 / parameters.clock.hz, (row) => beyond(trace, row, body, frame) > slack);
  if (!found) return null;
  let most = 0;
  for (let row = found.row; row < trace.end; row++) most = Math.max(most, beyond(trace, row, body, frame));
  const set = {
    ...(bounds.policy === 'none' && { 'bounds.policy': 'clamp' }),
    ...(bounds.measure === 'centre' && { 'bounds.measure': 'body' }),
    ...(bounds.axes !== 'both' && { 'bounds.axes': 'both' }),
  };
  const words = bounds.policy === 'none' || bounds.axes !== 'both' ? 'Hold it at the edge' : 'Keep the whole body inside';
  return {
    id: 'off-screen',
    severity: 'fault',
    path: bounds.policy === 'none' ? 'bounds.policy' : 'bounds.measure',
    evidence: `${significant(most)} ${ground.unit} beyond the edge`,
    ...at(trace, found.row),
    ...(Object.keys(set).length > 0 ? { mend: { words, set } } : {}),
  };
};

/** True if the hands ask for the same all the while in the rows of a stretch. */
const isSteady = (trace: Trace, from: number, to: number) => {
  for (let row = from + 1; row <= to; row++) if (Math.abs(trace.at('amount', row) - trace.at('amount', from)) > 0.05) return false;
  return true;
};

/** A body in contact that goes to and fro: many reversals of its motion within half a second, while the hands hold the same direction. */
const trembling: Look = (judged) => {
  const { trace, parameters } = judged;
  const least = SHAKE * bodySize(parameters.body).width;
  const turns: number[] = [];
  for (let row = trace.first + 2; row < trace.end; row++) {
    if (trace.at('contacts', row) === 0 && trace.at('contacts', row - 1) === 0) continue;
    const step = (column: 'x' | 'y', to: number) => trace.at(column, to) - trace.at(column, to - 1);
    const isTurn = (column: 'x' | 'y') => {
      const [before, now] = [step(column, row - 1), step(column, row)];
      return before * now < 0 && Math.min(Math.abs(before), Math.abs(now)) > least;
    };
    if (!isTurn('x') && !isTurn('y')) continue;
    turns.push(row);
    const first = turns.at(-CHANGES);
    if (first === undefined || trace.at('time', row) - trace.at('time', first) > WITHIN || !isSteady(trace, first, row)) continue;
    return {
      id: 'tremble',
      severity: 'fault',
      path: parameters.bounds.policy === 'push' ? 'bounds.push' : 'contact.response',
      evidence: `${CHANGES} times back and forth within ${significant(trace.at('time', row) - trace.at('time', first))} s`,
      ...at(trace, first),
    };
  }
  return null;
};

/** The directions that a facing can have: those of the tuning, with half a sector and its stickiness as slack. */
const facingSlack = ({ facing }: Parameters) =>
  (facing.directions === 'free' ? 5 : 180 / Number(facing.directions) + facing.stickiness) + 20;

/** The rows in which the feet are planted, as far as they still move: the facing is the pointer's then. */
function plantedRows(trace: Trace): Set<number> {
  const rows = new Set<number>();
  let isPlanted = false;
  for (let row = trace.first; row < trace.end; row++) {
    if (trace.at('events', row) & PLANTED) isPlanted = true;
    else if (trace.at('amount', row) > 0) isPlanted = false;
    if (isPlanted) rows.add(row);
  }
  return rows;
}

/**
 * True if a facing turns, however slowly, towards the motion's direction (degrees). Its nearest pose may be beyond that, by at most the slack: then
 * the shorter turn to the pose is the longer one to the motion.
 */
function isTurningTo(trace: Trace, row: number, heading: number, slack: number): boolean {
  const facing = trace.at('facing', row);
  const turned = turnTo(trace.at('facing', row - 1), facing);
  const left = (((heading - facing) * Math.sign(turned)) % 360) + 360;
  return turned !== 0 && left % 360 <= 180 + slack;
}

const facingWrongDirection: Look = (judged) => {
  const { trace, parameters } = judged;
  const { facing, scheme, pace } = parameters;
  if (facing.from !== 'movement' || scheme === 'turn' || facing.directions === '2' || pace.walkSpeed <= 0) return null;
  const slack = Math.max(60, facingSlack(parameters));
  const planted = plantedRows(trace);
  const found = lasts(judged, LASTING, (row) => {
    if (trace.at('speed', row) < 0.3 * pace.walkSpeed || trace.at('contacts', row) > 0 || planted.has(row)) return false;
    const heading = headingOf(trace, row);
    const off = Math.abs(turnTo(trace.at('facing', row), heading)) % 360;
    return off > slack && !isTurningTo(trace, row, heading, slack);
  });
  if (!found) return null;
  return {
    id: 'facing-wrong-way',
    severity: 'fault',
    path: facing.flip !== 'none' ? 'facing.flip' : 'facing.turn',
    evidence: `for ${significant(found.seconds)} s it faced more than ${significant(slack)}° off its direction`,
    ...at(trace, found.row),
    ...(facing.flip !== 'none' ? { mend: { words: 'Restore the sign', set: { 'facing.flip': 'none' } } } : {}),
  };
};

/** The angle (degrees) of the motion in a row. */
const headingOf = (trace: Trace, row: number) => (Math.atan2(trace.at('vy', row), trace.at('vx', row)) * 180) / Math.PI;

/** A facing that returns to its last direction, over and over, while the motion turns by much less: a real to and fro must be followed. */
const facingFlicker: Look = (judged) => {
  const { trace, parameters } = judged;
  // A step needs no other request.
  if (parameters.facing.directions === 'free' || parameters.scheme === 'step') return null;
  const changes: number[] = [];
  let lastRow = trace.first;
  let beforeLast = Number.NaN;
  for (let row = trace.first + 1; row < trace.end; row++) {
    const [before, facing] = [trace.at('facing', row - 1), trace.at('facing', row)];
    if (facing === before) continue;
    const isIntended = Math.abs(turnTo(headingOf(trace, lastRow), headingOf(trace, row))) % 360 > Math.abs(turnTo(before, facing)) / 2;
    if (facing === beforeLast && !isIntended) changes.push(row);
    else changes.length = 0;
    [beforeLast, lastRow] = [before, row];
    const first = changes.at(-CHANGES);
    if (first === undefined || trace.at('time', row) - trace.at('time', first) > 2 * WITHIN) continue;
    return {
      id: 'facing-flicker',
      severity: 'fault',
      path: 'facing.stickiness',
      evidence: `${CHANGES} flips within ${significant(trace.at('time', row) - trace.at('time', first))} s`,
      ...at(trace, first),
      ...(parameters.facing.stickiness < 10
        ? { mend: { words: 'Hold each direction longer', set: { 'facing.stickiness': parameters.facing.directions === '16' ? 5 : 10 } } }
        : {}),
    };
  }
  return null;
};

/** A tick's distance that neither its speed nor the one before explains. */
const popping: Look = ({ trace, parameters, ground }) => {
  if (parameters.scheme === 'step') return null;
  const { width, height } = bodySize(parameters.body);
  const least = JUMP * Math.min(width, height);
  for (let row = trace.first + 1; row < trace.end; row++) {
    if (trace.at('events', row) & (WRAPPED | SENT | START_MOVED)) continue;
    const [dx, dy] = [trace.at('x', row) - trace.at('x', row - 1), trace.at('y', row) - trace.at('y', row - 1)];
    const heading = Math.sqrt(dx * dx + dy * dy);
    const dt = trace.at('time', row) - trace.at('time', row - 1);
    const explained = Math.max(trace.at('speed', row), trace.at('speed', row - 1), trace.at('target', row)) * dt;
    if (heading <= explained + least) continue;
    return {
      id: 'pop',
      severity: 'risk',
      path: parameters.bounds.policy === 'push' ? 'bounds.push' : 'contact.response',
      evidence: `${significant(heading)} ${ground.unit} in one tick, its speed allows ${significant(explained)}`,
      ...at(trace, row),
    };
  }
  return null;
};

const sprintOnEmpty: Look = (judged) => {
  const { trace, parameters } = judged;
  if (!parameters.stamina.enabled) return null;
  const found = lasts(judged, 0.1, (row) => trace.at('sprintGiven', row) === 1 && trace.at('stamina', row) <= 0);
  if (!found) return null;
  return {
    id: 'sprint-on-empty',
    severity: 'fault',
    path: 'stamina.emptyEndsSprint',
    evidence: `sprints for ${significant(found.seconds)} s with stamina 0`,
    ...at(trace, found.row),
    ...(parameters.stamina.emptyEndsSprint ? {} : { mend: { words: 'End it when empty', set: { 'stamina.emptyEndsSprint': true } } }),
  };
};

/** Keys and a stick beyond its dead zone at once, in different directions. */
const twoDevices: Look = (judged) => {
  const { tape, parameters, trace } = judged;
  if (!tape || parameters.input.devices === 'larger') return null;
  const replay = new Replay(tape, parameters.clock.hz);
  const fights: boolean[] = [false];
  for (let tick = 0; tick < replay.ticks; tick++) {
    const { held, stickX, stickY } = replay.next();
    const stick = Math.sqrt(stickX * stickX + stickY * stickY);
    const isDown = (control: number) => Number((held[control] ?? 0) > 0);
    const [kx, ky] = [isDown(RIGHT) - isDown(LEFT), isDown(DOWN) - isDown(UP)];
    const length = Math.sqrt(kx * kx + ky * ky);
    fights.push(length > 0 && stick > parameters.input.deadZone && (kx * stickX + ky * stickY) / (length * stick) < 0.7);
  }
  const found = lasts(judged, 0.1, (row) => fights[row] ?? false);
  if (!found) return null;
  return {
    id: 'two-devices',
    severity: 'risk',
    path: 'input.devices',
    evidence: `for ${significant(found.seconds)} s keys and stick ask for different directions`,
    ...at(trace, found.row),
    mend: { words: 'Let the larger count', set: { 'input.devices': 'larger' } },
  };
};
