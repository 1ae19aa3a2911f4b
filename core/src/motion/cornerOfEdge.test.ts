import { describe, expect, it } from 'vitest';
import type { Control } from '../tape/controls.ts';
import { seeds } from '../testing/campaign.ts';
import { drive, openGround } from '../testing/drive.ts';
import { sequence } from '../testing/sequence.ts';
import { EDGE_LEFT, EDGE_MET, WALL_LEFT, WALL_MET } from './events.ts';

/** The ground's size, and where the wall meets its edge. */
const SIZE = 400;

/** Mirror images of a corner: of the place and of the hands. */
const mirrors = [
  { x: 1, y: 1 },
  { x: -1, y: 1 },
  { x: 1, y: -1 },
  { x: -1, y: -1 },
] as const;

describe('a corner of a wall and an edge', () => {
  it('is met once and not left while it is pressed, the same in every mirror image', () => {
    const failures: string[] = [];
    for (const seed of seeds(60, 1500)) {
      const next = sequence(seed * 961_748_941);
      const pick = <T>(...all: T[]): T => all[Math.floor(next() * all.length)] as T;
      // A wall from the right edge inwards, at some angle, above or below the body.
      const slope = pick(0, 0.25, 0.5, 1, 2, next() * 3) * pick(1, -1);
      const wallY = 150 + 100 * next();
      const long = 120;
      const values = {
        'body.shape': pick('circle', 'box'),
        'body.radius': 5 + 15 * next(),
        'bounds.measure': pick('body', 'centre'),
        'ramp.model': pick('linear', 'instant', 'smooth'),
        'contact.response': pick('slide', 'slide', 'slide', 'stop'),
        'contact.wallFriction': pick(0, 0, 0.3),
        'contact.skin': pick(0.01, 0.001, 0.1),
        'pace.walkSpeed': 60 + 200 * next(),
        'clock.hz': pick(30, 60, 144),
        'bounds.policy': 'clamp',
      };
      const held: Control[] = pick<Control[]>(['right'], ['right', 'down'], ['right', 'down'], ['down']);
      const start = { x: SIZE - 60 - 60 * next(), y: wallY - 60 - 50 * next() };
      const states = mirrors.map((mirror) => {
        const at = (x: number, y: number): [number, number] => [mirror.x < 0 ? SIZE - x : x, mirror.y < 0 ? SIZE - y : y];
        const points = [at(SIZE + 20, wallY + 20 * slope), at(SIZE - long, wallY - long * slope)];
        const [x, y] = at(start.x, start.y);
        const ground = openGround({
          size: { width: SIZE, height: SIZE },
          start: { x, y },
          walls: [{ points, closed: false, solid: true }],
        } as never);
        const press = (control: Control): Control =>
          control === 'right' && mirror.x < 0 ? 'left' : control === 'down' && mirror.y < 0 ? 'up' : control;
        const hz = values['clock.hz'];
        const ticks = 5 * hz;
        const { trace } = drive(
          values,
          ticks,
          held.map((control) => ({ at: 0, press: press(control) })),
          ground,
        );
        const events: string[] = [];
        for (let row = trace.first; row < trace.end; row++) {
          const bits = trace.at('events', row) & (EDGE_MET | EDGE_LEFT | WALL_MET | WALL_LEFT);
          if (bits !== 0) events.push(`${row}:${bits}`);
          const stands = row > 1 && trace.at('x', row) === trace.at('x', row - 2) && trace.at('y', row) === trace.at('y', row - 2);
          if (stands && bits !== 0)
            failures.push(`seed ${seed}, mirror ${JSON.stringify(mirror)}, row ${row} of ${ticks}: ${bits} at rest`);
        }
        return events.join(' ');
      });
      for (const one of states)
        if (one !== states[0]) failures.push(`seed ${seed} ${JSON.stringify(values)} ${held} slope ${slope}: ${states[0]} | ${one}`);
    }
    expect(failures).toEqual([]);
  });
});
