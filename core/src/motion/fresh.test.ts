import { describe, expect, it } from 'vitest';
import type { Hands } from '../tape/hands.ts';
import { Recorder } from '../tape/recorder.ts';
import { anyEvents } from '../testing/anyHands.ts';
import { openGround } from '../testing/drive.ts';
import { sequence } from '../testing/sequence.ts';
import type { FileValue } from '../tuning/schema.ts';
import { newTuning, resolveTuning, withValue } from '../tuning/tuning.ts';
import { World } from './world.ts';

/** A body among walls that stand close, with a ramp and contact of any kind; half of them go to where it is clicked. */
function among(seed: number) {
  const next = sequence(seed * 7919);
  const pick = (...all: FileValue[]): FileValue => all[Math.floor(next() * all.length)] as FileValue;
  const values: Record<string, FileValue> = {
    'body.shape': pick('circle', 'box'),
    'body.radius': 3 + next() * 10,
    'body.width': 6 + next() * 20,
    'body.height': 6 + next() * 20,
    'contact.cornerAssist': pick(0, 4, 12, 12),
    'contact.swept': next() < 0.7,
    'contact.contactsPerTick': 1 + Math.floor(next() * 4),
    'contact.wallFriction': pick(0, next()),
    'contact.keepSpeed': next() < 0.3,
    'bounds.policy': pick('clamp', 'none', 'push', 'wrap'),
    'ramp.model': pick('instant', 'linear', 'smooth'),
    'ramp.turning': pick('vector', 'heading'),
    'pace.walkSpeed': pick(40, 200, 1500),
    'route.enabled': next() < 0.5,
  };
  const tuning = resolveTuning(Object.entries(values).reduce((file, [path, value]) => withValue(file, path, value), newTuning('Among')));
  if (!tuning.ok) throw new Error(JSON.stringify(tuning.faults));
  const walls = Array.from({ length: 40 }, () => {
    const [x, y, angle, long] = [next() * 400, next() * 300, next() * 7, 8 + next() * 40];
    const [dx, dy] = next() < 0.4 ? [next() < 0.5 ? long : 0, long] : [Math.cos(angle) * long, Math.sin(angle) * long];
    return {
      points: [
        [x, y],
        [x + dx, y + dy],
      ] as [number, number][],
    };
  });
  return {
    parameters: tuning.value.parameters,
    ground: openGround({ size: { width: 400, height: 300 }, start: { x: 200, y: 150 }, walls }),
    next,
  };
}

const copyOf = (hands: Hands): Hands => ({ ...hands, held: hands.held.slice(), order: hands.order.slice() });

describe('what a tick comes to', () => {
  it('depends on the state alone, not on what was cached before', () => {
    for (let seed = 1; seed <= 50; seed++) {
      const { parameters, ground, next } = among(seed);
      const recorder = new Recorder();
      const going = new World(parameters, ground, 10);
      let fresh = new World(parameters, ground, 10);
      for (let tick = 0; tick < 240; tick++) {
        for (const event of anyEvents(next)) recorder.push(event);
        if (tick % 15 === 0) recorder.push({ stick: [next() * 2 - 1, next() * 2 - 1] });
        const hands = recorder.next();
        going.tick(copyOf(hands));
        fresh.tick(copyOf(hands));
        expect(fresh.hash(), `seed ${seed}, tick ${tick}`).toBe(going.hash());
        if (tick % 3 !== 0) continue;
        const again = new World(parameters, ground, 10);
        again.restore(fresh.save());
        fresh = again;
      }
    }
  });
});
