import type { HandsEvent } from '@zygopod/core';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { bindingConflict, defaultBindings } from './bindings.ts';
import { DeviceHub } from './hub.ts';
import { pollPads } from './pad.ts';
import { swipeBetween } from './swipe.ts';

let said: HandsEvent[];
let hub: DeviceHub;
beforeEach(() => {
  said = [];
  hub = new DeviceHub((event) => said.push(event));
  vi.stubGlobal('document', { hasFocus: () => true });
});

const pad = (x: number, y: number, pressed: number[] = []) =>
  ({
    connected: true,
    mapping: 'standard',
    axes: [x, y],
    buttons: Array.from({ length: 17 }, (_, i) => ({ pressed: pressed.includes(i) })),
  }) as unknown as Gamepad;

describe('the hub', () => {
  it('holds a control while any device holds it', () => {
    hub.press('keyboard', 'sprint');
    hub.press('pad', 'sprint');
    hub.release('keyboard', 'sprint');
    expect(said).toEqual([{ press: 'sprint' }]);
    hub.release('pad', 'sprint');
    expect(said).toEqual([{ press: 'sprint' }, { release: 'sprint' }]);
  });

  it('takes the larger of two sticks, never the sum', () => {
    hub.stick('pad', 0.5, 0);
    hub.stick('screen', 0.6, 0);
    hub.stick('pad', 0.7, 0);
    expect(said).toEqual([{ stick: [0.5, 0] }, { stick: [0.6, 0] }, { stick: [0.7, 0] }]);
    hub.letGo('pad');
    expect(said.at(-1)).toEqual({ stick: [0.6, 0] });
  });
});

describe('pads', () => {
  it('press and release, steer by the largest deflection, and let go when unplugged', () => {
    pollPads(hub, () => [pad(0.25, 0, [0]), null, pad(0, -0.75)]);
    expect(said).toEqual([{ stick: [0, -0.75] }, { press: 'action' }]);
    pollPads(hub, () => [null]);
    expect(said.slice(2)).toEqual([{ release: 'action' }, { stick: [0, 0] }]);
    pollPads(hub, () => []);
    expect(said).toHaveLength(4);
  });

  it('are left to the window in front', () => {
    pollPads(hub, () => [pad(1, 0)]);
    vi.stubGlobal('document', { hasFocus: () => false });
    pollPads(hub, () => [pad(1, 0)]);
    expect(said).toEqual([{ stick: [1, 0] }, { stick: [0, 0] }]);
  });
});

describe('swipes', () => {
  const at = (x: number, y: number, time: number) => ({ x, y, time });
  it('have a direction, unless too short or too slow', () => {
    expect(swipeBetween(at(0, 0, 0), at(60, 20, 200), 40, 0.4).direction).toBe('right');
    expect(swipeBetween(at(0, 0, 0), at(-60, 20, 200), 40, 0.4).direction).toBe('left');
    expect(swipeBetween(at(0, 0, 0), at(10, -60, 200), 40, 0.4).direction).toBe('up');
    expect(swipeBetween(at(0, 0, 0), at(10, 60, 200), 40, 0.4).direction).toBe('down');
    expect(swipeBetween(at(0, 0, 0), at(30, 20, 200), 40, 0.4).direction).toBeNull();
    expect(swipeBetween(at(0, 0, 0), at(60, 0, 500), 40, 0.4).direction).toBeNull();
  });
});

describe('bindings', () => {
  it('conflict with other controls, with commands, and with the keys of panels', () => {
    expect(bindingConflict(defaultBindings, 'KeyW', 'down', [])).toContain('works “Up”');
    expect(bindingConflict(defaultBindings, 'KeyB', 'down', ['B'])).toContain('command');
    expect(bindingConflict(defaultBindings, 'Space', 'down', [])).toContain('panels');
    expect(bindingConflict(defaultBindings, 'KeyL', 'down', ['B'])).toBeNull();
    expect(bindingConflict(defaultBindings, 'KeyS', 'down', [])).toBeNull();
  });
});
