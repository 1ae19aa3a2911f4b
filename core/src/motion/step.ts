import { type Limits, originLimits } from '../collision/limits.ts';
import type { PlacedBody } from '../collision/overlap.ts';
import { placedBody } from '../collision/overlap.ts';
import { gather, sweep } from '../collision/sweptBody.ts';
import type { Ground } from '../ground/ground.ts';
import type { WallIndex } from '../ground/wallIndex.ts';
import { length } from '../math/functions.ts';
import { DOWN, LEFT, RIGHT, UP } from '../tape/controls.ts';
import type { Hands } from '../tape/hands.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { BUMPED } from './events.ts';
import type { ClockState, IntentState, Motion, StepState } from './slices.ts';

export interface StepParameters {
  cell: number;
  time: number;
  smooth: boolean;
  buffer: number;
  turnTime: number;
  diagonals: boolean;
  scaled: boolean;
  bumpTime: number;
  repeats: boolean;
  /** The body without its skin: one as wide as the cell fits between walls. */
  body: PlacedBody;
  limits: Limits;
  bounded: boolean;
}

export const AT_REST = 0;
export const TURNING = 1;
export const STEPPING = 2;
export const BUMPING = 3;

export function prepareStep(parameters: Parameters, ground: Ground, walls: WallIndex): StepParameters {
  const { step, bounds, contact } = parameters;
  return {
    cell: step.cell,
    time: step.time,
    smooth: step.ease === 'smooth',
    buffer: step.buffer,
    turnTime: step.turnTime,
    diagonals: step.diagonals,
    scaled: step.diagonalTime === 'scaled',
    bumpTime: step.bumpTime,
    repeats: step.repeat,
    body: placedBody(parameters, ground, walls, -contact.skin),
    limits: originLimits(parameters, ground),
    bounded: bounds.policy === 'clamp' || bounds.policy === 'push',
  };
}

/** A phase is over within this much (s) of its end: sixty ticks of 1/60 s are a second. */
const SLACK = 1e-9;

/**
 * Steps from cell centre to cell centre, each in just its time: what is left of a tick goes into the next step, so N steps take N
 * times as long at any tick rate, and a step ends exactly on its centre. Sets the body's place itself; there is no ramp and no contact.
 */
export function stepGrid(state: StepState, p: StepParameters, motion: Motion, intent: IntentState, hands: Hands, clock: ClockState): void {
  state.happened = 0;
  const { dt } = clock;
  const [fromX, fromY] = [motion.x, motion.y];
  const pressed = pressedWays(hands);
  if (pressed !== 0) hear(state, p, intent, pressed);
  let left = dt;
  // At rest a step begins with the tick in which it is asked for; each round ends a phase or the tick.
  for (let round = 0; round < 64; round++) {
    if (state.phase === AT_REST && !beginNext(state, p, motion, intent, round === 0 ? pressed : 0)) break;
    const rest = state.duration - state.time;
    if (rest > left + SLACK) {
      state.time += left;
      break;
    }
    left = Math.max(0, left - Math.max(0, rest));
    endPhase(state, p, motion);
    if (left <= SLACK && state.phase === AT_REST && p.time > 0 && !wantsMore(state, p, intent)) break;
    if (p.time === 0 && state.phase === AT_REST) break;
  }
  place(state, p, motion);
  motion.dx = 0;
  motion.dy = 0;
  motion.vx = (motion.x - fromX) / dt;
  motion.vy = (motion.y - fromY) / dt;
  state.amount = state.phase === STEPPING ? 1 : 0;
  clock.blocked = state.phase === BUMPING ? 1 : 0;
}

/** Which of the four ways went down this tick, as bits. */
function pressedWays(hands: Hands): number {
  return hands.pressed & ((1 << UP) | (1 << DOWN) | (1 << LEFT) | (1 << RIGHT));
}

/** The way that the hands ask for, −1, 0 or 1 on each axis: both axes only with diagonals, else the larger or the newest. */
function askedWay(p: StepParameters, intent: IntentState, pressed: number): [number, number] {
  let [x, y] = [intent.x, intent.y];
  if (x === 0 && y === 0 && pressed !== 0) {
    // A press that was let go within the tick counts all the same.
    x = bit(pressed, RIGHT) - bit(pressed, LEFT);
    y = bit(pressed, DOWN) - bit(pressed, UP);
  }
  const [across, down] = [x < 0 ? -x : x, y < 0 ? -y : y];
  if (across < 0.3 && down < 0.3) return [0, 0];
  if (p.diagonals && across > 0.3 && down > 0.3) return [Math.sign(x), Math.sign(y)];
  return across >= down ? [Math.sign(x), 0] : [0, Math.sign(y)];
}

