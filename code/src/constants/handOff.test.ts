import {
  constantsOf,
  type FileValue,
  type GameUnits,
  inCase,
  inGameUnits,
  newTuning,
  plainUnits,
  readSource,
  readTuning,
  readUnits,
  specs,
  unitsWord,
  withValue,
  wordsOfPath,
} from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { sequence } from '../../../core/src/testing/sequence.ts';
import { changesSince, type HandOffChoice, handOver } from './handOff.ts';
import { nameConstants } from './naming.ts';
import { writers } from './writers.ts';

function tuned(values: Record<string, FileValue> = {}, name = 'Carrier, day boots') {
  const read = readTuning(Object.entries(values).reduce((file, [path, value]) => withValue(file, path, value), newTuning(name)));
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value;
}
const choice = (changes: Partial<HandOffChoice> = {}): HandOffChoice => ({
  to: 'c',
  units: plainUnits,
  names: {},
  style: null,
  all: false,
  ...changes,
});
const code = writers.filter(({ comment }) => comment !== null);

describe('constants', () => {
  it('are what the tuning uses, with unit and outcome, or all of it', () => {
    const tuning = tuned({ 'pace.walkSpeed': 140, 'ramp.decelerate': 1400, 'clock.integration': 'exact' });
    const { text } = handOver(tuning, 'rev 12', choice());
    expect(text).toMatch(/^\/\* Carrier, day boots, rev 12\. Units: px, second, degree\. \*\/\n#ifndef CARRIER_DAY_BOOTS_H\n/);
    expect(text).toMatch(/#define WALK_SPEED +140\.0 {2}\/\* px\/s \*\/\n/);
    expect(text).toMatch(/#define SPRINT_SPEED +245\.0 {2}\/\* px\/s, 1\.75 × walk \*\/\n/);
    expect(text).toMatch(/#define DECELERATE +1400\.0 {2}\/\* px\/s\^2, stops within 7 px \*\/\n/);
    expect(text).not.toContain('STAMINA_DRAIN');
    expect(handOver(tuning, 'rev 12', choice({ all: true })).text).toContain('STAMINA_DRAIN');
  });

  it('are preceded by their groups where their own names are ambiguous', () => {
    expect(wordsOfPath('pace.walkSpeed')).toEqual(['walk', 'speed']);
    expect(wordsOfPath('stamina.max')).toEqual(['stamina', 'max']);
    expect(wordsOfPath('scheme')).toEqual(['scheme']);
    const words = ['turn', 'rate'];
    expect(['SCREAMING_SNAKE', 'snake_case', 'camelCase', 'PascalCase'].map((style) => inCase(words, style as never))).toEqual([
      'TURN_RATE',
      'turn_rate',
      'turnRate',
      'TurnRate',
    ]);
  });

  it.each(writers.map(({ id }) => id))('in %s have no name twice, whatever is handed over', (to) => {
    for (const scheme of ['steer', 'step', 'turn', 'latch'])
      for (const all of [true, false]) expect(handOver(tuned({ scheme }), 'rev 1', choice({ to, all })).faults).toEqual([]);
  });

  it('are read back from every language with the numbers that went in: 40 random tunings in random units', () => {
    const next = sequence(77);
    for (let i = 0; i < 40; i++) {
      const units: GameUnits = {
        length: (['px', 'm', 'tiles'] as const)[Math.floor(next() * 3)] ?? 'px',
        tile: 8 + Math.floor(next() * 60),
        metre: 10 + Math.floor(next() * 90),
        time: next() < 0.5 ? 'second' : 'frame',
        hz: [30, 60, 144][Math.floor(next() * 3)] as number,
        angle: next() < 0.5 ? 'degree' : 'radian',
      };
      const tuning = tuned({
        'pace.walkSpeed': Math.round(next() * 5000) / 10,
        'ramp.accelerate': 1 + next() * 3000,
        'stamina.enabled': next() < 0.5,
        'body.radius': 1 + Math.round(next() * 30),
        'route.enabled': next() < 0.5,
      });
      for (const { id } of writers) {
        const { text, values, faults } = handOver(tuning, 'rev 1', choice({ to: id, units, all: next() < 0.5 }));
        expect(faults).toEqual([]);
        const found = new Map(readSource(text).found.map(({ name, value }) => [name.split('.').at(-1), value]));
        for (const [name, value] of Object.entries(values))
          if (typeof value === 'number') expect(found.get(name), `${id} ${name} in ${unitsWord(units)}`).toBe(value);
      }
    }
  });
});

describe('units', () => {
  it('are those of the formula: lengths by the tile, rates by the frame, turns by π/180', () => {
    const units = { ...plainUnits, length: 'tiles', tile: 16, time: 'frame', hz: 50, angle: 'radian' } as const;
    expect(inGameUnits(32, 'length', 'px', units)).toBe(2);
    expect(inGameUnits(160, 'speed', 'px', units)).toBe(0.2);
    expect(inGameUnits(1600, 'acceleration', 'px', units)).toBe(0.04);
    expect(inGameUnits(0.5, 'time', 'px', units)).toBe(25);
    expect(inGameUnits(20, 'rate', 'px', units)).toBe(0.4);
    expect(inGameUnits(180, 'angle', 'px', units)).toBeCloseTo(Math.PI, 8);
    expect(inGameUnits(360, 'angularSpeed', 'px', units)).toBeCloseTo((2 * Math.PI) / 50, 8);
    expect(inGameUnits(0.3, 'ratio', 'px', units)).toBe(0.3);
    expect(inGameUnits(3, 'length', 'm', { ...plainUnits, metre: 20 })).toBe(60);
    expect(inGameUnits(3, 'length', 'm', { ...plainUnits, length: 'm' })).toBe(3);
    expect(inGameUnits(30, 'length', 'px', { ...plainUnits, length: 'm', metre: 20 })).toBe(1.5);
  });

  it('are read from a word and written as one', () => {
    expect(readUnits('')).toEqual(plainUnits);
    for (const word of ['px,second,degree', 'tiles:16,frame:30,radian', 'm:50,second,degree'])
      expect(unitsWord(readUnits(word) as GameUnits)).toBe(word);
    for (const wrong of ['miles', 'tiles:0', 'tiles:x', 'frame:-1', 'm:Infinity']) expect(typeof readUnits(wrong), wrong).toBe('string');
  });

  it('that make a number 0 or endless are faults, and nothing is written', () => {
    const { text, faults } = handOver(
      tuned({ 'pace.walkSpeed': 1e-3 }),
      'rev 1',
      choice({ units: { ...plainUnits, length: 'tiles', tile: 1e320 } }),
    );
    expect(text).toBe('');
    expect(faults.find(({ path }) => path === 'pace.walkSpeed')?.why).toBe('0.001 becomes 0 in these units');
  });
});

describe('names of a game', () => {
  it('stand in place of ours', () => {
    const names = { 'pace.walkSpeed': 'kMove', 'ramp.accelerate': 'Zoom' };
    for (const { id } of writers) expect(handOver(tuned(), 'rev 1', choice({ to: id, names })).text).toContain('kMove');
    expect(handOver(tuned(), 'rev 1', choice({ style: 'PascalCase' })).text).toMatch(/#define WalkSpeed /);
  });

  it('that are reserved, invalid or duplicate are reported before anything is written', () => {
    for (const writer of code) {
      const word = writer.reserved[3] as string;
      const { text, faults } = handOver(
        tuned(),
        'rev 1',
        choice({ to: writer.id, names: { 'pace.walkSpeed': word, 'body.radius': '2nd foot', 'ramp.brake': 'same', 'ramp.ease': 'same' } }),
      );
      expect(text).toBe('');
      expect(faults.map(({ path }) => path).toSorted()).toEqual(['body.radius', 'pace.walkSpeed', 'ramp.ease']);
      expect(faults.find(({ path }) => path === 'pace.walkSpeed')?.why).toContain(word);
    }
    const { constants } = constantsOf(tuned(), { units: plainUnits, names: { 'pace.walkSpeed': 'for' }, all: true });
    expect(nameConstants(constants, writers.find(({ id }) => id === 'json') as never).faults).toEqual([]);
  });

  it('and texts of any kind break out of no comment', () => {
    const { text } = handOver(tuned({}, 'Boots */ int main() {} //\n#include'), 'rev 1', choice());
    expect(text.split('\n')[0]).toMatch(/\*\/$/);
    expect(text.split('\n')[0]?.slice(0, -2)).not.toContain('*/');
    for (const { id } of code) expect(handOver(tuned({}, 'A\nB'), 'rev 1', choice({ to: id })).text.split('\n')[0]).toContain('A B');
  });
});

describe('the next hand-off', () => {
  it('lists only the differences from the one before', () => {
    const [was, now] = [tuned(), tuned({ 'ramp.decelerate': 1000, 'stamina.enabled': true })].map(
      (tuning) => handOver(tuning, 'rev 1', choice()).values,
    );
    expect(changesSince(was ?? {}, was ?? {})).toEqual([]);
    const changes = changesSince(was ?? {}, now ?? {});
    expect(changes.find(({ name }) => name === 'DECELERATE')).toEqual({ name: 'DECELERATE', from: 1200, to: 1000 });
    expect(changes.find(({ name }) => name === 'STAMINA_DRAIN')).toMatchObject({ from: null });
    expect(changesSince(now ?? {}, was ?? {}).find(({ name }) => name === 'STAMINA_DRAIN')).toMatchObject({ to: null });
    expect(changes.length).toBeLessThan(specs.size / 2);
  });
});
