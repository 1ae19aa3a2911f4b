import type { Ground } from '../ground/ground.ts';
import type { WallIndex } from '../ground/wallIndex.ts';
import { length } from '../math/functions.ts';
import type { Hands } from '../tape/hands.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { type BoundsParameters, prepareBounds, stepBounds } from './bounds.ts';
import { type CameraParameters, prepareCamera, stepCamera } from './camera.ts';
import { type ContactParameters, prepareContact, stepContact } from './contact.ts';
import { type FacingParameters, prepareFacing, stepFacing } from './facing.ts';
import { type GaitParameters, prepareGait, settleGait, stepGait } from './gait.ts';
import { type IntentParameters, prepareIntent, stepIntent } from './intent.ts';
import type { Motion } from './slices.ts';
import type { State } from './state.ts';
import { prepareVelocity, stepVelocity, type VelocityParameters } from './velocity.ts';

/** A tuning on a ground, prepared for the stages: angles in radians, limits worked out, curves sampled. */
export interface Plan {
  intent: IntentParameters;
  gait: GaitParameters;
  velocity: VelocityParameters;
  contact: ContactParameters;
  bounds: BoundsParameters;
  facing: FacingParameters;
  camera: CameraParameters;
  /** Ticks a second, and whether every tick has that length. */
  hz: number;
  fixed: boolean;
}

export function preparePlan(parameters: Parameters, ground: Ground, walls: WallIndex): Plan {
  return {
    intent: prepareIntent(parameters),
    gait: prepareGait(parameters),
    velocity: prepareVelocity(parameters),
    contact: prepareContact(parameters, ground, walls),
    bounds: prepareBounds(parameters, ground),
    facing: prepareFacing(parameters, ground),
    camera: prepareCamera(parameters, ground),
    hz: parameters.clock.hz,
    fixed: parameters.clock.stepping === 'fixed',
  };
}

/** Under this share of the wanted way the body counts as blocked. */
const HEADWAY = 0.1;

function hasNoHeadway(motion: Motion, fromX: number, fromY: number): boolean {
  return length(motion.x - fromX, motion.y - fromY) < HEADWAY * length(motion.dx, motion.dy);
}

/** One tick of `clock.dt` seconds: hands → intent → gait and stamina → velocity → contact → bounds → facing → camera. */
export function tick(state: State, plan: Plan, hands: Hands): void {
  const { motion, intent, gait, velocity, contact, bounds, facing, camera, clock } = state;
  stepIntent(intent, plan.intent, hands, facing, gait, clock);
  stepGait(gait, plan.gait, intent, clock);
  stepVelocity(velocity, plan.velocity, motion, intent, gait, contact, facing, clock);

  const fromX = motion.x;
  const fromY = motion.y;
  stepContact(contact, plan.contact, motion);
  stepBounds(bounds, plan.bounds, motion);
  clock.blocked = bounds.held + contact.count > 0 && hasNoHeadway(motion, fromX, fromY) ? 1 : 0;

  stepFacing(facing, plan.facing, motion, velocity, intent, hands, clock);
  settleGait(gait, intent, motion, clock);
  stepCamera(camera, plan.camera, motion, clock);
  clock.tick++;
  clock.time += clock.dt;
}
