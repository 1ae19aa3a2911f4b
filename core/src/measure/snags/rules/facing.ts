import { halfLifeOf, mendTo, numberWords, type Rule, steers } from './rule.ts';

/** Facing. */
export const facingRules: readonly Rule[] = [
  [
    'rate-dependent',
    'fault',
    ({ facing, clock }) =>
      facing.turn === 'perTick'
        ? {
            path: 'facing.turn',
            evidence: `turns by ${numberWords(100 * facing.perTick)} % per tick`,
            ...mendTo('Turn with the equivalent half-life', {
              'facing.turn': 'smooth',
              'facing.halfLife': halfLifeOf(facing.perTick, clock.hz),
            }),
          }
        : null,
  ],
  [
    'facing-flickers',
    'risk',
    (p) =>
      p.facing.stickiness === 0 &&
      p.facing.directions !== 'free' &&
      p.facing.from !== 'pointer' &&
      steers(p) &&
      p.input.directions === 'free'
        ? {
            path: 'facing.stickiness',
            evidence: `${p.facing.directions} directions with hard borders`,
            ...mendTo('Hold each direction longer', { 'facing.stickiness': p.facing.directions === '16' ? 5 : 10 }),
          }
        : null,
  ],
  [
    'facing-lost',
    'risk',
    ({ facing }) =>
      facing.whenStill === 'start'
        ? {
            path: 'facing.whenStill',
            evidence: `when standing, it returns to ${numberWords(facing.start)}°`,
            ...mendTo('Keep the last facing', { 'facing.whenStill': 'keep' }),
          }
        : null,
  ],
  [
    'facing-wrong-way',
    'fault',
    ({ facing }) =>
      facing.flip !== 'none'
        ? {
            path: 'facing.flip',
            evidence: `the sign of ${facing.flip} is inverted`,
            ...mendTo('Restore the sign', { 'facing.flip': 'none' }),
          }
        : null,
  ],
];
