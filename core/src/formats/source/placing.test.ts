import { describe, expect, it } from 'vitest';
import { sequence } from '../../testing/sequence.ts';
import { fragments } from '../../testing/sources/fragments.ts';
import { type GameUnits, plainUnits } from '../handOff/units.ts';
import { pastedTuning } from './pasted.ts';
import { placeNumbers } from './placing.ts';
import { proposeUnits } from './proposeUnits.ts';
import { readSource } from './source.ts';

const last = (name: string) => name.split('.').at(-1) as string;
const findNumbers = (code: string) => readSource(code).found.filter(({ kind }) => kind === 'number');
const pasted = (code: string, units: Partial<GameUnits> = {}) =>
  pastedTuning('Pasted', placeNumbers(readSource(code).found), {
    units: { ...plainUnits, ...units },
    fileUnit: units.length === 'm' ? 'm' : 'px',
    strictly: false,
  });

describe('pasted fragments of games', () => {
  it.each(fragments)('in $language: every number is found, and none is placed wrongly without being marked as a guess', ({ code, is }) => {
    const placed = placeNumbers(findNumbers(code));
    for (const { found, path, isGuess } of placed) {
      const wanted = is[found.name] ?? is[last(found.name)];
      const right = wanted?.replace('?', '') ?? null;
      // A name that belongs to no tuning may at most be guessed at.
      if (path !== null && path !== right) expect(isGuess, `${found.name} as ${path}`).toBe(true);
    }
    for (const [name, wanted] of Object.entries(is)) {
      if (wanted === null) continue;
      const one = placed.filter(({ found }) => found.name === name || last(found.name) === name);
      if (name.includes('.') && one.length === 0) continue;
      expect(one.length, `${name} is found`).toBeGreaterThan(0);
    }
  });

  it('are placed rightly, or left in the note, nine times of ten and more', () => {
    let [right, all, placedRight, wanted] = [0, 0, 0, 0];
    for (const { code, is } of fragments)
      for (const { found, path } of placeNumbers(findNumbers(code))) {
        const expected = (is[found.name] ?? is[last(found.name)])?.replace('?', '') ?? null;
        all++;
        if (path === expected || path === null) right++;
        if (expected !== null) {
          wanted++;
          if (path === expected) placedRight++;
        }
      }
    expect(all).toBeGreaterThan(100);
    expect(right / all).toBeGreaterThanOrEqual(0.98);
    // And they are not all left in the note.
    expect(placedRight / wanted).toBeGreaterThanOrEqual(0.9);
  });
});

/** Notations of a name, and of an assignment. */
const cases = [
  (words: string[]) => words.join('_'),
  (words: string[]) => words.join('_').toUpperCase(),
  (words: string[]) => words.map((word, i) => (i ? (word[0]?.toUpperCase() ?? '') + word.slice(1) : word)).join(''),
  (words: string[]) => words.map((word) => (word[0]?.toUpperCase() ?? '') + word.slice(1)).join(''),
];
const meanings = [
  (name: string, value: string) => `float ${name} = ${value}f;`,
  (name: string, value: string) => `pub const ${name}: f32 = ${value};`,
  (name: string, value: string) => `local ${name} = ${value}`,
  (name: string, value: string) => `{ "${name}": ${value} }`,
  (name: string, value: string) => `${name}: ${value}`,
  (name: string, value: string) => `#define ${name} ${value}`,
  (name: string, value: string) => `var ${name} := ${value}`,
  (name: string, value: string) => `${name},${value}`,
  (name: string, value: string) => `<${name}>${value}</${name}>`,
  (name: string, value: string) => `static readonly double ${name} = ${value}d; // ${name.length}`,
  (name: string, value: string) => `  ${name}=${value}`,
];
/** Words for parameters, and words that make something else of them. */
const known: readonly (readonly [string, string])[] = [
  ['walk speed', 'pace.walkSpeed'],
  ['player walk speed', 'pace.walkSpeed'],
  ['sprint speed', 'pace.sprintSpeed'],
  ['accel', 'ramp.accelerate'],
  ['max deceleration', 'ramp.decelerate'],
  ['stamina max', 'stamina.max'],
  ['stamina drain rate', 'stamina.drain'],
  ['stamina regen', 'stamina.regain'],
  ['regen delay', 'stamina.regainDelay'],
  ['body radius', 'body.radius'],
  ['dead zone', 'input.deadZone'],
  ['wall friction', 'contact.wallFriction'],
  ['turn speed', 'facing.rate'],
  ['step time', 'step.time'],
  ['tile size', 'step.cell'],
  ['arrive radius', 'route.arriveRadius'],
  ['waypoint radius', 'route.waypointRadius'],
];
const strangers = ['enemy', 'jump', 'ladder', 'boss', 'bullet', 'swim', 'menu', 'shop', 'wind', 'arrow'];

