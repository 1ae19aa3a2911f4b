import { atan2, clamp, cos, length, PI, pow, sin } from '../math/functions.ts';
import { DOWN, LEFT, RIGHT, UP } from '../tape/controls.ts';
import type { Hands } from '../tape/hands.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';

/** How hands become a direction: the choices of the tuning as plain flags. */
export interface SteeringParameters {
  deadZone: number;
  outerZone: number;
  curve: number;
  evenDiagonals: boolean;
  acrossAllowed: boolean;
  downAllowed: boolean;
  /** 0 free, else 4 or 8. */
  ways: number;
  /** Which of two presses counts: 1 the newest, −1 the oldest, 0 neither. */
  winner: number;
  /** Keys and stick at once: the one that spoke last has the body, or both add up; else the larger one counts. */
  newestDevice: boolean;
  sumsDevices: boolean;
}

export function prepareSteering(input: Parameters['input']): SteeringParameters {
  return {
    deadZone: input.deadZone,
    outerZone: input.outerZone,
    curve: input.curve,
    evenDiagonals: input.normaliseDiagonals,
    acrossAllowed: input.axes !== 'y',
    downAllowed: input.axes !== 'x',
    ways: input.directions === 'free' ? 0 : Number(input.directions),
    winner: input.conflict === 'newest' ? 1 : input.conflict === 'oldest' ? -1 : 0,
    newestDevice: input.devices === 'newest',
    sumsDevices: input.devices === 'sum',
  };
}

/** A direction times a magnitude, in the hands' own frame (y grows downwards); written over at each call. */
export interface Steer {
  x: number;
  y: number;
  /** The axis (1 across, 2 down) that a 4-way stick was on last; decides ties. */
  axis: number;
}

const DIAGONAL = Math.sqrt(0.5);
const EIGHTH = PI / 4;

/** −1, 0 or 1 for two opposite keys, given the order numbers of their presses (0: up). */
function opposed(low: number, high: number, winner: number): number {
  if (low === 0 || high === 0) return high !== 0 ? 1 : low !== 0 ? -1 : 0;
  return high > low ? winner : 0 - winner;
}

/** Keys as a vector: unit steps, diagonals of length 1 or √2, or one axis at a time. */
function keySteer(hands: Hands, p: SteeringParameters, out: Steer): void {
  const { held } = hands;
  let x = p.acrossAllowed ? opposed(held[LEFT] as number, held[RIGHT] as number, p.winner) : 0;
  let y = p.downAllowed ? opposed(held[UP] as number, held[DOWN] as number, p.winner) : 0;
  if (x !== 0 && y !== 0) {
    if (p.ways === 4) {
      const across = opposed(held[y > 0 ? DOWN : UP] as number, held[x > 0 ? RIGHT : LEFT] as number, p.winner);
      if (across <= 0) x = 0;
      if (across >= 0) y = 0;
    } else if (p.evenDiagonals) {
      x *= DIAGONAL;
      y *= DIAGONAL;
    }
  }
  out.x = x;
  out.y = y;
}

/** Stick: magnitude rescaled from [deadZone, outerZone] to [0, 1] and raised to `curve`, direction kept or snapped. */
function stickSteer(hands: Hands, p: SteeringParameters, out: Steer): void {
  const rawX = p.acrossAllowed ? hands.stickX : 0;
  const rawY = p.downAllowed ? hands.stickY : 0;
  const amount = shapedStick(length(rawX, rawY), p);
  if (amount === 0) {
    out.x = 0;
    out.y = 0;
  } else if (p.ways === 4) {
    const across = rawX < 0 ? -rawX : rawX;
    const down = rawY < 0 ? -rawY : rawY;
    if (across !== down || out.axis === 0) out.axis = across >= down ? 1 : 2;
    out.x = out.axis === 1 ? (rawX < 0 ? -amount : amount) : 0;
    out.y = out.axis === 2 ? (rawY < 0 ? -amount : amount) : 0;
  } else if (p.ways === 8) {
    const eighth = Math.floor(atan2(rawY, rawX) / EIGHTH + 0.5);
    const straight = eighth % 2 === 0 ? 1 : DIAGONAL;
    out.x = amount * straight * (eighth === -2 || eighth === 2 ? 0 : eighth > -2 && eighth < 2 ? 1 : -1);
    out.y = amount * straight * (eighth === 0 || eighth === 4 || eighth === -4 ? 0 : eighth > 0 ? 1 : -1);
  } else {
    const size = length(rawX, rawY);
    out.x = (rawX / size) * amount;
    out.y = (rawY / size) * amount;
  }
}

/** The magnitude that a stick travel in [0, √2] asks for, in [0, 1]. An outer zone inside the dead zone gives a switch. */
export function shapedStick(travel: number, p: Pick<SteeringParameters, 'deadZone' | 'outerZone' | 'curve'>): number {
  if (travel <= p.deadZone) return 0;
  const span = p.outerZone - p.deadZone;
  return span <= 0 ? 1 : pow(clamp((travel - p.deadZone) / span, 0, 1), p.curve);
}

const stick: Steer = { x: 0, y: 0, axis: 0 };

/**
 * What the hands steer: of keys and stick the larger magnitude. Two ways in which games let devices fight can be chosen
 * instead: the one that spoke last takes over, even with nothing to say, or both add up.
 */
export function steer(hands: Hands, p: SteeringParameters, out: Steer): void {
  keySteer(hands, p, out);
  const takenOver = p.newestDevice && hands.spoke === 2;
  if (!takenOver && ((hands.stickX === 0 && hands.stickY === 0) || (p.newestDevice && hands.spoke === 1))) return;
  stick.axis = out.axis;
  stickSteer(hands, p, stick);
  out.axis = stick.axis;
  if (p.sumsDevices) {
    out.x += stick.x;
    out.y += stick.y;
  } else if (takenOver || stick.x * stick.x + stick.y * stick.y > out.x * out.x + out.y * out.y) {
    out.x = stick.x;
    out.y = stick.y;
  }
}

/** Turns (x, y) by `angle` radians, clockwise on screens. */
export function rotate(out: Steer, angle: number): void {
  if (angle === 0) return;
  const c = cos(angle);
  const s = sin(angle);
  const x = out.x * c - out.y * s;
  out.y = out.x * s + out.y * c;
  out.x = x;
}
