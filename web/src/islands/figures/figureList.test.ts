import { describe, expect, it } from 'vitest';
import { figureList, orderedFigures, unusedFigures } from './figureList.ts';

const of = (scheme: 'steer' | 'latch' | 'turn' | 'step', enabled: boolean) =>
  ({ scheme, route: { enabled } }) as Parameters<typeof orderedFigures>[0];
const ids = (scheme: 'steer' | 'latch' | 'turn' | 'step', enabled: boolean) => orderedFigures(of(scheme, enabled)).map(({ id }) => id);

describe('the order of the figures', () => {
  it('is the order of work, with what is not used last', () => {
    expect(ids('steer', false)).toEqual([
      'pace',
      'stamina',
      'walls',
      'edges',
      'facing',
      'hands',
      'body',
      'camera',
      'clock',
      'clicks',
      'steps',
    ]);
  });

  it('begins with what the scheme lives by', () => {
    expect(ids('step', true).slice(0, 2)).toEqual(['steps', 'stamina']);
    expect(ids('steer', true).slice(0, 2)).toEqual(['clicks', 'pace']);
    expect(ids('turn', true).at(-1)).toBe('steps');
  });

  it('holds every figure once, whatever the tuning', () => {
    for (const scheme of ['steer', 'latch', 'turn', 'step'] as const)
      for (const enabled of [true, false]) {
        expect([...ids(scheme, enabled)].sort()).toEqual(figureList.map(({ id }) => id).sort());
        expect([...unusedFigures(of(scheme, enabled))].every((id) => ids(scheme, enabled).includes(id))).toBe(true);
      }
  });
});
