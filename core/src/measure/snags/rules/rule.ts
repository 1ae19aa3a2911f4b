import type { Parameters } from '../../../tuning/catalogue/catalogue.ts';
import { shortNumber } from '../../../tuning/expression.ts';
import type { FileValue } from '../../../tuning/schema.ts';
import type { Tuning } from '../../../tuning/tuning.ts';
import type { Severity, Snag, SnagId } from '../snag.ts';

/** A rule's finding in a tuning; null if it is sound. */
type Found = Omit<Snag, 'id' | 'severity'>;
export type Rule = readonly [SnagId, Severity, (p: Parameters, tuning: Tuning) => Found | null];

export const numberWords = (value: number) => shortNumber(value);
export const neat = (value: number) => Number(value.toPrecision(4));
export const mendTo = (words: string, set: Record<string, FileValue>): Pick<Snag, 'mend'> => ({ mend: { words, set } });

/** Distance (unit) of a tick at the fastest gait. */
export const tickTravel = ({ pace, clock }: Parameters) => Math.max(pace.walkSpeed, pace.sprintSpeed) / clock.hz;

export const steers = ({ scheme }: Parameters) => scheme === 'steer' || scheme === 'latch';

/** The half-life (s) that removes a fraction per tick, limited to 0.001 to 0.999, at every rate; from 0.001 to 10 s, as the catalogue allows. */
export const halfLifeOf = (share: number, hz: number) =>
  neat(Math.min(10, Math.max(0.001, Math.log(0.5) / Math.log(1 - Math.min(0.999, Math.max(0.001, share))) / hz)));
