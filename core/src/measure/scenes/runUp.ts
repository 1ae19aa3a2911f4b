import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import { paceProfile } from './paceProfile.ts';

/**
 * The distance (unit) that a run-up loses against a body with full speed at once: V·t − x(t), once t is past the ramp. For a linear ramp it is V²/2a
 * exactly, and V²/2a − V·dt/2 with semi-implicit ticks.
 */
export function runUp(parameters: Parameters, hz: number, integration = parameters.clock.integration): number {
  const { curve, marks, travelled } = paceProfile({ ...parameters, clock: { ...parameters.clock, hz, integration } });
  const at = curve.findIndex(([time]) => time >= marks.sprintFrom);
  return Math.max(0, parameters.pace.walkSpeed * (curve[at]?.[0] ?? 0) - (travelled[at] ?? 0));
}
