import { describe, expect, it } from 'vitest';
import { campaign } from '../../testing/campaign.ts';
import { sequence } from '../../testing/sequence.ts';
import { fragmentsOf } from '../../testing/sources/corpus.ts';
import { heldIn } from '../../tuning/catalogue/specs.ts';
import { isLink } from '../../tuning/links.ts';
import type { TuningFile } from '../../tuning/schema.ts';
import { numberAt, numberSpec, rawAt, resolveTuning, type Tuning, withValue } from '../../tuning/tuning.ts';
import { type GameUnits, plainUnits, readUnits } from '../handOff/units.ts';
import { pastedTuning } from './pasted.ts';
import { type Placed, placeNumbers } from './placing.ts';
import { proposeUnits } from './proposeUnits.ts';
import { readSource } from './source.ts';
import { writeBack } from './writeBack.ts';

const fragments = (['compiled', 'scripts', 'data'] as const).flatMap(fragmentsOf);

function resolved(file: TuningFile): Tuning {
  const read = resolveTuning(file);
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.value;
}

/** A source as it is read, all its guesses confirmed. */
function opened(code: string, units?: string) {
  const source = readSource(code);
  const placed = placeNumbers(source.found).map((one): Placed => ({ ...one, isGuess: false }));
  const terms =
    units === undefined
      ? proposeUnits(placed, source).terms
      : { units: readUnits(units) as GameUnits, fileUnit: 'px' as const, strictly: false };
  return { placed, terms, tuning: resolved(pastedTuning('Opened', placed, terms).file) };
}

/** The number changed by a share, still in its range; a link in its factor. */
function changed(tuning: Tuning, path: string, by: number): Tuning {
  const raw = rawAt(tuning.file, path);
  if (isLink(raw)) return resolved(withValue(tuning.file, path, { ...raw, times: (raw.times ?? 1) * by }));
  return resolved(withValue(tuning.file, path, heldIn(numberSpec(path), numberAt(tuning.parameters, path) * by)));
}

