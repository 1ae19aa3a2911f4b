import { World } from '../motion/world.ts';
import { cutTape } from '../replay/cut.ts';
import { type Tape, tapeOf } from '../tape/tape.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { FileValue } from '../tuning/schema.ts';
import { anyEvents } from './anyHands.ts';
import { walled } from './everyWay.ts';
import { sequence } from './sequence.ts';

const HZ = 60;

/** Ten minutes of hands that do anything, now busy and now calm. */
export function tenMinutes(seed: number): Tape {
  const next = sequence(seed);
  const ticks = 600 * HZ;
  const events: Tape['events'] = [];
  for (let at = 0; at < ticks; at++) {
    const calm = at % 1200 < 600 ? 9 : 2;
    if (at % calm === 0) events.push(...anyEvents(next, 900, 900).map((event) => ({ at, ...event })));
  }
  return tapeOf({ name: 'Ten minutes', hz: HZ, ticks, events });
}

/** Settings for ten minutes of driving: walls, stamina, routes and the camera; and steps from cell to cell. */
export const longTunings: [string, Record<string, FileValue>][] = [
  [
    'walls, stamina, routes, camera',
    {
      'stamina.enabled': true,
      'stamina.drain': 40,
      'route.enabled': true,
      'ramp.model': 'smooth',
      'facing.directions': 'free',
      'facing.turn': 'smooth',
      'camera.heading': 20,
      'contact.cornerAssist': 4,
    },
  ],
  ['grid steps, stamina', { scheme: 'step', 'step.ease': 'smooth', 'step.diagonals': true, 'stamina.enabled': true }],
];

/** A minute from the middle of a tape, as it is cut by a tuning. */
export function middleOf(tape: Tape, parameters: Parameters): Tape {
  const from = Math.floor(tape.ticks * 0.47);
  return cutTape(tape, from, from + 60 * HZ, new World(parameters, walled, 1));
}
