import { turnTo } from '../../math/angles.ts';
import type { Trace } from '../../motion/trace.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import { meetingIn } from '../crossing.ts';
import { speedLaw, turnLaw } from '../speedLaw.ts';
import type { Drill } from './drill.ts';
import { cannotMove, openGround, turnSeconds } from './layout.ts';
import { reaches, rowFrom } from './read.ts';
import { Script } from './script.ts';

const compass = [['right'], ['right', 'down'], ['down'], ['down', 'left'], ['left'], ['left', 'up'], ['up'], ['up', 'right']] as const;

/** Seconds that each of the eight is held beyond the rise and the turn. */
const HELD = 0.4;
/** Half a turn, degrees. */
const HALF = 180;

/** True if two keys held at once are a direction of their own. */
const hasDiagonals = ({ input }: Parameters) => input.directions !== '4' && input.axes === 'both';

const facesMovement = ({ facing }: Parameters) => facing.from !== 'pointer';

/** True if an angle is one that the nearest allowed direction to a wanted one could be: at the border of two sectors either is. */
function facesRight(faced: number, wanted: number, directions: Parameters['facing']['directions']): boolean {
  const count = directions === 'free' ? 360 : Number(directions);
  return Math.abs(turnTo(wanted, faced)) <= 180 / count + 1;
}

/**
 * Each of the eight directions from rest. diagonalRatio: fastest diagonal to fastest straight, steady. facingErrors: of the eight, those in which the
 * body faces another direction than the nearest that it can face (one that is still turning doesn't count).
 */
export const eightDirections: Drill = {
  name: 'eight-directions',
  title: 'Eight directions',
  words: 'Walks from rest in each of the eight directions, with keys.',
  main: 'diagonalRatio',
  drawing: 'path',
  gives: ['diagonalRatio', 'facingErrors'],
  lacks: (parameters) => ({
    ...(hasDiagonals(parameters) ? {} : { diagonalRatio: 'it has no diagonals' }),
    ...(facesMovement(parameters) ? {} : { facingErrors: 'it faces the pointer' }),
    ...(parameters.facing.directions === '2' ? { facingErrors: 'it faces only two directions' } : {}),
  }),
  unless: (parameters) => cannotMove(parameters) ?? (parameters.scheme === 'turn' ? 'it turns and drives' : null),
  lay: ({ parameters, rise }) =>
    compass.map((held) => ({
      ground: openGround(),
      tape: new Script(parameters).press(0, ...held).tape('Eight directions', rise + turnSeconds(parameters) + HELD),
    })),
  measure: (runs, { parameters }) => {
    const steady = runs.map(({ trace }) => trace.at('speed', trace.end - 1));
    const of = (isDiagonal: boolean) => Math.max(...steady.filter((_, i) => (i % 2 === 1) === isDiagonal));
    const errors = runs.filter(({ trace }, i) => {
      const [before, faced] = [trace.at('facing', trace.end - 2), trace.at('facing', trace.end - 1)];
      return before === faced && !facesRight(faced, i * 45, parameters.facing.directions);
    });
    return {
      diagonalRatio: hasDiagonals(parameters) && of(false) > 0 ? of(true) / of(false) : undefined,
      facingErrors: facesMovement(parameters) && parameters.facing.directions !== '2' ? errors.length : undefined,
    };
  },
};

/** Seconds that are watched after the turn, and those of holding a border. */
const WATCHED = 1.2;
const REST = 0.2;
const BORDER = 2;

/** The turn of the body: the smallest angle that is a turn for any number of directions. */
const turnOf = ({ facing }: Parameters) => (facing.directions === '2' ? 180 : 90);

/** True if the facing flips at once from one direction to the next where a stick trembles between them. */
const hasBorder = ({ facing, input }: Parameters) =>
  facing.directions !== 'free' && input.directions === 'free' && facing.turn === 'instant';

/** Halvings in which the moment of a turn is found inside its tick. */
const HALVINGS = 30;

/**
 * The share of a tick after which the velocity, on the line between its ends, has turned from `first` by an angle, degrees: at that moment a
 * facing that follows the movement at once takes the next of its directions.
 */
function turnsAfter(trace: Trace, row: number, first: number, angle: number): number {
  const at = (column: 'vx' | 'vy', share: number) => trace.at(column, row - 1) * (1 - share) + trace.at(column, row) * share;
  let [low, high] = [0, 1];
  for (let i = 0; i < HALVINGS; i++) {
    const middle = (low + high) / 2;
    const along = (Math.atan2(at('vy', middle), at('vx', middle)) * 180) / Math.PI;
    if (Math.abs(turnTo(first, along)) < angle) low = middle;
    else high = middle;
  }
  // An event inside the tick has the pace of the one before.
  const change = (to: number) => Math.hypot(trace.at('vx', to) - trace.at('vx', to - 1), trace.at('vy', to) - trace.at('vy', to - 1));
  const ends = row + 1 < trace.end && change(row + 1) < 1e-6 * change(row);
  return ends ? (high * change(row)) / Math.max(change(row), change(row - 1)) : high;
}

/** The angle (degrees) off the first direction at which a body faces the last one of a turn: that border, past its stickiness. */
function borderOf({ facing }: Parameters, turn: number): number {
  return facing.directions === 'free' ? 0.9 * turn : turn - 180 / Number(facing.directions) + facing.stickiness;
}

/**
 * The time (s) of a turn of the facing that was detected at `found`, from row `from` on: a facing that follows the movement at once turns when the
 * velocity passes the border of its directions, inside the tick.
 */
