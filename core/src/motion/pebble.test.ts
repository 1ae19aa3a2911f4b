import { describe, expect, it } from 'vitest';
import { bucketWalls, WallIndex } from '../ground/wallIndex.ts';
import type { TapeEvent } from '../tape/tape.ts';
import { drive, openGround } from '../testing/drive.ts';
import { LAUNCHED } from './events.ts';
import { throwPebble } from './pebble.ts';

const ring = openGround({
  walls: [
    {
      points: [
        [-100, -100],
        [100, -100],
        [100, 100],
        [-100, 100],
      ],
      closed: true,
    },
  ],
});

describe('a pebble', () => {
  it('flies along the facing until the first wall, in every direction', () => {
    const walls = new WallIndex(bucketWalls(ring));
    for (let angle = -180; angle < 180; angle += 15) {
      const flight = throwPebble(walls, 0, 0, angle);
      const radians = (angle * Math.PI) / 180;
      const reach = 100 / Math.max(Math.abs(Math.cos(radians)), Math.abs(Math.sin(radians)));
      expect(flight.hits).toBe(true);
      expect(flight.length).toBeCloseTo(reach, 6);
      expect(Math.atan2(flight.dy, flight.dx)).toBeCloseTo(angle === -180 ? -Math.PI : radians, 9);
    }
    expect(throwPebble(walls, 300, 0, 0).hits).toBe(false);
  });

  it('is thrown in the tick of the press, in each of the eight directions that are faced', () => {
    const directions = [['right'], ['right', 'down'], ['down'], ['down', 'left'], ['left'], ['left', 'up'], ['up'], ['up', 'right']];
    directions.forEach((controls, i) => {
      const events: TapeEvent[] = [...controls.map((press) => ({ at: 0, press }) as TapeEvent), { at: 10, press: 'launch' }];
      const { trace } = drive({}, 20, events);
      const rows = Array.from({ length: trace.end }, (_, row) => row).filter((row) => trace.at('events', row) & LAUNCHED);
      expect(rows).toEqual([11]);
      expect(trace.at('facing', 11)).toBeCloseTo(i <= 4 ? i * 45 : i * 45 - 360, 9);
    });
  });
});
