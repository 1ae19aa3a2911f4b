import { atan2, clamp, cos, length, PI, pow, sin } from '../math/functions.ts';
import { DOWN, LEFT, RIGHT, UP, WAY_BITS } from '../tape/controls.ts';
import type { Hands } from '../tape/hands.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { Own } from './body.ts';

/** From hands to a direction: the tuning's choices as plain flags. */
export interface SteeringPlan {
  deadZone: number;
  outerZone: number;
  curve: number;
  evenDiagonals: boolean;
  acrossAllowed: boolean;
  downAllowed: boolean;
  /** 0 free, else 4 or 8. */
  directions: number;
  /** Which of two presses counts: 1 the newest, −1 the oldest, 0 neither. */
  winner: number;
  /** Keys and stick at once: the last device used takes over, or both add up; else the larger one counts. */
  newestDevice: boolean;
  sumsDevices: boolean;
}

/** Grid steps have four directions, unless diagonals are on. */
export function prepareSteering({ input, scheme, step }: Parameters): SteeringPlan {
  return {
    deadZone: input.deadZone,
    outerZone: input.outerZone,
    curve: input.curve,
    evenDiagonals: input.normaliseDiagonals,
    acrossAllowed: input.axes !== 'y',
    downAllowed: input.axes !== 'x',
    directions: scheme === 'step' && !step.diagonals ? 4 : input.directions === 'free' ? 0 : Number(input.directions),
    winner: input.conflict === 'newest' ? 1 : input.conflict === 'oldest' ? -1 : 0,
    newestDevice: input.devices === 'newest',
    sumsDevices: input.devices === 'sum',
  };
}

const DIAGONAL = Math.sqrt(0.5);
const EIGHTH = PI / 4;

/** The order number of a press; one released within its tick counts in it. */
function pressOrder(hands: Hands, control: number): number {
  return (hands.pressed >> control) & 1 ? (hands.order[control] as number) : (hands.held[control] as number);
}

/** True if a direction was pressed and released within this tick. */
export function isTapped(hands: Hands): boolean {
  if ((hands.pressed & WAY_BITS) === 0) return false;
  for (let control = UP; control <= RIGHT; control++) if ((hands.pressed >> control) & 1 && hands.held[control] === 0) return true;
  return false;
}

/** −1, 0 or 1 for two opposite keys, given the order numbers of their presses (0: up). */
function opposed(low: number, high: number, winner: number): number {
  if (low === 0 || high === 0) return high !== 0 ? 1 : low !== 0 ? -1 : 0;
  return high === low ? 0 : high > low ? winner : 0 - winner;
}

/** Keys as a vector: unit steps, diagonals of length 1 or √2, or one axis at a time. */
function keySteer(body: Own<'intent'>, p: SteeringPlan, hands: Hands): void {
  let x = p.acrossAllowed ? opposed(pressOrder(hands, LEFT), pressOrder(hands, RIGHT), p.winner) : 0;
  let y = p.downAllowed ? opposed(pressOrder(hands, UP), pressOrder(hands, DOWN), p.winner) : 0;
  if (x !== 0 && y !== 0) {
    if (p.directions === 4) {
      const across = opposed(pressOrder(hands, y > 0 ? DOWN : UP), pressOrder(hands, x > 0 ? RIGHT : LEFT), p.winner);
      if (across <= 0) x = 0;
      if (across >= 0) y = 0;
    } else if (p.evenDiagonals) {
      x *= DIAGONAL;
      y *= DIAGONAL;
    }
  }
  body.intentX = x;
  body.intentY = y;
}

/**
 * The magnitude for a stick travel in [0, √2], in [0, 1]: ((travel − deadZone)/(outerZone − deadZone))^curve. An outer zone inside the dead zone
 * gives a switch.
 */
export function shapedStick(travel: number, p: Pick<SteeringPlan, 'deadZone' | 'outerZone' | 'curve'>): number {
  if (travel <= p.deadZone) return 0;
  const span = p.outerZone - p.deadZone;
  return span <= 0 ? 1 : pow(clamp((travel - p.deadZone) / span, 0, 1), p.curve);
}

/**
 * Stick: magnitude rescaled from [deadZone, outerZone] to [0, 1] and raised to `curve`, direction kept or snapped. Replaces the keys, or is added to
 * them, as the tuning sets.
 */
function stickSteer(body: Own<'intent'>, p: SteeringPlan, hands: Hands, takesOver: boolean): void {
  const rawX = p.acrossAllowed ? hands.stickX : 0;
  const rawY = p.downAllowed ? hands.stickY : 0;
  const travel = length(rawX, rawY);
  const amount = shapedStick(travel, p);
  let x = 0;
  let y = 0;
  if (amount > 0 && p.directions === 4) {
    const across = rawX < 0 ? -rawX : rawX;
    const down = rawY < 0 ? -rawY : rawY;
    if (across !== down || body.intentAxis === 0) body.intentAxis = across >= down ? 1 : 2;
    if (body.intentAxis === 1) x = rawX < 0 ? -amount : amount;
    else y = rawY < 0 ? -amount : amount;
  } else if (amount > 0 && p.directions === 8) {
    const eighth = Math.floor(atan2(rawY, rawX) / EIGHTH + 0.5);
    const straight = eighth % 2 === 0 ? 1 : DIAGONAL;
    x = amount * straight * (eighth === -2 || eighth === 2 ? 0 : eighth > -2 && eighth < 2 ? 1 : -1);
    y = amount * straight * (eighth === 0 || eighth === 4 || eighth === -4 ? 0 : eighth > 0 ? 1 : -1);
  } else if (amount > 0) {
    x = (rawX / travel) * amount;
    y = (rawY / travel) * amount;
  }
  if (p.sumsDevices) {
    const alone = Math.max(1, length(body.intentX, body.intentY), length(x, y));
    body.intentX += x;
    body.intentY += y;
    const sum = length(body.intentX, body.intentY);
    if (sum > alone) {
      body.intentX *= alone / sum;
      body.intentY *= alone / sum;
    }
  } else if (takesOver || x * x + y * y > body.intentX * body.intentX + body.intentY * body.intentY) {
    body.intentX = x;
    body.intentY = y;
  }
}

/**
 * Combines keys and stick: the larger magnitude of the two. Two flawed rules from games can be chosen instead: the last device used takes over, even
 * with no input, or both add up, to no more than one of them alone can give.
 */
export function steer(body: Own<'intent'>, p: SteeringPlan, hands: Hands): void {
  keySteer(body, p, hands);
  const takesOver = p.newestDevice && hands.spoke === 2;
  if (takesOver || ((hands.stickX !== 0 || hands.stickY !== 0) && !(p.newestDevice && hands.spoke === 1)))
    stickSteer(body, p, hands, takesOver);
}

/** Turns the wanted direction by `angle` radians, clockwise on screens. */
export function rotate(body: Own<'intent'>, angle: number): void {
  if (angle === 0) return;
  const c = cos(angle);
  const s = sin(angle);
  const x = body.intentX * c - body.intentY * s;
  body.intentY = body.intentX * s + body.intentY * c;
  body.intentX = x;
}