function momentOf(trace: Trace, from: number, found: number, parameters: Parameters): number {
  const { facing, ramp } = parameters;
  if (facing.from !== 'movement' || facing.turn !== 'instant' || ramp.model === 'instant') return found;
  const goal = turnOf(parameters);
  const gone = (row: number) => Math.abs(turnTo(trace.at('facing', from), trace.at('facing', row))) % 360;
  const row = trace.rowAt(found) + (gone(trace.rowAt(found)) < 0.9 * goal ? 1 : 0);
  const along = (Math.atan2(trace.at('vy', from), trace.at('vx', from)) * 180) / Math.PI;
  const t0 = trace.at('time', row - 1);
  const dt = trace.at('time', row) - t0;
  if (goal < HALF) return t0 + dt * turnsAfter(trace, row, along, borderOf(parameters, goal));
  // Straight back it turns where the speed passes zero.
  const [v0, v1] = [-trace.at('vx', row - 1), -trace.at('vx', row)];
  return t0 + dt * meetingIn({ before: null, v0, v1, limit: trace.at('target', row), dt }, 0, speedLaw(parameters)).share;
}

/**
 * The body faces one direction and turns to another. facingLag: from the tick that requests it until 90 % of the turn are done; 0 if it is done at
 * once. facingFlips: changes of facing per second with a stick that trembles by 2° on the border of two sectors.
 */
export const facingTurn: Drill = {
  name: 'facing-turn',
  title: 'Facing turn',
  words: 'Faces one direction, then another; then a stick trembles between two directions.',
  main: 'facingLag',
  drawing: 'facing',
  gives: ['facingLag', 'facingFlips'],
  lacks: (parameters) => (hasBorder(parameters) ? {} : { facingFlips: 'its facing has no borders that a stick could tremble on' }),
  unless: (parameters) =>
    cannotMove(parameters) ??
    (parameters.scheme === 'turn' ? 'it turns and drives' : facesMovement(parameters) ? null : 'it faces the pointer'),
  lay: ({ parameters, rise }) => {
    const script = new Script(parameters);
    const turn = 0.1 + rise + 0.2;
    script
      .press(0.1, 'right')
      .release(turn, 'right')
      .press(turn, turnOf(parameters) === 90 ? 'down' : 'left');
    const scenes = [
      { ground: openGround(), tape: script.tape('Facing turn', turn + rise + Math.max(WATCHED, turnSeconds(parameters) + REST)) },
    ];
    if (!hasBorder(parameters)) return scenes;
    const border = parameters.facing.directions === '2' ? 90 : 180 / Number(parameters.facing.directions);
    const trembling = new Script(parameters);
    for (let i = 0; i < BORDER * 20; i++) {
      const angle = ((border + (i % 2 === 0 ? 2 : -2)) * Math.PI) / 180;
      trembling.say(i / 20, { stick: [Math.cos(angle), Math.sin(angle)] });
    }
    return [...scenes, { ground: openGround(), tape: trembling.tape('On the border', BORDER) }];
  },
  measure: ([turned, border], { parameters, rise, hz }) => {
    const { trace } = turned as NonNullable<typeof turned>;
    const begun = Math.round((0.1 + rise + 0.2) * hz) / hz;
    const row = rowFrom(trace, begun);
    const first = trace.at('facing', row);
    const goal = turnOf(parameters);
    const gone = (at: number) => Math.abs(turnTo(first, trace.at('facing', at))) % 360;
    const time = reaches(trace, row, 0.9 * goal, gone, { limit: goal, law: turnLaw(parameters) });
    let flips: number | undefined;
    if (border) {
      const { trace: held } = border;
      flips = 0;
      // The first half second is the start.
      for (let at = rowFrom(held, 0.5) + 1; at < held.end; at++) if (held.at('facing', at) !== held.at('facing', at - 1)) flips++;
      flips /= BORDER - 0.5;
    }
    return { facingLag: time === null ? undefined : momentOf(trace, row, time, parameters) - begun, facingFlips: flips };
  },
};

/** Seconds between two swipes. */
const APART = 0.8;

/** Four swipes, one direction after the other. swipesTaken: those after which the body goes in that direction. */
export const swipeSequence: Drill = {
  name: 'swipe-sequence',
  title: 'Swipe sequence',
  words: 'Swipes right, down, left and up.',
  main: 'swipesTaken',
  drawing: 'path',
  gives: ['swipesTaken'],
  unless: (parameters) => cannotMove(parameters) ?? (parameters.scheme === 'latch' ? null : 'needs swipes'),
  lay: ({ parameters }) => {
    const script = new Script(parameters);
    for (const [i, swipe] of (['right', 'down', 'left', 'up'] as const).entries()) script.say(0.1 + i * APART, { swipe });
    return [{ ground: openGround(), tape: script.tape('Swipe sequence', 0.1 + 4 * APART) }];
  },
  measure: ([ran]) => {
    const { trace } = ran as NonNullable<typeof ran>;
    const taken = [0, 90, 180, 270].filter((angle, i) => {
      const [from, to] = [rowFrom(trace, 0.1 + i * APART), rowFrom(trace, 0.1 + (i + 1) * APART - 0.05)];
      const [dx, dy] = [trace.at('x', to) - trace.at('x', from), trace.at('y', to) - trace.at('y', from)];
      return (dx !== 0 || dy !== 0) && Math.abs(turnTo(angle, (Math.atan2(dy, dx) * 180) / Math.PI)) < 45;
    });
    return { swipesTaken: taken.length };
  },
};
