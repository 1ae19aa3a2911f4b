import { cos, DEGREE, length, PI, sin } from '../math/functions.ts';
import { ACTION, AUTO_RUN, LAUNCH, PLANT, SPRINT, SPRINT_TOGGLE, WAY_BITS, wentDown } from '../tape/controls.ts';
import type { Hands } from '../tape/hands.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { Own } from './body.ts';
import {
  ACTION_HELD,
  ACTION_PRESSED,
  ACTION_RELEASED,
  AUTO_RUN_OFF,
  AUTO_RUN_ON,
  LAUNCHED,
  SPRINT_CANCELLED,
  TOGGLED_OFF,
  TOGGLED_ON,
} from './events.ts';
import { isTapped, prepareSteering, rotate, type SteeringPlan, steer } from './steering.ts';

/** Settings of the intent stage. */
export interface IntentPlan {
  steering: SteeringPlan;
  /** The wanted direction depends on the hands alone. */
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
  /** Something other than the hands can end a sprint. */
  ends: boolean;
}

export function prepareIntent(parameters: Parameters): IntentPlan {
  const { scheme, input, pace, camera, stamina } = parameters;
  return {
    steering: prepareSteering(parameters),
    plain: (scheme === 'steer' || scheme === 'step') && input.relativeTo !== 'facing',
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
    ends: pace.sprintEndsOn.length > 0 || stamina.enabled,
  };
}

/** Input farther than this from the direction of an auto-run ends it: the cosine of 120°. */
const OPPOSITE = -0.5;

/**
 * Decodes the hands into a wanted direction, (x, y) of a length in [0, 1], in scheme turn a turn and a drive in [−1, 1], and a wanted sprint.
 * Diagonal keys are (±1, ±1)·√½ or, depending on the tuning, (±1, ±1); a stick gives ((travel − deadZone)/(outerZone − deadZone))^curve. Reads the
 * last tick's facing, gait and bounds.
 */
export function stepIntent(body: Own<'intent'>, p: IntentPlan, hands: Hands): void {
  if (hands.changed || body.intentSteady === 0) readHands(body, p, hands);
}

function readHands(body: Own<'intent'>, p: IntentPlan, hands: Hands): void {
  const wasMoving = body.intentAmount > 0;
  steer(body, p.steering, hands);
  body.intentTurn = 0;
  body.intentDrive = 0;
  if (p.turns) turnAndDrive(body);
  else {
    if (p.latches) latchDirection(body, p, hands);
    if (p.relativeToCamera) rotate(body, p.cameraHeading);
    else if (p.relativeToFacing) rotate(body, body.facingGoal + PI / 2);
  }
  stepAutoRun(body, p, hands);
  body.intentAmount = p.turns ? (body.intentDrive < 0 ? -body.intentDrive : body.intentDrive) : length(body.intentX, body.intentY);
  const ended =
    body.gaitLost === 1 ||
    (p.endsOnStop && wasMoving && body.intentAmount === 0) ||
    (p.endsOnWall && body.boundsBlocked === 1) ||
    (p.endsOnAction && wentDown(hands, ACTION));
  stepSprint(body, p, hands, ended);
  stepAction(body, hands);
  if (wentDown(hands, LAUNCH)) body.happened |= LAUNCHED;
  const rests = body.intentAutoRun === 0 && body.intentActionFor === 0 && !(p.ends && body.intentSprintOn === 1);
  body.intentSteady = p.plain && rests && !isTapped(hands) ? 1 : 0;
}

/** Seconds that separate a hold from a tap. */
const HOLD_AFTER = 0.5;

/** Distinguishes press, hold and release of the action. The hold is emitted in the tick that completes its time, not at the press. */
function stepAction(body: Own<'intent'>, hands: Hands): void {
  if (wentDown(hands, ACTION)) {
    body.happened |= ACTION_PRESSED;
    body.intentActionFor = 0;
  }
  const before = body.intentActionFor;
  const down = hands.held[ACTION] !== 0;
  if (!down && (before > 0 || wentDown(hands, ACTION))) body.happened |= ACTION_RELEASED;
  body.intentActionFor = down ? before + body.clockDt : 0;
  // Rounding slack: thirty ticks of 1/60 s are half a second.
  if (down && before < HOLD_AFTER - 1e-9 && body.intentActionFor >= HOLD_AFTER - 1e-9) body.happened |= ACTION_HELD;
}

