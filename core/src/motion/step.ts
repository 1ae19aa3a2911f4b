import { type Limits, originLimits } from '../collision/limits.ts';
import { isClear, isFree, type PlacedBody, placedBody } from '../collision/placedBody.ts';
import type { Ground } from '../ground/ground.ts';
import type { WallIndex } from '../ground/wallIndex.ts';
import { PLANT, WAY_BITS } from '../tape/controls.ts';
import type { Hands } from '../tape/hands.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { Own } from './body.ts';
import { AT_REST, BUMPING, STEPPING, TURNING, WAS_SENT } from './codes.ts';
import { BUMPED } from './events.ts';

/** Settings of grid steps. */
export interface StepPlan {
  /** True if the feet step from cell to cell. */
  steps: boolean;
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
  /** Edges block a step, or let it re-enter at the other side. */
  bounded: boolean;
  wraps: boolean;
}

export function prepareStep(parameters: Parameters, ground: Ground, walls: WallIndex): StepPlan {
  const { step, bounds, contact, scheme } = parameters;
  return {
    steps: scheme === 'step',
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
    wraps: bounds.policy === 'wrap',
  };
}

/** Tolerance (s) for the end of a phase: sixty ticks of 1/60 s are a second. */
const SLACK = 1e-9;
/** Maximum number of phases in one tick: further ones, of steps far shorter than a tick, are lost. */
const MOST = 100_000;
/** Fraction of full deflection that requests a step. */
const ASKS = 0.3;

/**
 * Steps from cell centre to cell centre (unit), each in exactly its time (s). The rest of a tick goes into the next step, so N steps take N times as
 * long at any tick rate, and a step ends exactly on its centre. There is no ramp and no contact: a step is tested before it begins.
 */
export function stepGrid(body: Own<'step'>, p: StepPlan, hands: Hands): void {
  if (p.steps) stepCells(body, p, hands);
  else if (body.stepLive === 1) {
    clear(body);
    body.stepLive = 0;
  }
}

/** Stands in its cell, as after a start. */
function clear(body: Own<'step'>): void {
  body.stepPhase = AT_REST;
  body.stepTime = 0;
  body.stepDuration = 0;
  body.stepWayX = 0;
  body.stepWayY = 0;
  body.stepNextX = 0;
  body.stepNextY = 0;
}

function stepCells(body: Own<'step'>, p: StepPlan, hands: Hands): void {
  if (body.stepLive === 0) clear(body);
  else if (body.x !== body.stepX || body.y !== body.stepY) moveAlong(body, p);
  body.stepLive = 1;
  body.stepX = body.x;
  body.stepY = body.y;
  const planted = hands.held[PLANT] !== 0;
  const pressed = (hands.pressed & WAY_BITS) !== 0;
  if (pressed) hear(body, p);
  let left = body.clockDt;
  // At rest a step begins in the tick that requests it; each round ends a phase or the tick.
  for (let round = 0; round < MOST; round++) {
    if (body.stepPhase === AT_REST && (planted || !beginNext(body, p, round === 0 && pressed))) break;
    const rest = body.stepDuration - body.stepTime;
    if (rest > left + SLACK) {
      body.stepTime += left;
      break;
    }
    const bumpsAtOnce = body.stepPhase === BUMPING && body.stepDuration === 0;
    left = Math.max(0, left - Math.max(0, rest));
    endPhase(body, p);
    if (bumpsAtOnce) break;
    if (left <= SLACK && body.stepPhase === AT_REST && p.time > 0 && !wantsMore(body, p)) break;
    if (p.time === 0 && body.stepPhase === AT_REST) break;
  }
  if (body.stepPhase === STEPPING) {
    const share = body.stepDuration > 0 ? body.stepTime / body.stepDuration : 1;
    const eased = p.smooth ? share * share * (3 - 2 * share) : share;
    body.stepX = body.stepFromX + (body.stepToX - body.stepFromX) * eased;
    body.stepY = body.stepFromY + (body.stepToY - body.stepFromY) * eased;
  }
}

/** Something else has moved the body: its step goes on from there, to the centre of the cell that it leads to now. */
function moveAlong(body: Own<'step'>, p: StepPlan): void {
  if (body.stepPhase !== STEPPING) return;
  const dx = body.x - body.stepX;
  const dy = body.y - body.stepY;
  body.stepFromX += dx;
  body.stepFromY += dy;
  body.stepToX = centre(body.stepToX + dx, 0, p.cell);
  body.stepToY = centre(body.stepToY + dy, 0, p.cell);
  if (body.boundsJump === WAS_SENT || !isClear(p.body, body.x, body.y, body.stepToX, body.stepToY)) {
    body.stepPhase = AT_REST;
    body.stepTime = 0;
    body.stepDuration = 0;
  } else rebase(body, p);
}

/** Lets the straight step from the body's place take the remaining time. */
function rebase(body: Own<'step'>, p: StepPlan): void {
  const share = body.stepDuration > 0 ? body.stepTime / body.stepDuration : 1;
  const eased = p.smooth ? share * share * (3 - 2 * share) : share;
  if (eased >= 1) return;
  body.stepFromX = (body.x - body.stepToX * eased) / (1 - eased);
  body.stepFromY = (body.y - body.stepToY * eased) / (1 - eased);
}

