import { cos, DEGREE, length, PI, sin } from '../math/functions.ts';
import { ACTION, AUTO_RUN, DOWN, LEFT, PLANT, RIGHT, SPRINT, SPRINT_TOGGLE, UP } from '../tape/controls.ts';
import type { Hands } from '../tape/hands.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import {
  ACTION_HELD,
  ACTION_PRESSED,
  ACTION_RELEASED,
  AUTO_RUN_OFF,
  AUTO_RUN_ON,
  SPRINT_CANCELLED,
  TOGGLED_OFF,
  TOGGLED_ON,
} from './events.ts';
import type { ClockState, FacingState, GaitState, IntentState } from './slices.ts';
import { prepareSteering, rotate, type SteeringParameters, steer } from './steering.ts';

/** What the intent stage needs of a tuning. */
export interface IntentParameters {
  steering: SteeringParameters;
  /** Scheme steer, relative to what does not turn by itself. */
  plain: boolean;
  turns: boolean;
  latches: boolean;
  relativeToCamera: boolean;
  relativeToFacing: boolean;
  cameraHeading: number;
  holds: boolean;
  toggles: boolean;
  autoRuns: boolean;
  autoSprints: boolean;
  minStick: number;
  endsOnStop: boolean;
  endsOnWall: boolean;
  endsOnAction: boolean;
}

export function prepareIntent({ scheme, input, pace, camera }: Parameters): IntentParameters {
  return {
    steering: prepareSteering(input),
    plain: scheme === 'steer' && input.relativeTo !== 'facing',
    turns: scheme === 'turn',
    latches: scheme === 'latch',
    relativeToCamera: input.relativeTo === 'camera',
    relativeToFacing: input.relativeTo === 'facing',
    holds: pace.sprintKey !== 'toggle',
    toggles: pace.sprintKey !== 'hold',
    autoRuns: pace.autoRun !== 'off',
    autoSprints: pace.autoRun === 'sprint',
    minStick: pace.sprintMinStick,
    cameraHeading: camera.heading * DEGREE,
    endsOnStop: pace.sprintEndsOn.includes('stop'),
    endsOnWall: pace.sprintEndsOn.includes('wall'),
    endsOnAction: pace.sprintEndsOn.includes('action'),
  };
}

/** The bits of the four ways in `Hands.pressed`. */
const WAYS = (1 << UP) | (1 << DOWN) | (1 << LEFT) | (1 << RIGHT);

function wentDown(hands: Hands, control: number): boolean {
  return (hands.pressed & (1 << control)) !== 0;
}

/** Input more than this against the way of an auto-run ends it: the cosine of 120°. */
const OPPOSITE = -0.5;

/** Reads the hands; of facing, gait and clock it reads what the last tick left. */
export function stepIntent(
  state: IntentState,
  p: IntentParameters,
  hands: Hands,
  facing: FacingState,
  gait: GaitState,
  clock: ClockState,
): void {
  state.happened = 0;
  const fresh = hands.changed || state.stale === 1;
  // Nothing new from the hands and nothing latched: the intent is as it was.
  if (!fresh && p.plain && state.sprintOn === 0 && state.autoRun === 0 && state.actionFor === 0) return;
  const wasMoving = state.amount > 0;
  if (fresh) readSteering(state, p, hands);
  state.x = state.steerX;
  state.y = state.steerY;
  if (p.turns) turnAndDrive(state);
  else {
    if (p.latches) latchWay(state, p, hands, clock);
    if (p.relativeToCamera) rotate(state, p.cameraHeading);
    else if (p.relativeToFacing) rotate(state, facing.goal + PI / 2);
  }
  stepAutoRun(state, p, hands, facing);
  state.amount = p.turns ? (state.drive < 0 ? -state.drive : state.drive) : length(state.x, state.y);
  const ended =
    gait.lost === 1 ||
    (p.endsOnStop && wasMoving && state.amount === 0) ||
    (p.endsOnWall && clock.blocked === 1) ||
    (p.endsOnAction && wentDown(hands, ACTION));
  stepSprint(state, p, hands, ended);
  stepAction(state, hands, clock.dt);
}

/** Seconds that tell a hold from a tap. */
export const HOLD_AFTER = 0.5;

/** Tells press, hold and release of the action apart: the hold comes in the tick in which the time is full, not at the press. */
function stepAction(state: IntentState, hands: Hands, dt: number): void {
  if (wentDown(hands, ACTION)) {
    state.happened |= ACTION_PRESSED;
    state.actionFor = 0;
  }
  const before = state.actionFor;
  const down = hands.held[ACTION] !== 0;
  if (!down && (before > 0 || wentDown(hands, ACTION))) state.happened |= ACTION_RELEASED;
  state.actionFor = down ? before + dt : 0;
  // Rounding slack: thirty ticks of 1/60 s are half a second.
  if (down && before < HOLD_AFTER - 1e-9 && state.actionFor >= HOLD_AFTER - 1e-9) state.happened |= ACTION_HELD;
}