describe('names in any case and language', () => {
  it('are known by their words, with their numbers: 600 random lines', () => {
    const next = sequence(7);
    const pick = <T>(all: readonly T[]): T => all[Math.floor(next() * all.length)] as T;
    for (let i = 0; i < 600; i++) {
      const [words, path] = pick(known);
      const value = Number((next() * 500 + 0.01).toFixed(2));
      const code = pick(meanings)(pick(cases)(words.split(' ')), String(value));
      const placed = placeNumbers(findNumbers(code));
      expect(
        placed.map(({ found, path: to, isGuess }) => [found.value, to, isGuess]),
        code,
      ).toEqual([[value, path, false]]);
    }
  });

  it('of something else are left alone: 400 random lines', () => {
    const next = sequence(11);
    const pick = <T>(all: readonly T[]): T => all[Math.floor(next() * all.length)] as T;
    for (let i = 0; i < 400; i++) {
      const words = pick(known)[0].split(' ');
      words.splice(Math.floor(next() * (words.length + 1)), 0, pick(strangers));
      const code = pick(meanings)(pick(cases)(words), String(i + 1));
      for (const { path, found } of placeNumbers(findNumbers(code))) expect(path, `${code}: ${found.name}`).toBeNull();
    }
  });
});

describe('numbers', () => {
  it('are read as languages write them, with plain arithmetic', () => {
    for (const [text, value] of [
      ['140', 140],
      ['140.5f', 140.5],
      ['1_400', 1400],
      ['.5', 0.5],
      ['1.5e2', 150],
      ['0x8C', 140],
      ['140L', 140],
      ['140_f32', 140],
      ['-3', -3],
      ['60 * 3.5', 210],
      ['1 / 8', 0.125],
      ['(2 + 3) * 4', 20],
      ['"140"', 140],
    ] as const)
      expect(
        findNumbers(`walk = ${text};`).map((one) => one.value),
        text,
      ).toEqual([value]);
    for (const none of ['walk = "fast"', 'walk = speed', '// walk = 140', '/* walk = 140 */', 'walk(', ''])
      expect(findNumbers(none), none).toEqual([]);
  });

  it('that are ratios to another stay tied to the walk, or are worked out', () => {
    expect(pasted('WALK = 100\nSPRINT = WALK * 1.8').values['pace.sprintSpeed']).toEqual({ of: 'pace.walkSpeed', times: 1.8 });
    expect(pasted('walk_speed: 100\nsprint_multiplier: 1.5').values['pace.sprintSpeed']).toEqual({ of: 'pace.walkSpeed', times: 1.5 });
    expect(pasted('TILE_SIZE = 16\nARRIVE_RADIUS = TILE_SIZE / 4').values['route.arriveRadius']).toBe(4);
    const lost = pasted('SPRINT_SPEED = BASE * 2');
    expect(lost.values).toEqual({});
    expect(lost.note).toContain('SPRINT_SPEED = 2 × BASE');
  });

  it('are taken over in the units that they stand in', () => {
    const code = 'walk_speed = 2\naccel = 0.5\nradius = 0.4\nregen_delay = 30\nturn_speed = 6';
    expect(pasted(code, { time: 'frame', hz: 50 }).values).toEqual({
      'pace.walkSpeed': 100,
      'ramp.accelerate': 1250,
      'body.radius': 0.4,
      'stamina.regainDelay': 0.6,
      'facing.rate': 300,
    });
    expect(pasted('walk_speed = 4\nradius = 0.4\naccel = 20', { length: 'tiles', tile: 16 }).values).toEqual({
      'pace.walkSpeed': 64,
      'body.radius': 6.4,
      'ramp.accelerate': 320,
    });
    expect(pasted('tile_size = 16', { length: 'tiles', tile: 16 }).values['step.cell']).toBe(16);
    expect(pasted('walk_speed = 4', { length: 'm' }).file.unit).toBe('m');
    expect(pasted('input_buffer_ms = 120').values['step.buffer']).toBe(0.12);
    expect(pasted('input_buffer_frames = 6', { hz: 30 }).values['step.buffer']).toBe(0.2);
    expect(pasted('dead_zone = 20%').values['input.deadZone']).toBe(0.2);
    expect(pasted('turn_rate_rad = 3.141592653589793').values['facing.rate']).toBeCloseTo(180, 9);
    expect(pasted('body_diameter = 24').values['body.radius']).toBe(12);
    expect(pasted('walk = 140\naccel_time = 0.2').values['ramp.accelerate']).toBeCloseTo(700, 9);
    expect(pasted('tiles_per_second = 5').values['step.time']).toBeCloseTo(0.2, 12);
    expect(pasted('fixed_delta_time = 0.02').values['clock.hz']).toBe(50);
  });

  it('speak for their units by names, comments and size; nothing is taken silently', () => {
    const likely = (code: string) => proposeUnits(placeNumbers(readSource(code).found), readSource(code));
    expect(likely('walk_speed = 140')).toMatchObject({ terms: { units: plainUnits }, isSure: true });
    expect(likely('walk_speed = 3.5 // m/s').terms.units.length).toBe('m');
    expect(likely('walk_speed = 2.5 # px per frame').terms.units.time).toBe('frame');
    expect(likely('walk_speed = 2.5')).toMatchObject({ isSure: false, evidence: expect.arrayContaining([]) });
    expect(likely('walk_speed = 4\ntile_size = 16').terms.units).toMatchObject({ length: 'tiles', tile: 16 });
    expect(likely('walk_speed = 140\ntick_rate = 50').terms.units.hz).toBe(50);
  });
});

