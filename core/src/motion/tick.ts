import type { Hands } from '../tape/hands.ts';
import type { Body } from './body.ts';
import { stepBounds } from './bounds.ts';
import { stepCamera } from './camera.ts';
import { stepClock } from './clock.ts';
import { stepContact } from './contact.ts';
import { stepFacing } from './facing.ts';
import { nameGait, stepGait } from './gait.ts';
import { stepIntent } from './intent.ts';
import type { Plan } from './plan.ts';
import { stepRoute } from './route.ts';
import { stepGrid } from './step.ts';
import { stepVelocity } from './velocity.ts';

/** One tick: hands → intent → grid step or route → gait and stamina → velocity → contact → bounds → facing → camera. */
export function tick(body: Body, plan: Plan, hands: Hands): void {
  stepClock(body, plan.clock);
  stepIntent(body, plan.intent, hands);
  stepGrid(body, plan.step, hands);
  stepRoute(body, plan.route, hands);
  stepGait(body, plan.gait);
  stepVelocity(body, plan.velocity);
  stepContact(body, plan.contact);
  stepBounds(body, plan.bounds);
  nameGait(body, plan.gait);
  stepFacing(body, plan.facing, hands);
  stepCamera(body, plan.camera);
}