/** The direction requested by the hands on one axis: −1, 0 or 1. */
function wantedX(body: Own<'step'>, p: StepPlan): number {
  const { intentX: x, intentY: y } = body;
  if (Math.abs(x) < ASKS || (!p.diagonals && Math.abs(y) > Math.abs(x))) return 0;
  return x < 0 ? -1 : 1;
}

function wantedY(body: Own<'step'>, p: StepPlan): number {
  const { intentX: x, intentY: y } = body;
  if (Math.abs(y) < ASKS || (!p.diagonals && Math.abs(x) >= Math.abs(y))) return 0;
  return y < 0 ? -1 : 1;
}

/** Keeps a press near enough to the end of the current step for the next one. */
function hear(body: Own<'step'>, p: StepPlan): void {
  if (body.stepPhase === AT_REST) return;
  if (body.stepDuration - body.stepTime > p.buffer + SLACK) return;
  body.stepNextX = wantedX(body, p);
  body.stepNextY = wantedY(body, p);
}

function wantsMore(body: Own<'step'>, p: StepPlan): boolean {
  if (body.stepNextX !== 0 || body.stepNextY !== 0) return true;
  return p.repeats && (wantedX(body, p) !== 0 || wantedY(body, p) !== 0);
}

/** Begins the waiting step, or the requested one; returns false if there is none. */
function beginNext(body: Own<'step'>, p: StepPlan, pressed: boolean): boolean {
  let x = body.stepNextX;
  let y = body.stepNextY;
  body.stepNextX = 0;
  body.stepNextY = 0;
  if (x === 0 && y === 0) {
    // Held keys repeat; without repeat, and with steps at once, only a press begins one.
    if (!pressed && (!p.repeats || p.time === 0)) return false;
    x = wantedX(body, p);
    y = wantedY(body, p);
  }
  if (x === 0 && y === 0) return false;
  const turns = p.turnTime > 0 && (body.stepWayX !== x || body.stepWayY !== y);
  body.stepWayX = x;
  body.stepWayY = y;
  body.stepTime = 0;
  if (turns) {
    body.stepPhase = TURNING;
    body.stepDuration = p.turnTime;
  } else beginStep(body, p);
  return true;
}

/** The centre of the cell `direction` cells on from the one that contains a value. */
function centre(value: number, direction: number, cell: number): number {
  return (Math.floor(value / cell) + direction + 0.5) * cell;
}

/** Sets out to the centre of the next cell; a step that starts beside a centre ends on one. */
function beginStep(body: Own<'step'>, p: StepPlan): void {
  body.stepFromX = body.stepX;
  body.stepFromY = body.stepY;
  body.stepToX = centre(body.stepX, body.stepWayX, p.cell);
  body.stepToY = centre(body.stepY, body.stepWayY, p.cell);
  body.stepTime = 0;
  if (isBlocked(body, p)) {
    body.stepPhase = BUMPING;
    body.stepDuration = p.bumpTime;
    body.happened |= BUMPED;
    return;
  }
  body.stepPhase = STEPPING;
  body.stepDuration = p.time * (p.scaled && body.stepWayX !== 0 && body.stepWayY !== 0 ? Math.SQRT2 : 1);
}

/** True if a wall or an edge blocks the step. A diagonal step cuts no corner: both straight steps beside it must be open. */
function isBlocked(body: Own<'step'>, p: StepPlan): boolean {
  const { stepFromX: x, stepFromY: y, stepToX: toX, stepToY: toY } = body;
  const { limits } = p;
  const leaves = toX < limits.left || toX > limits.right || toY < limits.top || toY > limits.bottom;
  if (leaves && p.bounded) return true;
  if (leaves && p.wraps && !isOpenBeyond(p, x, y, toX, toY)) return true;
  if (body.stepWayX !== 0 && body.stepWayY !== 0 && !(isClear(p.body, x, y, toX, y) && isClear(p.body, x, y, x, toY))) return true;
  return !isClear(p.body, x, y, toX, toY);
}

/** True if a step that leaves on one side can re-enter at the other one, as far as its target cell. */
function isOpenBeyond(p: StepPlan, x: number, y: number, toX: number, toY: number): boolean {
  const { left, right, top, bottom } = p.limits;
  const across = toX < left ? right - left : toX > right ? left - right : 0;
  const down = toY < top ? bottom - top : toY > bottom ? top - bottom : 0;
  const endX = centre(toX + across, 0, p.cell);
  const endY = centre(toY + down, 0, p.cell);
  return isFree(p.body, endX, endY) && isClear(p.body, x + across, y + down, endX, endY);
}

function endPhase(body: Own<'step'>, p: StepPlan): void {
  if (body.stepPhase === TURNING) {
    beginStep(body, p);
    return;
  }
  if (body.stepPhase === STEPPING) {
    body.stepX = body.stepToX;
    body.stepY = body.stepToY;
    body.stepCount++;
  }
  body.stepPhase = AT_REST;
  body.stepTime = 0;
  body.stepDuration = 0;
}
