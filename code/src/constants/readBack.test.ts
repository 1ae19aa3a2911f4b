import { type GameUnits, newTuning, resolveTuning, specs, type Tuning, unitsWord, valueAt, withValue } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { knownNames, unitsOfHandOff } from '../../../core/src/formats/source/handedOver.ts';
import { pastedTuning } from '../../../core/src/formats/source/pasted.ts';
import { placeKnown, placeNumbers } from '../../../core/src/formats/source/placing.ts';
import { readSource } from '../../../core/src/formats/source/source.ts';
import { anotherValue, valueInRange } from '../../../core/src/testing/anyValue.ts';
import { seeds } from '../../../core/src/testing/campaign.ts';
import { sequence } from '../../../core/src/testing/sequence.ts';
import { handOver } from './handOff.ts';
import { writers } from './writers.ts';

/** A tuning with any values that go together, of which most are far from round. */
function anyTuning(next: () => number): Tuning {
  let tuning = resolveTuning(newTuning('Any boots'));
  for (const [path, spec] of specs) {
    if (!tuning.ok || next() < 0.4) continue;
    const value = next() < 0.7 ? anotherValue(spec, next) : valueInRange(spec, next);
    const changed = value === undefined ? tuning : resolveTuning(withValue(tuning.value.file, path, value));
    if (changed.ok) tuning = changed;
  }
  if (!tuning.ok) throw new Error(JSON.stringify(tuning.faults));
  return tuning.value;
}

function anyUnits(next: () => number): GameUnits {
  const pick = <T>(...all: T[]): T => all[Math.floor(next() * all.length)] as T;
  return {
    length: pick('px', 'm', 'tiles'),
    tile: pick(8, 16, 24, 32, 48, 12.5, 1 + next() * 90),
    metre: pick(10, 32, 50, 100, 3.3, 1 + next() * 90),
    time: pick('second', 'frame'),
    hz: pick(24, 30, 50, 60, 72, 120, 144, 59.94),
    angle: pick('degree', 'radian'),
  };
}

/** Names as a game has them, for some parameters. */
function anyNames(next: () => number): Record<string, string> {
  const own: Record<string, string> = {};
  for (const path of specs.keys())
    if (next() < 0.15)
      own[path] = `${['hero', 'k', 'cfg', 'My'][Math.floor(next() * 4)]}_${path.replace(/\W/g, '_')}${Math.floor(next() * 9)}`;
  return own;
}

describe('what was handed over', () => {
  it('is read back equal to the bit: any tuning, in every language, unit and name', () => {
    for (const seed of seeds(30, 1000)) {
      const next = sequence(seed * 40_503);
      const [tuning, units, names, all] = [anyTuning(next), anyUnits(next), anyNames(next), next() < 0.5];
      for (const { id: to } of writers) {
        const { text, faults } = handOver(tuning, 'rev 3', { to, units, names, style: null, all });
        // A number that becomes 0 or infinite in these units is reported, and nothing is written.
        if (faults.length > 0) continue;
        const what = `seed ${seed}, ${to}, ${unitsWord(units)}`;
        const source = readSource(text);
        const said = unitsOfHandOff(text);
        expect(said, what).toEqual({
          ...units,
          tile: units.length === 'tiles' ? units.tile : 32,
          metre: units.length === 'm' ? units.metre : 32,
          hz: units.time === 'frame' ? units.hz : 60,
        });
        const placed = placeKnown(placeNumbers(source.found), knownNames(names), 'by its name');
        const read = pastedTuning('Any boots', placed, { units: said as GameUnits, fileUnit: 'px', strictly: true, isHandedOver: true });
        expect(read.refused, what).toEqual([]);
        const back = resolveTuning(read.file);
        if (!back.ok) throw new Error(`${what}: ${JSON.stringify(back.faults)}`);
        const paths = new Set(placed.map(({ path }) => path));
        for (const [path] of specs) {
          if (all) expect(paths.has(path) || typeof valueAt(tuning.parameters, path) !== 'number', `${what}: ${path} is there`).toBe(true);
          if (paths.has(path)) expect(valueAt(back.value.parameters, path), `${what}: ${path}`).toEqual(valueAt(tuning.parameters, path));
        }
      }
    }
  });
});
