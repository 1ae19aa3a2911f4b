import { mendTo, numberWords, type Rule, steers } from './rule.ts';

/** Stick travel below which there is no dead zone. */
const LEAST_ZONE = 0.03;

/** Hands. */
export const handsRules: readonly Rule[] = [
  [
    'diagonal-fast',
    'fault',
    (p) =>
      !p.input.normaliseDiagonals && steers(p) && p.input.directions !== '4' && p.input.axes === 'both' && p.pace.walkSpeed > 0
        ? {
            path: 'input.normaliseDiagonals',
            evidence: `straight ${numberWords(p.pace.walkSpeed)}, diagonal ${numberWords(p.pace.walkSpeed * Math.SQRT2)}`,
            ...mendTo('Even diagonals', { 'input.normaliseDiagonals': true }),
          }
        : null,
  ],
  [
    'dead-zone-none',
    'risk',
    ({ input }) =>
      input.deadZone < LEAST_ZONE
        ? {
            path: 'input.deadZone',
            evidence: `stick travel above ${numberWords(input.deadZone)} moves it`,
            ...mendTo('A dead zone of 0.15', { 'input.deadZone': 0.15, ...(input.outerZone <= 0.2 ? { 'input.outerZone': 0.95 } : {}) }),
          }
        : null,
  ],
  [
    'two-devices',
    'risk',
    ({ input }) =>
      input.devices === 'sum' || (input.devices === 'newest' && input.deadZone < LEAST_ZONE)
        ? {
            path: 'input.devices',
            evidence: input.devices === 'sum' ? 'keys and stick add up' : 'a stick that trembles at rest takes over from the keys',
            ...mendTo('Let the larger count', { 'input.devices': 'larger' }),
          }
        : null,
  ],
];
