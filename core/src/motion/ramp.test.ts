import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drive } from '../testing/drive.ts';

const hold = [{ at: 0, press: 'right' as const }];

/** Distance from the start after `ticks` ticks. */
const travelled = (values: Parameters<typeof drive>[0], ticks: number, events = hold as Parameters<typeof drive>[2]) =>
  drive(values, ticks, events).body.x;

describe('linear ramp from rest', () => {
  // V = 135 and a = 900 at 60 Hz: V/(a·dt) = 9 ticks, a whole number.
  const base = { 'pace.walkSpeed': 135, 'ramp.accelerate': 900 };
  const rise = 135 ** 2 / (2 * 900);

  it('semi-implicit covers V²/2a + V·dt/2 until full speed, in V/a', () => {
    const world = drive({ ...base, 'clock.integration': 'semiImplicit' }, 9, hold);
    expect(world.body.vx).toBeCloseTo(135, 10);
    expect(world.body.clockTime).toBeCloseTo(135 / 900, 12);
    expect(world.body.x).toBeCloseTo(rise + 135 / 60 / 2, 9);
  });

  it.each(['trapezoid', 'exact'])('%s covers V²/2a', (integration) => {
    expect(travelled({ ...base, 'clock.integration': integration }, 9)).toBeCloseTo(rise, 9);
  });

  it('exact covers V²/2a also where the ramp ends inside a tick', () => {
    const t = 0.5;
    const values = { 'pace.walkSpeed': 140, 'ramp.accelerate': 900, 'clock.integration': 'exact' };
    expect(travelled(values, 30)).toBeCloseTo(140 ** 2 / 1800 + 140 * (t - 140 / 900), 9);
  });
});

describe('other ramps', () => {
  it('instant is at full speed after one tick', () => {
    const world = drive({ 'ramp.model': 'instant' }, 1, hold);
    expect(world.body.vx).toBe(140);
    expect(world.body.x).toBeCloseTo(140 / 60, 9);
  });

  it('smooth has 90 % after 3.3219 half-lives', () => {
    const world = drive({ 'ramp.model': 'smooth', 'ramp.halfLife': 0.1 / 3.321928094887362, 'clock.hz': 100 }, 10, hold);
    expect(world.body.vx).toBeCloseTo(126, 9);
  });

  it('a flat curve is the linear ramp', () => {
    const flat = {
      'ramp.points': [
        [0, 1],
        [1, 1],
      ] as const,
      'clock.integration': 'exact',
    };
    for (const ticks of [3, 8, 40])
      expect(travelled({ ...flat, 'ramp.model': 'curve' }, ticks)).toBeCloseTo(travelled({ 'clock.integration': 'exact' }, ticks), 8);
  });

  it('a curve from 1 to e^-1 rises as ln: t = (V/a)·ln(f1/f0)/(f1 − f0)', () => {
    // The tangents of the monotone cubic through two points are their slope, so f is linear in s.
    const end = Math.exp(-1);
    const world = drive(
      {
        'ramp.model': 'curve',
        'ramp.points': [
          [0, 1],
          [1, end],
        ],
        'clock.integration': 'exact',
        'clock.hz': 1000,
      },
      400,
      hold,
    );
    const expected = ((140 / 900) * -1) / (end - 1);
    const row = Array.from({ length: 400 }, (_, i) => i + 1).find((i) => world.trace.at('vx', i) >= 140) as number;
    expect(world.trace.at('time', row)).toBeGreaterThanOrEqual(expected - 1e-9);
    expect(world.trace.at('time', row) - expected).toBeLessThan(0.001);
  });
});