/** Has the hands read anew at the next tick: the tuning or the state has been changed from outside. */
export function forgetHands(state: IntentState): void {
  state.stale = 1;
}

function readSteering(state: IntentState, p: IntentParameters, hands: Hands): void {
  steer(hands, p.steering, state);
  state.steerX = state.x;
  state.steerY = state.y;
  state.stale = 0;
}

/** Scheme turn: left and right turn the body, up and down drive it along its heading. */
function turnAndDrive(state: IntentState): void {
  const across = state.x < 0 ? -state.x : state.x;
  const down = state.y < 0 ? -state.y : state.y;
  const larger = across > down ? across : down;
  // Keys on both axes mean full turn and full drive: shortening the diagonal is for movement only.
  const scale = larger > 0 ? Math.min(1, length(across, down)) / larger : 0;
  state.turn = state.x * scale;
  state.drive = -state.y * scale;
}

/** Scheme latch: a press, a stick push or a swipe sets the way; plant or a wall ends it. */
function latchWay(state: IntentState, p: IntentParameters, hands: Hands, clock: ClockState): void {
  if (clock.blocked === 1 || wentDown(hands, PLANT)) {
    state.latchX = 0;
    state.latchY = 0;
  }
  const size = length(state.x, state.y);
  const onStick = length(hands.stickX, hands.stickY) > p.steering.deadZone;
  if (((hands.pressed & WAYS) !== 0 || onStick) && size > 0) {
    const full = size > 1 ? size : 1;
    state.latchX = (state.x / size) * full;
    state.latchY = (state.y / size) * full;
  }
  if (hands.swipe !== 0) {
    const x = !p.steering.acrossAllowed ? 0 : hands.swipe === 2 ? 1 : hands.swipe === 4 ? -1 : 0;
    const y = !p.steering.downAllowed ? 0 : hands.swipe === 3 ? 1 : hands.swipe === 1 ? -1 : 0;
    if (x !== 0 || y !== 0) {
      state.latchX = x;
      state.latchY = y;
    }
  }
  state.x = state.latchX;
  state.y = state.latchY;
}

/** Auto-run: straight on along the facing, steered by what is pressed, ended by its control or by opposite input. */
function stepAutoRun(state: IntentState, p: IntentParameters, hands: Hands, facing: FacingState): void {
  const was = state.autoRun;
  if (!p.autoRuns) state.autoRun = 0;
  else if (wentDown(hands, AUTO_RUN)) state.autoRun = 1 - was;
  if (state.autoRun === 1) {
    if (p.turns) {
      if (state.drive < 0) state.autoRun = 0;
      else state.drive = 1;
    } else {
      const wayX = cos(facing.goal);
      const wayY = sin(facing.goal);
      const size = length(state.x, state.y);
      if (size === 0) {
        state.x = wayX;
        state.y = wayY;
      } else if (state.x * wayX + state.y * wayY < OPPOSITE * size) state.autoRun = 0;
    }
  }
  if (state.autoRun !== was) state.happened |= state.autoRun ? AUTO_RUN_ON : AUTO_RUN_OFF;
}

/** Hold, toggle and auto-run side by side: the toggle is a state of its own, so that no hold can knock it out of step. */
function stepSprint(state: IntentState, p: IntentParameters, hands: Hands, ended: boolean): void {
  const wasToggled = state.toggled;
  const wasOn = state.sprintOn;
  const held = hands.held[SPRINT] !== 0;
  if (!p.toggles) state.toggled = 0;
  else {
    if (wentDown(hands, SPRINT_TOGGLE) !== (!p.holds && wentDown(hands, SPRINT))) state.toggled = 1 - state.toggled;
    // With a toggle alone there is one sprint state, and an auto-run that sprints switches it on: it stays on afterwards.
    if (!p.holds && p.autoSprints && state.happened & AUTO_RUN_ON) state.toggled = 1;
  }
  if (!held || wentDown(hands, SPRINT)) state.holdCancelled = 0;
  if (ended && wasOn) {
    state.toggled = 0;
    if (held) state.holdCancelled = 1;
    state.happened |= SPRINT_CANCELLED;
  }
  const holds = p.holds && held && state.holdCancelled === 0;
  const runs = state.autoRun === 1 && p.autoSprints && !(ended && wasOn);
  state.sprintOn = holds || state.toggled === 1 || runs ? 1 : 0;
  state.sprintWanted = state.sprintOn === 1 && state.amount > 0 && state.amount >= p.minStick ? 1 : 0;
  if (state.toggled !== wasToggled) state.happened |= state.toggled ? TOGGLED_ON : TOGGLED_OFF;
}
