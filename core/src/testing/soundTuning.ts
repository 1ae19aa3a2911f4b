import type { FileValue } from '../tuning/schema.ts';
import { newTuning, resolveTuning, type Tuning, withValue } from '../tuning/tuning.ts';
import { sequence } from './sequence.ts';

const within = (next: () => number, low: number, high: number) => low + next() * (high - low);
export const oneOf = <T>(next: () => number, ...values: T[]): T => values[Math.floor(next() * values.length)] as T;

export function tuningWith(values: Record<string, FileValue>): Tuning {
  const file = Object.entries(values).reduce((changed, [path, value]) => withValue(changed, path, value), newTuning('Any'));
  const read = resolveTuning(file);
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value;
}

/** A tuning that a good game could have, at random; what is planted comes over it. */
export function sound(seed: number, planted: Record<string, FileValue> = {}): Tuning {
  const next = sequence(seed * 733);
  const radius = within(next, 6, 40);
  const walk = within(next, 2, 12) * radius;
  const startAt = within(next, 2, 25);
  return tuningWith({
    scheme: oneOf(next, 'steer', 'steer', 'latch', 'turn', 'step'),
    'body.radius': radius,
    'body.shape': oneOf(next, 'circle', 'box'),
    'body.width': radius * 2,
    'body.height': radius * within(next, 1.5, 2.5),
    'pace.walkSpeed': walk,
    'pace.sprintSpeed': { of: 'pace.walkSpeed', times: within(next, 1.2, 2.5) },
    'pace.autoRun': oneOf(next, 'off', 'walk'),
    'ramp.model': oneOf(next, 'instant', 'linear', 'smooth'),
    'ramp.accelerate': walk * within(next, 4, 15),
    'ramp.decelerate': walk * within(next, 4, 15),
    'ramp.brake': walk * within(next, 8, 25),
    'ramp.halfLife': within(next, 0.02, 0.15),
    'stamina.enabled': next() < 0.5,
    'stamina.drain': within(next, 5, 60),
    'stamina.regain': within(next, 5, 60),
    'stamina.startAt': startAt,
    'stamina.recoverTo': startAt + within(next, 0, 30),
    'stamina.regainWhile': oneOf(next, 'standing', 'notSprinting'),
    'contact.wallFriction': next() < 0.5 ? 0 : within(next, 0, 0.5),
    'bounds.policy': oneOf(next, 'clamp', 'clamp', 'wrap', 'none'),
    'facing.directions': oneOf(next, '4', '8', '16', 'free'),
    'facing.turn': oneOf(next, 'instant', 'rate', 'smooth'),
    'facing.stickiness': within(next, 4, 10),
    'route.enabled': next() < 0.4,
    'input.deadZone': within(next, 0.1, 0.3),
    'step.cell': radius * 3,
    'camera.follow': oneOf(next, 'smooth', 'locked', 'deadZone'),
    'clock.hz': oneOf(next, 30, 60, 144),
    ...planted,
  });
}