describe('exact integration is the same at every tick rate', () => {
  const out = (hz: number) => [
    { at: 0, press: 'right' as const },
    { at: hz, press: 'left' as const },
    { at: 2 * hz, release: 'left' as const },
    { at: 3 * hz, release: 'right' as const },
  ];

  it.each<[string, Parameters<typeof drive>[0]]>([
    ['linear', { 'ramp.model': 'linear' }],
    ['smooth', { 'ramp.model': 'smooth' }],
    [
      'curve',
      {
        'ramp.model': 'curve',
        'ramp.points': [
          [0, 0.3],
          [0.4, 1.4],
          [1, 0.2],
        ] as const,
      },
    ],
    ['instant', { 'ramp.model': 'instant' }],
    ['heading', { 'ramp.turning': 'heading' }],
  ])('%s: start, reverse, reverse, stop agree to 1e-9 at 30, 60 and 144 Hz', (_, values) => {
    const places = [30, 60, 144].map((hz) =>
      [1, 2, 3, 4].map((s) => travelled({ ...values, 'clock.integration': 'exact', 'clock.hz': hz }, s * hz, out(hz))),
    );
    for (const i of [0, 1, 2, 3]) {
      if (values['ramp.turning'] === 'heading' && i > 0) continue; // Turning round takes a curve, which is not a straight line.
      expect(Math.abs((places[0]?.[i] as number) - (places[1]?.[i] as number))).toBeLessThan(1e-9);
      expect(Math.abs((places[2]?.[i] as number) - (places[1]?.[i] as number))).toBeLessThan(1e-9);
    }
  });
});

describe('any ramp', () => {
  it('never passes its target speed nor gives NaN, whatever the numbers', () => {
    const rate = fc.double({ min: 0.001, max: 1e8, noNaN: true });
    fc.assert(
      fc.property(
        fc.record({
          model: fc.constantFrom('instant', 'linear', 'smooth', 'curve'),
          integration: fc.constantFrom('semiImplicit', 'trapezoid', 'exact'),
          turning: fc.constantFrom('vector', 'heading'),
        }),
        fc.double({ min: 0, max: 1e6, noNaN: true }),
        fc.array(rate, { minLength: 4, maxLength: 4 }),
        fc.array(fc.constantFrom('left', 'right', 'up', 'down') as fc.Arbitrary<'left' | 'right' | 'up' | 'down'>, {
          minLength: 1,
          maxLength: 8,
        }),
        fc.integer({ min: 1, max: 1000 }),
        ({ model, integration, turning }, walk, rates, keys, hz) => {
          const events = keys.flatMap((key, i) => [
            { at: i * 5, press: key },
            { at: i * 5 + 4, release: key },
          ]);
          const [accelerate, decelerate, brake, ease] = rates as [number, number, number, number];
          const world = drive(
            {
              'ramp.model': model,
              'clock.integration': integration,
              'ramp.turning': turning,
              'pace.walkSpeed': walk,
              'pace.sprintSpeed': walk,
              'ramp.accelerate': accelerate,
              'ramp.decelerate': decelerate,
              'ramp.brake': brake,
              'ramp.ease': ease,
              'clock.hz': hz,
            },
            45,
            events,
          );
          for (let row = 0; row < world.trace.end; row++) {
            expect(world.trace.at('speed', row)).toBeLessThanOrEqual(walk * (1 + 1e-9) + 1e-9);
            expect(Number.isFinite(world.trace.at('x', row))).toBe(true);
          }
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe('easing from a sprint', () => {
  it('never falls below the walk, at any rate, and is ½·ease·t² until then', () => {
    for (const hz of [7, 30, 60, 144])
      for (const integration of ['exact', 'trapezoid', 'semiImplicit'])
        for (const ease of [150, 900, 4000]) {
          const { trace } = drive({ 'clock.hz': hz, 'clock.integration': integration, 'ramp.ease': ease }, 3 * hz, [
            { at: 0, press: 'right' },
            { at: 0, press: 'sprint' },
            { at: hz, release: 'sprint' },
          ]);
          const begun = trace.at('speed', hz);
          for (let row = hz; row < trace.end; row++) {
            const expected = Math.max(140, begun - (ease * (row - hz)) / hz);
            expect(trace.at('speed', row), `${integration} at ${hz} Hz, row ${row}`).toBeCloseTo(expected, 9);
          }
        }
  });
});
