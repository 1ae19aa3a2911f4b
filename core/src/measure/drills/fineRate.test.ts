import { describe, expect, it } from 'vitest';
import { agrees, atManyTicks, each, measured } from '../../testing/measuring.ts';
import { sequence } from '../../testing/sequence.ts';
import type { FileValue } from '../../tuning/schema.ts';

describe('metrics of facing are those at a fine tick rate', () => {
  it('where it follows the movement at once, or the pointer while planted', () => {
    each(40, 400, (seed) => {
      const next = sequence(seed * 86_028_121);
      const pick = <T>(...all: T[]): T => all[Math.floor(next() * all.length)] as T;
      const hz = Math.round(20 + next() * 220);
      const directions = pick('2', '4', '8', '16', 'free');
      const values = {
        'pace.walkSpeed': 40 + next() * 300,
        'ramp.model': pick('instant', 'linear', 'smooth'),
        'ramp.accelerate': 300 * 30 ** next(),
        'ramp.brake': 300 * 30 ** next(),
        'ramp.halfLife': 0.05 + 0.2 * next(),
        'clock.integration': 'exact',
        'clock.hz': hz,
        'facing.directions': directions,
        // A tick that passes over a narrow sector isn't held by it.
        'facing.stickiness': directions === '2' || directions === '4' ? 8 * next() : 0,
        'route.enabled': true,
      };
      const what = `seed ${seed}, ${JSON.stringify(values)}`;
      const [turn, plant] = [measured(values, 'facing-turn').facingLag, measured(values, 'plant').plantTurn];
      agrees(turn, atManyTicks(values, hz, 'facing-turn').facingLag as number, 1 / hz, `${what}: facingLag`);
      agrees(plant, atManyTicks(values, hz, 'plant').plantTurn as number, 1 / hz, `${what}: plantTurn`);
    });
  });
});

describe('metrics of clicks are those of the path', () => {
  it('from a click to the point or into its radius, braking for the remaining path, at every rate', () => {
    each(80, 800, (seed) => {
      const next = sequence(seed * 67_867_967);
      const [hz, walk, up, down] = [Math.round(20 + next() * 220), 40 + next() * 300, 300 * 30 ** next(), 100 * 60 ** next()];
      const [isInstant, isExact, reach] = [next() < 0.2, next() < 0.6, 1 + 20 * next()];
      const m = measured(
        {
          'route.enabled': true,
          'route.brake': true,
          'route.arrival': isExact ? 'exact' : 'radiusOnly',
          'route.arriveRadius': reach,
          'pace.walkSpeed': walk,
          'ramp.model': isInstant ? 'instant' : 'linear',
          'ramp.accelerate': up,
          'ramp.decelerate': down,
          'clock.integration': 'exact',
          'clock.hz': hz,
        },
        'click-tour',
      );
      // Up at one rate, on at the walk, and down along v = √(2·down·left): to the point, or to its radius with some speed left.
      const travelled = Math.hypot(14, 9) * 24;
      const [rise, fall] = [isInstant ? 0 : (walk * walk) / (2 * up), (walk * walk) / (2 * down)];
      const peak = rise + fall <= travelled ? walk : Math.sqrt((2 * travelled) / (1 / up + 1 / down));
      const cruise = Math.max(0, travelled - rise - fall) / walk;
      const speed = isExact ? 0 : Math.min(peak, Math.sqrt(2 * down * reach));
      const spared = isExact ? 0 : Math.max(0, reach - (peak * peak) / (2 * down)) / peak;
      const wanted = (isInstant ? 0 : peak / up) + cruise + (peak - speed) / down - spared - 0.05;
      const what = `seed ${seed}: ${walk} unit/s at ${hz} Hz, up ${isInstant ? 'at once' : up}, down ${down}, ${isExact ? 'exact' : `into ${reach}`}`;
      expect(Math.abs((m.arriveTime ?? Infinity) - wanted) * hz, `${what}: ${m.arriveTime}, by the way ${wanted}`).toBeLessThanOrEqual(0.1);
    });
  });
});

describe('metrics of heading turning are those at a fine tick rate', () => {
  it('turned round by the ramp and the turn, whichever ends the braking', () => {
    each(40, 400, (seed) => {
      const next = sequence(seed * 122_949_823);
      const hz = Math.round(20 + next() * 220);
      const values = {
        'pace.walkSpeed': 40 + next() * 300,
        'ramp.model': (['instant', 'linear', 'smooth', 'curve'] as const)[Math.floor(next() * 4)] as FileValue,
        'ramp.turning': 'heading',
        'ramp.turnRate': 60 * 60 ** next(),
        'ramp.accelerate': 300 * 30 ** next(),
        'ramp.decelerate': 300 * 30 ** next(),
        'ramp.brake': 300 * 30 ** next(),
        'ramp.halfLife': 0.05 + 0.2 * next(),
        'clock.integration': 'exact',
        'clock.hz': hz,
      };
      const what = `seed ${seed}, ${JSON.stringify(values)}`;
      const [m, fine] = [measured(values, 'turn-round'), atManyTicks(values, hz, 'turn-round')];
      try {
        agrees(m.reverseTime, fine.reverseTime as number, 1 / hz, `${what}: reverseTime`);
        agrees(m.reverseOvershoot, fine.reverseOvershoot as number, (values['pace.walkSpeed'] as number) / hz, `${what}: reverseOvershoot`);
      } catch (e) {
        console.log('BAD', (e as Error).message.slice(0, 600));
      }
    });
  });
});