function bit(bits: number, control: number): number {
  return (bits >> control) & 1;
}

/** A press near enough to the end of what is under way is kept for the next step. */
function hear(state: StepState, p: StepParameters, intent: IntentState, pressed: number): void {
  if (state.phase === AT_REST) return;
  if (state.duration - state.time > p.buffer + SLACK) return;
  const [x, y] = askedWay(p, intent, pressed);
  state.nextX = x;
  state.nextY = y;
}

function wantsMore(state: StepState, p: StepParameters, intent: IntentState): boolean {
  if (state.nextX !== 0 || state.nextY !== 0) return true;
  const [x, y] = askedWay(p, intent, 0);
  return p.repeats && (x !== 0 || y !== 0);
}

/** Begins the step that waits, or the one that is asked for; false where there is none. */
function beginNext(state: StepState, p: StepParameters, motion: Motion, intent: IntentState, pressed: number): boolean {
  let [x, y] = [state.nextX, state.nextY];
  state.nextX = 0;
  state.nextY = 0;
  if (x === 0 && y === 0) {
    // Held keys repeat; without repeat, and with steps at once, only a press begins one.
    if (pressed === 0 && (!p.repeats || p.time === 0)) return false;
    [x, y] = askedWay(p, intent, pressed);
  }
  if (x === 0 && y === 0) return false;
  const turns = p.turnTime > 0 && (state.x !== x || state.y !== y);
  state.wayX = x;
  state.wayY = y;
  state.x = x;
  state.y = y;
  state.time = 0;
  if (turns) {
    state.phase = TURNING;
    state.duration = p.turnTime;
  } else beginStep(state, p, motion);
  return true;
}

/** Sets out to the centre of the next cell; a start beside the centre is brought to it by the step. */
function beginStep(state: StepState, p: StepParameters, motion: Motion): void {
  const centre = (value: number, way: number) => (Math.floor(value / p.cell) + way + 0.5) * p.cell;
  state.fromX = motion.x;
  state.fromY = motion.y;
  state.toX = state.wayX === 0 ? centre(motion.x, 0) : centre(motion.x, state.wayX);
  state.toY = state.wayY === 0 ? centre(motion.y, 0) : centre(motion.y, state.wayY);
  state.time = 0;
  if (isBlocked(state, p)) {
    state.phase = BUMPING;
    state.duration = p.bumpTime;
    state.happened |= BUMPED;
    return;
  }
  state.phase = STEPPING;
  state.duration = p.time * (p.scaled && state.wayX !== 0 && state.wayY !== 0 ? Math.SQRT2 : 1);
}

/** Whether a wall or an edge is in the way; a diagonal step cuts no corner: both straight steps beside it have to be open. */
function isBlocked({ fromX, fromY, toX, toY, wayX, wayY }: StepState, p: StepParameters): boolean {
  const { limits } = p;
  if (p.bounded && (toX < limits.left || toX > limits.right || toY < limits.top || toY > limits.bottom)) return true;
  if (!p.body.felt) return false;
  const open = (dx: number, dy: number) => {
    const [x, y] = [fromX + p.body.centreX, fromY + p.body.centreY];
    gather(p.body, x, y, length(dx, dy));
    return !sweep(p.body, x, y, dx, dy);
  };
  const [dx, dy] = [toX - fromX, toY - fromY];
  if (wayX !== 0 && wayY !== 0 && !(open(dx, 0) && open(0, dy))) return true;
  return !open(dx, dy);
}

function endPhase(state: StepState, p: StepParameters, motion: Motion): void {
  if (state.phase === TURNING) {
    beginStep(state, p, motion);
    return;
  }
  if (state.phase === STEPPING) {
    motion.x = state.toX;
    motion.y = state.toY;
    state.count++;
  }
  state.phase = AT_REST;
  state.time = 0;
  state.duration = 0;
}

/** Puts the body where the step under way has come to. */
function place(state: StepState, p: StepParameters, motion: Motion): void {
  if (state.phase !== STEPPING) return;
  const share = state.duration > 0 ? state.time / state.duration : 1;
  const eased = p.smooth ? share * share * (3 - 2 * share) : share;
  motion.x = state.fromX + (state.toX - state.fromX) * eased;
  motion.y = state.fromY + (state.toY - state.fromY) * eased;
}
