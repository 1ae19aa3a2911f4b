import { newGround, newTuning, readTuning, tapeOf, withValue } from '@zygopod/core';
import { expect, it } from 'vitest';
import { otherGround, whyUnfit } from './tapeFit.ts';

const ground = newGround('Boardwalk');
const parametersWith = (values: Record<string, string | boolean>) => {
  const read = readTuning(Object.entries(values).reduce((file, [path, value]) => withValue(file, path, value), newTuning('Boots')));
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value.parameters;
};
const plain = { name: 'Lap', hz: 60, ticks: 60, events: [{ at: 0, press: 'right' as const }] };

it('says of a tape on which ground it was driven, and for which scheme and hands it is made', () => {
  const place = { ground, parameters: parametersWith({}) };
  expect(whyUnfit(tapeOf(plain), place)).toBeNull();
  expect(whyUnfit(tapeOf({ ...plain, ground: 'Boardwalk', scheme: 'steer' }), place)).toBeNull();
  expect(otherGround(tapeOf({ ...plain, ground: 'Ferry deck' }), ground)).toBe('driven on Ferry deck');
  expect(whyUnfit(tapeOf({ ...plain, ground: 'Ferry deck', scheme: 'step' }), place)).toBe(
    'driven on Ferry deck, made for the scheme step',
  );
  const clicks = tapeOf({
    ...plain,
    events: [
      { at: 0, point: [9, 9] },
      { at: 1, press: 'pointer' },
    ],
  });
  expect(whyUnfit(clicks, place)).toContain('does not go to clicks');
  expect(whyUnfit(clicks, { ground, parameters: parametersWith({ 'route.enabled': true }) })).toBeNull();
});