describe('a pasted tuning', () => {
  it('turns on what its numbers are for', () => {
    const { file } = pasted('walk = 100\nstamina_max = 80\narrive_radius = 4\nturn_rate = 300');
    expect(file).toMatchObject({ stamina: { enabled: true, max: 80 }, route: { enabled: true }, facing: { turn: 'rate' } });
    expect(pasted('step_time = 0.2\ntile_size = 16').file['scheme']).toBe('step');
    expect(pasted('width = 20\nheight = 30').file['body']).toMatchObject({ shape: 'box', width: 20, height: 30 });
  });

  it('keeps in its note what it could not place, and says what cannot be', () => {
    const { note, refused, values } = pasted('walk_speed = 140\njump_force = 12\ndead_zone = 7\nwalk_speed_2 = 9');
    expect(values).toEqual({ 'pace.walkSpeed': 140 });
    expect(refused).toEqual([{ path: 'input.deadZone', why: '7 is outside of 0 to 0.95' }]);
    for (const left of ['jump_force = 12 (line 2)', 'dead_zone = 7 (line 3)', 'walk_speed_2 = 9 (line 4)']) expect(note).toContain(left);
  });

  it('takes the surer of two for one parameter, and leaves the other', () => {
    const placed = placeNumbers(findNumbers('speed = 90\nwalk_speed = 140'));
    expect(placed.map(({ path, isGuess }) => [path, isGuess])).toEqual([
      [null, false],
      ['pace.walkSpeed', false],
    ]);
    expect(placeNumbers(findNumbers('speed = 90'))[0]).toMatchObject({ path: 'pace.walkSpeed', isGuess: true });
    expect(placeNumbers(findNumbers('run_speed = 90'))[0]).toMatchObject({ path: 'pace.walkSpeed', isGuess: true });
  });

  it('is made of code with 5,000 numbers, and of any rubbish, in no time', () => {
    const begun = performance.now();
    const many = Array.from({ length: 6000 }, (_, i) => `value_${i} = ${i}`).join('\n');
    expect(findNumbers(many)).toHaveLength(5000);
    const { note } = pasted(`${many}\nwalk_speed = 140`);
    expect(note.length).toBeLessThanOrEqual(1900);
    const next = sequence(3);
    const letters = 'aZ_ 0.9=:;,(){}[]<>"\'`/*-#\n\t%é漢';
    for (let i = 0; i < 300; i++) {
      const rubbish = Array.from({ length: 200 }, () => letters[Math.floor(next() * letters.length)]).join('');
      expect(() => pasted(rubbish)).not.toThrow();
    }
    for (const deep of ['('.repeat(20_000), '{'.repeat(20_000), `walk = ${'('.repeat(3000)}1`, `"${'x'.repeat(100_000)}`])
      expect(() => pasted(deep)).not.toThrow();
    expect(performance.now() - begun).toBeLessThan(20_000);
  });
});
