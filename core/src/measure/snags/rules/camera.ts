import { halfLifeOf, mendTo, numberWords, type Rule } from './rule.ts';

/** Camera. */
export const cameraRules: readonly Rule[] = [
  [
    'rate-dependent',
    'fault',
    ({ camera, clock }) =>
      camera.follow === 'perTick'
        ? {
            path: 'camera.follow',
            evidence: `the view catches up ${numberWords(100 * camera.perTick)} % per tick`,
            ...mendTo('Follow with the equivalent half-life', {
              'camera.follow': 'smooth',
              'camera.halfLife': halfLifeOf(camera.perTick, clock.hz),
            }),
          }
        : null,
  ],
];