/** Scheme turn: left and right turn the body, up and down drive it along its heading. */
function turnAndDrive(body: Own<'intent'>): void {
  const across = body.intentX < 0 ? -body.intentX : body.intentX;
  const down = body.intentY < 0 ? -body.intentY : body.intentY;
  const larger = across > down ? across : down;
  // Keys on both axes mean full turn and full drive: shortening the diagonal is for movement only.
  const scale = larger > 0 ? Math.min(1, length(across, down)) / larger : 0;
  body.intentTurn = body.intentX * scale;
  body.intentDrive = -body.intentY * scale;
}

/** Scheme latch: a press, a stick push or a swipe sets the direction; plant or a wall ends it. */
function latchDirection(body: Own<'intent'>, p: IntentPlan, hands: Hands): void {
  if (body.boundsBlocked === 1 || wentDown(hands, PLANT)) {
    body.intentLatchX = 0;
    body.intentLatchY = 0;
  }
  const size = length(body.intentX, body.intentY);
  const onStick = length(hands.stickX, hands.stickY) > p.steering.deadZone;
  if (((hands.pressed & WAY_BITS) !== 0 || onStick) && size > 0) {
    const full = size > 1 ? size : 1;
    body.intentLatchX = (body.intentX / size) * full;
    body.intentLatchY = (body.intentY / size) * full;
  }
  if (hands.swipe !== 0) {
    const x = !p.steering.acrossAllowed ? 0 : hands.swipe === 2 ? 1 : hands.swipe === 4 ? -1 : 0;
    const y = !p.steering.downAllowed ? 0 : hands.swipe === 3 ? 1 : hands.swipe === 1 ? -1 : 0;
    if (x !== 0 || y !== 0) {
      body.intentLatchX = x;
      body.intentLatchY = y;
    }
  }
  body.intentX = body.intentLatchX;
  body.intentY = body.intentLatchY;
}

/** Auto-run: straight on along the facing, steered by the pressed keys, ended by its control or by opposite input. */
function stepAutoRun(body: Own<'intent'>, p: IntentPlan, hands: Hands): void {
  const was = body.intentAutoRun;
  if (!p.autoRuns) body.intentAutoRun = 0;
  else if (wentDown(hands, AUTO_RUN)) body.intentAutoRun = 1 - was;
  if (body.intentAutoRun === 1) {
    if (p.turns) {
      if (body.intentDrive < 0) body.intentAutoRun = 0;
      else body.intentDrive = 1;
    } else {
      const aheadX = cos(body.facingGoal);
      const aheadY = sin(body.facingGoal);
      const size = length(body.intentX, body.intentY);
      if (size === 0) {
        body.intentX = aheadX;
        body.intentY = aheadY;
      } else if (body.intentX * aheadX + body.intentY * aheadY < OPPOSITE * size) body.intentAutoRun = 0;
    }
  }
  if (body.intentAutoRun !== was) body.happened |= body.intentAutoRun ? AUTO_RUN_ON : AUTO_RUN_OFF;
}

/** Hold, toggle and auto-run side by side: the toggle has its own state, so that no hold can desynchronise it. */
function stepSprint(body: Own<'intent'>, p: IntentPlan, hands: Hands, ended: boolean): void {
  const wasToggled = body.intentToggled;
  const wasOn = body.intentSprintOn;
  const held = hands.held[SPRINT] !== 0;
  if (!p.toggles) body.intentToggled = 0;
  else {
    if (wentDown(hands, SPRINT_TOGGLE) !== (!p.holds && wentDown(hands, SPRINT))) body.intentToggled = 1 - body.intentToggled;
    // With a toggle alone there is one sprint state, and an auto-run that sprints switches it on: it stays on afterwards.
    if (!p.holds && p.autoSprints && body.happened & AUTO_RUN_ON) body.intentToggled = 1;
  }
  if (!held || wentDown(hands, SPRINT)) body.intentHoldCancelled = 0;
  if (ended && wasOn) {
    body.intentToggled = 0;
    if (held) body.intentHoldCancelled = 1;
    body.happened |= SPRINT_CANCELLED;
  }
  const holds = p.holds && held && body.intentHoldCancelled === 0;
  const runs = body.intentAutoRun === 1 && p.autoSprints && !(ended && wasOn);
  body.intentSprintOn = holds || body.intentToggled === 1 || runs ? 1 : 0;
  body.intentSprintWanted = body.intentSprintOn === 1 && body.intentAmount > 0 && body.intentAmount >= p.minStick ? 1 : 0;
  if (body.intentToggled !== wasToggled) body.happened |= body.intentToggled ? TOGGLED_ON : TOGGLED_OFF;
}
