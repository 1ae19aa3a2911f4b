import { bodyRadius } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';

/**
 * Speeds (unit/s) that count as zero, relative to the body's size, so that a world in another unit moves alike: fractions of half its larger side per
 * second.
 */
const STANDS = 0.01 / 12;
const RESTS = 2 ** -24;
const FACES = 2 ** -14;
const ARRIVED = 2 ** -34;

/** Below this a body without input stands: 0.01 for a body of 24 units. */
export const standingSpeed = (body: Parameters['body']): number => STANDS * bodyRadius(body);
/** Below this a body rests, and has no direction of travel of its own: about 1e-6 for a body of 24 units. */
export const restSpeed = (body: Parameters['body']): number => RESTS * bodyRadius(body);
/** Below this there is no direction to face: about 1e-3. */
export const facelessSpeed = (body: Parameters['body']): number => FACES * bodyRadius(body);
/** A smooth ramp treats differences of speed below this as zero: about 1e-9. */
export const arrivedSpeed = (body: Parameters['body']): number => ARRIVED * bodyRadius(body);
