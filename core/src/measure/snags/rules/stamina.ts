import { mendTo, numberWords, type Rule } from './rule.ts';

/** Share of the bar that a lump may be. */
const COARSE = 0.04;

/** Seconds of a lump beyond which the rate is felt. */
const LUMP = 0.1;

/** Stamina. */
export const staminaRules: readonly Rule[] = [
  [
    'sprint-on-empty',
    'fault',
    ({ stamina }) =>
      stamina.enabled && !stamina.emptyEndsSprint && stamina.drain > 0
        ? {
            path: 'stamina.emptyEndsSprint',
            evidence: `empty after ${numberWords(stamina.max / stamina.drain)} s, and the sprint continues`,
            ...mendTo('End it when empty', { 'stamina.emptyEndsSprint': true }),
          }
        : null,
  ],
  [
    'drain-and-regain',
    'fault',
    ({ stamina }) =>
      stamina.enabled && stamina.regainWhile === 'always' && stamina.regain * stamina.regainMovingFactor > 0
        ? {
            path: 'stamina.regainWhile',
            evidence: `drains ${numberWords(stamina.drain)} and regains ${numberWords(stamina.regain * stamina.regainMovingFactor)} per second at once`,
            ...mendTo('Regain while not sprinting', { 'stamina.regainWhile': 'notSprinting' }),
          }
        : null,
  ],
  [
    'stamina-coarse',
    'risk',
    ({ stamina }) => {
      const lump = Math.max(stamina.drain, stamina.regain) * stamina.interval;
      if (!stamina.enabled || lump <= COARSE * stamina.max) return null;
      return {
        path: 'stamina.interval',
        evidence: `${numberWords(lump)} at once every ${numberWords(stamina.interval)} s, ${numberWords((100 * lump) / stamina.max)} % of the bar`,
        ...mendTo('Drain and regain continuously', { 'stamina.interval': 0 }),
      };
    },
  ],
  [
    'sprint-relock',
    'fault',
    ({ stamina }) =>
      stamina.enabled && stamina.recoverTo < Math.min(stamina.startAt, stamina.max)
        ? {
            path: 'stamina.recoverTo',
            evidence: `unlocks at ${numberWords(stamina.recoverTo)}, starts at ${numberWords(stamina.startAt)}`,
            ...mendTo('Unlock at the start threshold', { 'stamina.recoverTo': stamina.startAt }),
          }
        : null,
  ],
  [
    'rate-dependent',
    'risk',
    ({ stamina }) =>
      stamina.enabled && stamina.interval > LUMP && Math.max(stamina.drain, stamina.regain) > 0
        ? {
            path: 'stamina.interval',
            evidence: `what happens within ${numberWords(stamina.interval)} s is applied at its end`,
            ...mendTo('Drain and regain continuously', { 'stamina.interval': 0 }),
          }
        : null,
  ],
];
