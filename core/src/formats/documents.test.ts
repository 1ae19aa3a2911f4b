import { describe, expect, it } from 'vitest';
import { faultText, type Reading } from '../document/fault.ts';
import { parseGround, readGround } from '../ground/ground.ts';
import { parseTape, readTape } from '../tape/tape.ts';
import { specs } from '../tuning/catalogue/catalogue.ts';
import { parseTuning, writtenAt } from '../tuning/tuning.ts';
import { jsonSchema } from './jsonSchema.ts';

const faults = (reading: Reading<unknown>) => (reading.ok ? [] : reading.faults.map(faultText));
const tuning = (more: object) => JSON.stringify({ format: 'zygopod/tuning', version: 1, name: 'Boots', ...more });

describe('tunings', () => {
  it('take every default, links included, from the catalogue', () => {
    const reading = parseTuning(tuning({}));
    expect(reading.ok && reading.value.parameters.pace.sprintSpeed).toBe(245);
    expect(reading.ok && reading.value.parameters.bounds.inset.top).toBe(0);
    expect(reading.ok && reading.value.parameters.scheme).toBe('steer');
  });

  it('follow chains of links, and check where they end', () => {
    const chain = {
      pace: { walkSpeed: 100, sprintSpeed: { of: 'pace.walkSpeed', times: 2, plus: 5 } },
      ramp: { accelerate: { of: 'pace.sprintSpeed', times: 3 } },
    };
    const reading = parseTuning(tuning(chain));
    expect(reading.ok && reading.value.parameters.ramp.accelerate).toBe(615);
    expect(faults(parseTuning(tuning({ body: { radius: { of: 'pace.walkSpeed', times: -1 } } })))[0]).toMatch(
      /^body.radius: found -140 through its link/,
    );
    expect(
      faults(parseTuning(tuning({ pace: { walkSpeed: { of: 'ramp.ease' } }, ramp: { ease: { of: 'pace.walkSpeed' } } })))[0],
    ).toContain('a loop of links');
    expect(faults(parseTuning(tuning({ pace: { walkSpeed: { of: 'scheme' } } })))).toEqual([
      'pace.walkSpeed.of: found "scheme", expected the path of a number',
    ]);
  });

  it.each([
    [{ pace: { walkSpeed: 1, walkSped: 2 } }, 'pace.walkSped: found an unknown key, expected only keys of the format'],
    [{ pace: { walkSpeed: '1' } }, 'pace.walkSpeed: found "1", expected a number or an object'],
    [{ pace: { walkSpeed: { of: 'x', factor: 2 } } }, 'pace.walkSpeed.factor: found an unknown key'],
    [{ scheme: 'fly' }, 'scheme: found "fly", expected one of "steer", "latch", "step", "turn"'],
    [{ pace: null }, 'pace: found null, expected an object'],
    [{ stamina: { enabled: 1 } }, 'stamina.enabled: found 1, expected true or false'],
    [
      {
        ramp: {
          points: [
            [0, 1],
            [0.5, 1],
            [0.4, 1],
            [1, 1],
          ],
        },
      },
      'points whose first numbers rise',
    ],
    [
      {
        ramp: {
          points: [
            [0, 1],
            [0.5, 1],
          ],
        },
      },
      'points from 0 to 1',
    ],
    [{ name: ' ' }, 'name: found " ", expected'],
  ])('refuse %j', (more, words) => {
    expect(faults(parseTuning(tuning(more)))[0]).toContain(words);
  });

  it('refuse a key that would reach into the program', () => {
    expect(
      faults(parseTuning('{"format":"zygopod/tuning","version":1,"name":"x","__proto__":{"pace":1}}')).length + Object.keys({}).length,
    ).toBeLessThanOrEqual(1);
    expect(({} as Record<string, unknown>)['pace']).toBeUndefined();
  });
});

describe('grounds', () => {
  const ground = (more: object) =>
    JSON.stringify({ format: 'zygopod/ground', version: 1, name: 'Yard', size: { width: 64, height: 64 }, start: { x: 1, y: 1 }, ...more });
  it.each([
    [{ cells: ['#.', '#'] }, 'cells.1: found a row of 1 cells, expected 2, like the first row'],
    [{ cells: ['#.', '#x'] }, 'cells.1: found the mark "x" in column 1'],
    [{ walls: [{ points: [[0, 0]] }] }, 'walls.0.points: found a list of 1'],
    [
      {
        walls: [
          {
            points: [
              [0, 0],
              [1e9, 0],
            ],
          },
        ],
      },
      'walls.0.points.1.0: found 1000000000',
    ],
    [{ size: { width: 0, height: 1 } }, 'size.width: found 0'],
  ])('refuse %j', (more, words) => {
    expect(faults(parseGround(ground(more)))[0]).toContain(words);
  });
});

describe('tapes', () => {
  const tape = (events: object[]) => JSON.stringify({ format: 'zygopod/tape', version: 1, name: 'Out', hz: 60, ticks: 10, events });
  it('are put in order, equal ticks as in the file', () => {
    const reading = parseTape(
      tape([
        { at: 5, press: 'up' },
        { at: 1, press: 'down' },
        { at: 5, release: 'up' },
      ]),
    );
    expect(reading.ok && reading.value.events.map((e) => [e.at, 'press' in e])).toEqual([
      [1, true],
      [5, true],
      [5, false],
    ]);
  });

  it.each([
    [{ at: 1 }, 'just one of press'],
    [{ at: 1, press: 'up', release: 'up' }, 'just one of press'],
    [{ at: -1, press: 'up' }, 'events.0.at: found -1'],
    [{ at: 1, press: 'jump' }, 'events.0.press: found "jump"'],
    [{ at: 1, stick: [2, 0] }, 'events.0.stick.0: found 2'],
  ])('refuse %j', (event, words) => {
    expect(faults(parseTape(tape([event])))[0]).toContain(words);
  });
});

