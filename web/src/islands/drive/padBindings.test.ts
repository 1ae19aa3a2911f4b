import type { HandsEvent } from '@zygopod/core';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { DeviceHub } from './hub.ts';
import { pollPads } from './pad.ts';
import {
  $padMaps,
  buttonsOf,
  buttonWord,
  kindOf,
  mapOf,
  type PadMap,
  pushedStick,
  readMaps,
  setPadMap,
  standardMap,
  stickWord,
  withButton,
} from './padBindings.ts';

const store = new Map<string, string>();
let said: HandsEvent[];
let hub: DeviceHub;
beforeEach(() => {
  store.clear();
  $padMaps.set({});
  said = [];
  hub = new DeviceHub((event) => said.push(event));
  vi.stubGlobal('document', { hasFocus: () => true });
  vi.stubGlobal('localStorage', { setItem: (key: string, text: string) => store.set(key, text) });
});

const odd = (axes: number[], pressed: number[] = []) =>
  ({
    id: 'Odd stick 12',
    connected: true,
    mapping: '',
    axes,
    buttons: Array.from({ length: 12 }, (_, i) => ({ pressed: pressed.includes(i) })),
  }) as unknown as Gamepad;

describe('maps of pads', () => {
  it('a pad without the standard mapping does nothing until it has bindings, and then follows them', () => {
    pollPads(hub, () => [odd([1, 0, 0, 0], [3])]);
    expect(said).toEqual([]);
    const map: PadMap = { buttons: { 3: 'sprint' }, stick: [2, 3] };
    setPadMap(kindOf({ id: 'Odd stick 12', mapping: '' }), map);
    pollPads(hub, () => [odd([1, 0, 0.5, 0], [3])]);
    expect(said).toEqual([{ stick: [0.5, 0] }, { press: 'sprint' }]);
    setPadMap('Odd stick 12', null);
    pollPads(hub, () => [odd([1, 0, 0.5, 0], [3])]);
    expect(said.slice(2)).toEqual([{ stick: [0, 0] }, { release: 'sprint' }]);
  });

  it('are kept, and what is no map is left out', () => {
    setPadMap('standard', withButton(standardMap, 4, 'plant'));
    const kept = readMaps([...store.values()][0] as string);
    expect(buttonsOf(mapOf(kept, 'standard'), 'plant')).toEqual([2, 4]);
    expect(readMaps('{"a":{"buttons":{"0":"fly"},"stick":null},"b":{"buttons":{},"stick":[0,1]}}')).toEqual({
      b: { buttons: {}, stick: [0, 1] },
    });
    for (const broken of [null, '', '[', '7', '[]', '{"a":1}']) expect(readMaps(broken)).toEqual({});
  });

  it('a button works one control, or none', () => {
    const moved = withButton(standardMap, 0, 'sprint');
    expect(buttonsOf(moved, 'action')).toEqual([]);
    expect(buttonsOf(moved, 'sprint')).toEqual([0, 5, 7]);
    expect(buttonsOf(withButton(moved, 0, null), 'sprint')).toEqual([5, 7]);
  });

  it('the stick that is pushed furthest is found, and a tremble is not', () => {
    expect(pushedStick([0.1, -0.2, 0, 0.9])).toEqual([2, 3]);
    expect(pushedStick([-0.8, 0.7, 0, 0])).toEqual([0, 1]);
    expect(pushedStick([0.5, 0.5])).toBeNull();
    expect(pushedStick([0, 0, 1])).toBeNull();
  });

  it('have words', () => {
    expect([buttonWord('standard', 5), buttonWord('Odd', 5), buttonWord('standard', 40)]).toEqual([
      'right shoulder',
      'button 6',
      'button 41',
    ]);
    expect([stickWord('standard', [2, 3]), stickWord('Odd', [2, 3]), stickWord('Odd', null)]).toEqual([
      'right stick',
      'axes 3 and 4',
      'none',
    ]);
  });
});
