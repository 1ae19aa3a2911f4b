import type { Ground } from '../ground/ground.ts';
import type { WallIndex } from '../ground/wallIndex.ts';
import type { Navigator } from '../route/navigator.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { type BoundsPlan, prepareBounds } from './bounds.ts';
import { type CameraPlan, prepareCamera } from './camera.ts';
import { type ClockPlan, prepareClock } from './clock.ts';
import { type ContactPlan, prepareContact } from './contactPlan.ts';
import { type FacingPlan, prepareFacing } from './facing.ts';
import { type GaitPlan, prepareGait } from './gait.ts';
import { type IntentPlan, prepareIntent } from './intent.ts';
import { prepareRoute } from './route.ts';
import type { RoutePlan } from './routePlanning.ts';
import { prepareStep, type StepPlan } from './step.ts';
import { prepareVelocity, type VelocityPlan } from './velocity.ts';

/** A tuning on a ground, prepared for the stages: angles in radians, limits computed, curves sampled. */
export interface Plan {
  clock: ClockPlan;
  intent: IntentPlan;
  step: StepPlan;
  route: RoutePlan;
  gait: GaitPlan;
  velocity: VelocityPlan;
  contact: ContactPlan;
  bounds: BoundsPlan;
  facing: FacingPlan;
  camera: CameraPlan;
}

export function preparePlan(parameters: Parameters, ground: Ground, walls: WallIndex, navigator: Navigator): Plan {
  return {
    clock: prepareClock(parameters),
    intent: prepareIntent(parameters),
    step: prepareStep(parameters, ground, walls),
    route: prepareRoute(parameters, ground, walls, navigator),
    gait: prepareGait(parameters),
    velocity: prepareVelocity(parameters),
    contact: prepareContact(parameters, ground, walls),
    bounds: prepareBounds(parameters, ground, walls),
    facing: prepareFacing(parameters, ground),
    camera: prepareCamera(parameters, ground),
  };
}