describe('JSON Schema', () => {
  it('names every parameter of the catalogue with its help', () => {
    const schema = JSON.stringify(jsonSchema('tuning'));
    for (const spec of specs.values()) expect(schema).toContain(JSON.stringify(spec.help));
    expect(jsonSchema('tuning')).toMatchObject({
      $schema: 'https://json-schema.org/draft/2020-12/schema',
      required: ['format', 'version', 'name'],
      additionalProperties: false,
    });
    expect(jsonSchema('ground')).toMatchObject({ required: ['format', 'version', 'name', 'size', 'start'] });
    expect(jsonSchema('tape')).toMatchObject({ required: ['format', 'version', 'name', 'hz', 'ticks', 'events'] });
  });

  it('a file keeps only what it says', () => {
    const reading = parseTuning(tuning({ pace: { walkSpeed: 99 } }));
    expect(reading.ok && writtenAt(reading.value.file, 'pace.walkSpeed')).toBe(99);
    expect(reading.ok && writtenAt(reading.value.file, 'pace.sprintSpeed')).toBeUndefined();
  });
});

describe('older versions', () => {
  it('of a tuning are read: contacts in a tick were called maxSlides', () => {
    const old = { format: 'zygopod/tuning', version: 1, name: 'Old', contact: { maxSlides: 7, skin: 0.5 } };
    const read = parseTuning(JSON.stringify(old));
    expect(read.ok && read.value.parameters.contact).toMatchObject({ contactsPerTick: 7, skin: 0.5 });
    expect(read.ok && read.value.file).toEqual({ ...old, version: 2, unit: 'px', contact: { contactsPerTick: 7, skin: 0.5 } });
    const newer = parseTuning(JSON.stringify({ ...old, version: 2 }));
    expect(!newer.ok && faultText(newer.faults[0] as never)).toBe(
      'contact.maxSlides: found an unknown key, expected only keys of the format',
    );
  });

  it('of a tape are read, and begin with hands at rest', () => {
    const old = { format: 'zygopod/tape', version: 1, name: 'Old', hz: 60, ticks: 10, events: [{ at: 0, press: 'up' }] };
    const read = parseTape(JSON.stringify(old));
    expect(read).toEqual({ ok: true, value: { ...old, version: 3 } });
    const held = { ...old, version: 2, snapshot: { hands: { held: ['right', 'sprint'], stick: [0.5, 0], spoke: 'keys' } } };
    expect(parseTape(JSON.stringify(held))).toEqual({ ok: true, value: { ...held, version: 3 } });
    const driven = { ...held, version: 3, ground: 'Boardwalk', scheme: 'step' };
    expect(parseTape(JSON.stringify(driven))).toEqual({ ok: true, value: driven });
    expect(parseTape(JSON.stringify({ ...driven, scheme: 'hover' }))).toMatchObject({ ok: false, faults: [{ path: 'scheme' }] });
    const twice = { ...held, snapshot: { hands: { held: ['right', 'right'] } } };
    expect(parseTape(JSON.stringify(twice)).ok).toBe(false);
  });
});

describe('directions', () => {
  it('are numbers or texts, and mean the same', () => {
    for (const [group, key, values] of [
      ['facing', 'directions', [2, 4, 8, 16]],
      ['input', 'directions', [8, 4]],
    ] as const)
      for (const value of values) {
        const [number, text] = [value, String(value)].map((written) => parseTuning(tuning({ [group]: { [key]: written } })));
        expect(number).toEqual(text);
        expect(number?.ok).toBe(true);
      }
    const wrong = parseTuning(tuning({ facing: { directions: 5 } }));
    expect(!wrong.ok && wrong.faults[0]?.path).toBe('facing.directions');
  });
});

describe('a file full of faults', () => {
  it('reports the first fifty', () => {
    for (const bad of [{}, { at: -1, press: 'up' }, { at: 0 }, 7, null]) {
      const events = Array.from({ length: 300_000 }, () => bad);
      const read = readTape({ format: 'zygopod/tape', version: 2, name: 'Bad', hz: 60, ticks: 10, events });
      expect(!read.ok && read.faults).toHaveLength(50);
      expect(!read.ok && read.faults[0]?.path.startsWith('events.0')).toBe(true);
    }
    const walls = Array.from({ length: 100_000 }, () => ({ points: [] }));
    const ground = { format: 'zygopod/ground', version: 1, name: 'Bad', size: { width: 9, height: 9 }, start: { x: 1, y: 1 }, walls };
    const read = readGround(ground);
    expect(!read.ok && read.faults).toHaveLength(50);
  });

  it('with too many events or walls says how many there may be', () => {
    const events = Array.from({ length: 1_000_001 }, () => ({ at: 0, press: 'up' }));
    const read = readTape({ format: 'zygopod/tape', version: 2, name: 'Long', hz: 60, ticks: 10, events });
    expect(!read.ok && faultText(read.faults[0] as never)).toBe(
      'events: found a list of 1000001, expected a list length of at most 1000000',
    );
  });
});