const numbers = /0[xX][\da-fA-F_']+|0[bB][01_']+|(?:\d+(?:[_']\d+)*(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d+)?/g;
/** A line in which numbers have to be whole. */
const wholeTyped = /\b(?:int|long|unsigned|enum|Integer|HERO_\w+|CELL_SIZE|STEP_MS|cell_size)\b|0[xb]/;
/** A line with its numbers blanked. */
const blank = (line: string) => line.replace(numbers, '#');

describe('a source with a tuning’s numbers in it', () => {
  it('differs in the numbers that changed and in nothing else, and reads as the tuning: 210 sources, three numbers each', () => {
    let written = 0;
    for (let round = 1; round <= campaign(2, 10); round++)
      for (const [i, { title, code }] of fragments.entries()) {
        const next = sequence(round * 7919 + i);
        // Line ends, a byte order mark, blanks behind lines and none at the end belong to the file.
        const dressed = `${next() < 0.2 ? '\ufeff' : ''}${next() < 0.3 ? code.replaceAll('\n', '\r\n') : code.replaceAll('\n', next() < 0.3 ? '  \n' : '\n')}${next() < 0.3 ? '' : '\n'}`;
        const { placed, terms, tuning } = opened(dressed);
        const places = placed.filter(
          (one): one is Placed & { path: string } => one.path !== null && one.says === undefined && one.found.kind === 'number',
        );
        const chosen = [...places].sort(() => next() - 0.5).slice(0, 3);
        const after = chosen.reduce((one, { path }) => {
          try {
            return changed(one, path, 0.6 + 0.9 * next());
          } catch {
            return one;
          }
        }, tuning);
        const more = round % 2 === 0 ? 4 : 0;
        const back = writeBack(dressed, placed, terms, after, more);
        const [was, is] = [dressed.split('\n'), back.text.split('\n')];
        expect(is.length, title).toBe(was.length);
        const touched = new Set(back.edits.map(({ line }) => line));
        was.forEach((line, n) => {
          if (!touched.has(n + 1)) expect(is[n], `${title}, line ${n + 1}`).toBe(line);
          else if (!back.edits.some(({ line: on, isFlattened }) => isFlattened && on === n + 1))
            expect(blank(is[n] as string), `${title}, line ${n + 1}`).toBe(blank(line));
        });
        // What is written reads as what is wanted, as near as its digits are.
        const read = pastedTuning('Again', placeAgain(back.text, placed), terms);
        const again = resolved(read.file).parameters;
        for (const { path, found } of places) {
          const wanted = numberAt(after.parameters, path);
          if (back.refused.some((one) => one.path === path)) continue;
          written++;
          const near =
            (more > 0 && !wholeTyped.test(dressed.split('\n')[found.line - 1] as string) ? 1e-3 : 0.06) * Math.abs(wanted) + 1e-12;
          expect(
            Math.abs(numberAt(again, path) - wanted) <= near,
            `${title}: ${found.name} is ${numberAt(again, path)}, wanted ${wanted}\n${back.text}`,
          ).toBe(true);
        }
      }
    expect(written).toBeGreaterThan(1000);
  });

  it('is the very same text where nothing changed', () => {
    for (const { title, code } of fragments) {
      const { placed, terms, tuning } = opened(code);
      const back = writeBack(code, placed, terms, tuning);
      expect(back.text, title).toBe(code);
      expect(back.unplaced, title).toEqual([]);
    }
  });

  it('keeps how each number is written', () => {
    const cases: [string, string, number, string][] = [
      ['constexpr float kWalkSpeed = 140.25f;', 'pace.walkSpeed', 144.6, 'constexpr float kWalkSpeed = 144.6f;'],
      ['walk_speed = 134.0', 'pace.walkSpeed', 131.5, 'walk_speed = 131.5'],
      ['walk_speed = 134.0', 'pace.walkSpeed', 131, 'walk_speed = 131.0'],
      ['walk_speed = 140', 'pace.walkSpeed', 167.8, 'walk_speed = 168'],
      ['dead_zone = .15', 'input.deadZone', 0.2, 'dead_zone = .2'],
      ['dead_zone = 0.1', 'input.deadZone', 0.125, 'dead_zone = 0.13'],
      ['accel = 1_200.0', 'ramp.accelerate', 13_500, 'accel = 13_500.0'],
      ["constexpr double accel = 1'200.0;", 'ramp.accelerate', 950, 'constexpr double accel = 950.0;'],
      ['#define CELL_SIZE 0x20', 'step.cell', 48, '#define CELL_SIZE 0x30'],
      ['walk_speed: 1.2e2', 'pace.walkSpeed', 150, 'walk_speed: 1.5e2'],
      ['let walk_speed = 119. in', 'pace.walkSpeed', 125, 'let walk_speed = 125. in'],
      ['walk_speed = 2 * 60', 'pace.walkSpeed', 180, 'walk_speed = 3 * 60'],
      ['TILE_SIZE = 16\nwalk_speed = TILE_SIZE * 6', 'pace.walkSpeed', 128, 'TILE_SIZE = 16\nwalk_speed = TILE_SIZE * 8'],
      ['{ "walk_speed": "140" }', 'pace.walkSpeed', 150, '{ "walk_speed": "150" }'],
      ['dead_zone = 20%', 'input.deadZone', 0.3, 'dead_zone = 30%'],
      ['buffer_frames = 6', 'step.buffer', 0.15, 'buffer_frames = 9'],
      ['facing_start = -90', 'facing.start', 45, 'facing_start = 45'],
      ['facing_start = 90', 'facing.start', -45, 'facing_start = -45'],
      ['body_diameter = 24', 'body.radius', 10, 'body_diameter = 20'],
      ['walk_speed = 140\naccel_time = 0.2', 'ramp.accelerate', 1400, 'walk_speed = 140\naccel_time = 0.1'],
      ['turn_rate = math.rad(360)', 'facing.rate', 270, 'turn_rate = math.rad(270)'],
    ];
    for (const [code, path, value, wanted] of cases) {
      const { placed, terms, tuning } = opened(code);
      const back = writeBack(code, placed, terms, resolved(withValue(tuning.file, path, value)));
      expect(back.text, code).toBe(wanted);
    }
    expect(plainUnits.length).toBe('px');
  });

  it('writes more digits on request, flags and words in their notation, and lists what has no place', () => {
    const code = 'walk_speed = 140\nstamina_max = 50\nSTAMINA_ENABLED = True\nbody_shape = "circle"';
    const { placed, terms, tuning } = opened(code);
    const after = resolved(
      [
        ['pace.walkSpeed', 150.125],
        ['stamina.enabled', false],
        ['body.shape', 'box'],
        ['ramp.brake', 2000],
      ].reduce((file, [path, value]) => withValue(file, path as string, value as number), tuning.file),
    );
    const back = writeBack(code, placed, terms, after, 2);
    expect(back.text).toBe('walk_speed = 150.13\nstamina_max = 50\nSTAMINA_ENABLED = False\nbody_shape = "box"');
    expect(back.unplaced).toEqual([{ path: 'ramp.brake', value: 2000, was: 1800 }]);
    expect(back.edits.map(({ reads }) => reads)).toEqual([150.13, false, 'box']);
  });

  it('leaves whole numbers whole where their type says so', () => {
    const code = 'const int WALK_SPEED = 140;\nenum { HERO_RADIUS = 12, };';
    const { placed, terms, tuning } = opened(code);
    const after = resolved(withValue(withValue(tuning.file, 'pace.walkSpeed', 150.4), 'body.radius', 12.4));
    expect(writeBack(code, placed, terms, after, 3).text).toBe('const int WALK_SPEED = 150;\nenum { HERO_RADIUS = 12, };');
  });
});

/** The same numbers in a changed text, placed as they were. */
function placeAgain(text: string, placed: readonly Placed[]): Placed[] {
  const found = readSource(text).found;
  return placed.map((one) => ({
    ...one,
    found: found.find(({ name, line }) => name === one.found.name && line === one.found.line) ?? one.found,
  }));
}
