import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { type Ground, parseGround } from '../ground/ground.ts';
import { applyEvent, beginTick, type HandsEvent, newHands } from '../tape/hands.ts';
import { anyEvents } from '../testing/anyHands.ts';
import { seeds } from '../testing/campaign.ts';
import { sequence } from '../testing/sequence.ts';
import { sound } from '../testing/soundTuning.ts';
import { type Parameters, specs } from '../tuning/catalogue/catalogue.ts';
import { World } from './world.ts';

type Tree = { [key: string]: unknown };

/** The same numbers in a world in which everything is twice as large. */
function doubled(parameters: Parameters): Parameters {
  const twice = structuredClone(parameters);
  for (const [path, spec] of specs) {
    if (spec.kind !== 'number' || !['length', 'speed', 'acceleration'].includes(spec.quantity)) continue;
    const names = path.split('.');
    const last = names.pop() as string;
    const group = names.reduce((tree, name) => tree[name] as Tree, twice as unknown as Tree);
    group[last] = 2 * (group[last] as number);
  }
  return twice;
}

function doubledGround(ground: Ground): Ground {
  const twice = structuredClone(ground);
  twice.size = { width: 2 * ground.size.width, height: 2 * ground.size.height };
  twice.cell *= 2;
  twice.walls = ground.walls.map((wall) => ({ ...wall, points: wall.points.map(([x, y]) => [2 * x, 2 * y]) }));
  twice.start = { ...ground.start, x: 2 * ground.start.x, y: 2 * ground.start.y };
  if (ground.frame) {
    const { x, y, width, height } = ground.frame;
    twice.frame = { x: 2 * x, y: 2 * y, width: 2 * width, height: 2 * height };
  }
  return twice;
}

const doubledEvent = (event: HandsEvent): HandsEvent => ('point' in event ? { point: [2 * event.point[0], 2 * event.point[1]] } : event);

describe('a world twice as large', () => {
  it('is moved through alike, to the bit: nothing depends on how large a unit is', () => {
    const grounds = ['boardwalk', 'tidal-flats', 'sorting-floor', 'ferry-deck'].map((name) => {
      const read = parseGround(readFileSync(new URL(`../../../demo/${name}.ground.json`, import.meta.url), 'utf8'));
      if (!read.ok) throw new Error(name);
      return read.value;
    });
    const apart: string[] = [];
    for (const seed of seeds(40, 600)) {
      const next = sequence(seed * 433_494_437);
      const ground = grounds[seed % grounds.length] as Ground;
      const { parameters } = sound(seed, next() < 0.5 ? { 'route.enabled': true } : {});
      const one = new World(parameters, ground, 400);
      const two = new World(doubled(parameters), doubledGround(ground), 400);
      const [hands, other] = [newHands(), newHands()];
      for (let tick = 0; tick < 400; tick++) {
        beginTick(hands);
        beginTick(other);
        for (const event of anyEvents(next, ground.size.width, ground.size.height)) {
          applyEvent(hands, event);
          applyEvent(other, doubledEvent(event));
        }
        one.tick(hands);
        two.tick(other);
        const row = tick + 1;
        const [dx, dy] = [two.trace.at('x', row) / 2 - one.trace.at('x', row), two.trace.at('y', row) / 2 - one.trace.at('y', row)];
        if (dx === 0 && dy === 0 && one.trace.at('facing', row) === two.trace.at('facing', row)) continue;
        apart.push(
          `seed ${seed}, ${parameters.scheme}, ${ground.name}, tick ${tick}: ${dx}, ${dy}; ${one.trace.at('events', row)} ${two.trace.at('events', row)}`,
        );
        break;
      }
    }
    expect(apart).toEqual([]);
  });
});
