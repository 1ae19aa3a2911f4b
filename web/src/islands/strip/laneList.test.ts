import { readTuning } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { shownLanes, usedLanes } from './laneList.ts';

/** The parameters of a tuning with what is given. */
function parameters(over: object) {
  const read = readTuning({ format: 'zygopod/tuning', version: 2, name: 'T', ...over });
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value.parameters;
}
const names = (over: object, chosen = {}) => shownLanes(parameters(over), chosen).map(({ name }) => name);

describe('the lanes of the strip', () => {
  it('are those that the tuning makes use of', () => {
    const bare = { stamina: { enabled: false }, route: { enabled: false } };
    expect(names(bare)).toEqual(['Speed', 'Gait', 'Facing', 'Contact']);
    expect(names({ ...bare, stamina: { enabled: true } })).toContain('Stamina');
    expect(names({ ...bare, route: { enabled: true } })).toContain('To go');
    expect(names({ ...bare, scheme: 'step' })).toContain('Steps');
    expect(names({ ...bare, route: { enabled: true }, scheme: 'step' })).not.toContain('To go');
  });

  it('are shown and hidden by hand, among those that are used', () => {
    const with_ = { stamina: { enabled: true }, route: { enabled: false } };
    const chosen = { Stamina: false, Pose: true, 'To go': true };
    expect(names(with_, chosen)).toEqual(['Speed', 'Gait', 'Pose', 'Facing', 'Contact']);
    expect(usedLanes(parameters(with_)).map(({ name }) => name)).not.toContain('To go');
  });

  it('are never none', () => {
    const none = Object.fromEntries(usedLanes(parameters({})).map(({ name }) => [name, false]));
    expect(names({}, none)).toEqual(['Speed']);
  });
});
