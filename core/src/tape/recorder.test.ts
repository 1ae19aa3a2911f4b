import { describe, expect, it } from 'vitest';
import { World } from '../motion/world.ts';
import { openGround, parametersWith } from '../testing/drive.ts';
import { sequence } from '../testing/sequence.ts';
import { controls } from './controls.ts';
import { Recorder } from './recorder.ts';
import { Replay } from './replay.ts';

const directions = ['up', 'down', 'left', 'right'] as const;

describe('taps that come in one tick', () => {
  it('are each stepped, in their order, as if they had come one by one', () => {
    for (let seed = 1; seed <= 100; seed++) {
      const next = sequence(seed * 31);
      const taps = Array.from({ length: 4 }, () => directions[Math.floor(next() * 4)] as (typeof directions)[number]);
      const parameters = parametersWith({ scheme: 'step', 'step.time': 0, 'bounds.policy': 'none' });
      const world = new World(parameters, openGround({ start: { x: 1008, y: 1008 } }), 100);
      const recorder = new Recorder();
      for (const direction of taps) {
        recorder.push({ press: direction });
        recorder.push({ release: direction });
      }
      for (let tick = 0; tick < 8; tick++) world.tick(recorder.next());
      const moved = (low: string, high: string) =>
        32 * (taps.filter((direction) => direction === high).length - taps.filter((direction) => direction === low).length);
      expect([world.body.x, world.body.y], taps.join(' ')).toEqual([1008 + moved('left', 'right'), 1008 + moved('up', 'down')]);
      const tape = recorder.tape('Taps', 60);
      const again = new World(parameters, openGround({ start: { x: 1008, y: 1008 } }), 100);
      const replay = new Replay(tape, 60);
      for (let tick = 0; tick < 8; tick++) again.tick(replay.next());
      expect(again.hash()).toBe(world.hash());
    }
  });

  it('two keys held down together are held in the same tick', () => {
    const recorder = new Recorder();
    for (const press of ['right', 'down'] as const) recorder.push({ press });
    const { held } = recorder.next();
    expect([held[controls.indexOf('right')], held[controls.indexOf('down')]]).toEqual([1, 2]);
  });
});
