import type { Parameters } from '../../../tuning/catalogue/catalogue.ts';
import { stopDistance } from '../../../tuning/outcomes.ts';
import { mendTo, numberWords, type Rule, tickTravel } from './rule.ts';

/** The distance (unit) to rest by the ramp, hands off. */
function distanceToStop({ ramp, pace, clock }: Parameters): number {
  if (ramp.model === 'instant') return 0;
  if (ramp.model === 'smooth') return (pace.walkSpeed * ramp.halfLife) / Math.LN2;
  return stopDistance(pace.walkSpeed, ramp.decelerate, 1 / clock.hz, clock.integration);
}

/** Paths to points. */
export const clicksRules: readonly Rule[] = [
  [
    'arrive-orbits',
    'fault',
    (p) =>
      p.route.enabled && p.scheme !== 'step' && p.route.arrival === 'radiusOnly' && p.route.arriveRadius < tickTravel(p) / 2
        ? {
            path: 'route.arriveRadius',
            evidence: `radius ${numberWords(p.route.arriveRadius)}, one tick travels ${numberWords(tickTravel(p))}`,
            ...mendTo('End on the point exactly', { 'route.arrival': 'exact' }),
          }
        : null,
  ],
  [
    'arrive-overshoots',
    'fault',
    (p) =>
      p.route.enabled && p.scheme !== 'step' && !p.route.brake && distanceToStop(p) > p.route.arriveRadius
        ? {
            path: 'route.brake',
            evidence: `stops within ${numberWords(distanceToStop(p))}, the radius is ${numberWords(p.route.arriveRadius)}`,
            ...mendTo('Brake before the point', { 'route.brake': true }),
          }
        : null,
  ],
  [
    'plant-resumes',
    'risk',
    ({ route }) =>
      route.enabled && route.afterPlant === 'resume'
        ? {
            path: 'route.afterPlant',
            evidence: 'the destination is kept while planted',
            ...mendTo('Forget the destination', { 'route.afterPlant': 'forget' }),
          }
        : null,
  ],
];
