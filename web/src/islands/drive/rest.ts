import { gaits, type Hands, type World } from '@zygopod/core';

/** Nothing would change: no hands, no speed, the bar full. */
export function isAtRest({ body, parameters, trace }: World, hands: Hands): boolean {
  return (
    gaits[body.gaitIndex] === 'stand' &&
    hands.held.every((order) => order === 0) &&
    hands.stickX === 0 &&
    hands.stickY === 0 &&
    (!parameters.stamina.enabled || body.gaitStamina >= parameters.stamina.max) &&
    body.facingAngle === body.facingGoal &&
    isViewAtRest(trace) &&
    body.intentAmount === 0 &&
    body.routeActive === 0 &&
    body.stepPhase === 0
  );
}

/** True if the view is at rest: within a hundredth of a unit of its place a tick ago. */
function isViewAtRest(trace: World['trace']): boolean {
  const row = trace.end - 1;
  if (row <= trace.first) return true;
  const moved = (column: 'cameraX' | 'cameraY') => Math.abs(trace.at(column, row) - trace.at(column, row - 1));
  return moved('cameraX') < 0.01 && moved('cameraY') < 0.01;
}
