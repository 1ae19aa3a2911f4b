import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { TapeEvent } from '../tape/tape.ts';
import { drive, openGround } from '../testing/drive.ts';
import type { FileValue } from '../tuning/schema.ts';
import { apartAt, partings, type Side } from './partings.ts';

const between = (min: number, max: number) => fc.double({ min, max, noNaN: true });
function side(name: string, values: Record<string, FileValue>, events: TapeEvent[], ticks = 300, ground = openGround()): Side {
  const world = drive({ 'ramp.model': 'instant', ...values }, ticks, events, ground);
  return { name, trace: world.trace, parameters: world.parameters };
}
const right: TapeEvent[] = [{ at: 0, press: 'right' }];

describe('where two sides part', () => {
  it('two steady walks are apart by the difference of their speeds, and a body apart after its width over that', () => {
    fc.assert(
      fc.property(between(60, 300), between(1.3, 2.5), (walk, factor) => {
        const [a, b] = [side('a', { 'pace.walkSpeed': walk }, right), side('b', { 'pace.walkSpeed': walk * factor }, right)];
        const apart = walk * (factor - 1);
        for (const time of [0.5, 1.234, 3]) expect(apartAt(a.trace, b.trace, time)).toBeCloseTo(apart * time, 6);
        const found = partings(a, b, 'px');
        expect(found.find(({ kind }) => kind === 'body')?.time).toBeCloseTo(24 / apart, 6);
        expect(found.find(({ kind }) => kind === 'start')?.words).toMatch(/^a starts slower/);
        expect(found.at(-1)?.kind).toBe('most');
        expect(found.at(-1)?.time).toBeCloseTo(5, 9);
      }),
      { numRuns: 40 },
    );
  });

  it('a side and itself never part', () => {
    const same = side('a', { 'stamina.enabled': true }, [...right, { at: 40, press: 'sprint' }, { at: 200, release: 'right' }]);
    expect(partings(same, { ...same, name: 'b' }, 'px')).toEqual([]);
  });

  it('is the same with the sides in the other order, but for the time of the first', () => {
    const events: TapeEvent[] = [...right, { at: 60, press: 'sprint' }, { at: 200, release: 'right' }];
    const a = side('a', { 'ramp.model': 'linear', 'ramp.decelerate': 400 }, events);
    const b = side('b', { 'ramp.model': 'linear', 'ramp.decelerate': 2000 }, events);
    const words = (found: { words: string }[]) => found.map((one) => one.words).sort();
    expect(words(partings(a, b, 'px'))).toEqual(words(partings(b, a, 'px')));
    expect(words(partings(a, b, 'px')).join()).toContain('a comes to rest');
  });

  it('reports a side that does not sprint, and one that runs empty', () => {
    const events: TapeEvent[] = [...right, { at: 60, press: 'sprint' }];
    const a = side('a', { 'stamina.enabled': true, 'stamina.drain': 50 }, events);
    const b = side('b', { 'stamina.enabled': true, 'stamina.drain': 50 }, right);
    const found = partings(a, b, 'px').map(({ words }) => words);
    expect(found).toContain('a begins to sprint, b does not');
    expect(found).toContain('a runs empty, b does not');
    const later = side('c', { 'stamina.enabled': true, 'stamina.drain': 40 }, events);
    expect(partings(a, later, 'px').map(({ words }) => words)).toContain('c runs empty 0.5 s later');
  });

  it('reports a wall that only one side meets, and different facings', () => {
    const wall = {
      points: [
        [300, 0],
        [300, 2000],
      ] as [number, number][],
      closed: false,
      solid: true,
    };
    const ground = openGround({ start: { x: 200, y: 200, facing: 0 }, walls: [wall] });
    const events: TapeEvent[] = [...right, { at: 150, release: 'right' }, { at: 150, press: 'down' }];
    const a = side('a', {}, events, 300, ground);
    const b = side('b', { 'contact.response': 'none' }, events, 300, ground);
    expect(partings(a, b, 'px').map(({ words }) => words)).toContain('a meets a wall where b meets none');
    const c = side('c', { 'facing.turn': 'rate', 'facing.rate': 60 }, events, 300, ground);
    const turned = partings(a, c, 'px').find(({ kind }) => kind === 'turn');
    expect(turned?.time).toBeGreaterThan(2.4);
    expect(turned?.time).toBeLessThan(2.7);
  });
});
