import type { Ground } from '../ground/ground.ts';
import type { WallIndex } from '../ground/wallIndex.ts';
import { length } from '../math/functions.ts';
import type { Navigator } from '../route/navigator.ts';
import type { Hands } from '../tape/hands.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { type BoundsParameters, prepareBounds, stepBounds } from './bounds.ts';
import { type CameraParameters, prepareCamera, stepCamera } from './camera.ts';
import { type ContactParameters, prepareContact, stepContact } from './contact.ts';
import { type FacingParameters, prepareFacing, stepFacing } from './facing.ts';
import { type GaitParameters, prepareGait, settleGait, stepGait } from './gait.ts';
import { type IntentParameters, prepareIntent, stepIntent } from './intent.ts';
import { prepareRoute, type RouteParameters, settleRoute, stepRoute } from './route.ts';
import type { Motion } from './slices.ts';
import type { State } from './state.ts';
import { prepareStep, type StepParameters, stepGrid } from './step.ts';
import { prepareVelocity, stepVelocity, type VelocityParameters } from './velocity.ts';

/** A tuning on a ground, prepared for the stages: angles in radians, limits worked out, curves sampled. */
export interface Plan {
  intent: IntentParameters;
  route: RouteParameters;
  /** Scheme step: cell to cell, in place of velocity and contact; null with the other schemes. */
  step: StepParameters | null;
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

export function preparePlan(parameters: Parameters, ground: Ground, walls: WallIndex, navigator: Navigator): Plan {
  return {
    intent: prepareIntent(parameters),
    route: prepareRoute(parameters, navigator),
    step: parameters.scheme === 'step' ? prepareStep(parameters, ground, walls) : null,
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

/** One tick of `clock.dt` seconds: hands → intent → route → gait and stamina → velocity → contact → bounds → facing → camera. */
export function tick(state: State, plan: Plan, hands: Hands): void {
  const { motion, intent, route, step, gait, velocity, contact, bounds, facing, camera, clock } = state;
  stepIntent(intent, plan.intent, hands, facing, gait, clock);
  if (plan.step) {
    stepGrid(step, plan.step, motion, intent, hands, clock);
    stepGait(gait, plan.gait, intent, step, clock);
    stepBounds(bounds, plan.bounds, motion);
  } else {
    stepRoute(route, plan.route, motion, intent, gait, hands, clock);
    stepGait(gait, plan.gait, intent, route, clock);
    stepVelocity(velocity, plan.velocity, motion, intent, route, gait, contact, facing, clock);
    settleRoute(route, plan.route, motion);

    const fromX = motion.x;
    const fromY = motion.y;
    stepContact(contact, plan.contact, motion, route);
    stepBounds(bounds, plan.bounds, motion);
    clock.blocked = bounds.held + contact.count > 0 && hasNoHeadway(motion, fromX, fromY) ? 1 : 0;
  }
  const wish = plan.step ? step : route;
  stepFacing(facing, plan.facing, motion, velocity, wish, route.planted === 1 && hands.pointed, hands, clock);
  settleGait(gait, wish, motion, clock);
  stepCamera(camera, plan.camera, motion, clock);
  clock.tick++;
  clock.time += clock.dt;
}
