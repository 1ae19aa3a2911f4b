import { mendTo, type Rule } from './rule.ts';

/** Clock. */
export const clockRules: readonly Rule[] = [
  [
    'rate-dependent',
    'fault',
    ({ clock }) =>
      clock.stepping === 'perFrame'
        ? { path: 'clock.stepping', evidence: 'a tick is as long as its frame', ...mendTo('Fixed ticks', { 'clock.stepping': 'fixed' }) }
        : null,
  ],
];
