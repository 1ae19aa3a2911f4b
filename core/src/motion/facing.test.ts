import { describe, expect, it } from 'vitest';
import { drive, openGround } from '../testing/drive.ts';
import { compassName } from './facing.ts';

const facing = (values: Parameters<typeof drive>[0], events: Parameters<typeof drive>[2], ticks = 30) => {
  const world = drive(values, ticks, events);
  return world.trace.at('facing', ticks);
};

describe('facing', () => {
  it.each([
    [['right'], 0],
    [['right', 'down'], 45],
    [['down'], 90],
    [['left', 'down'], 135],
    [['left'], 180],
    [['left', 'up'], -135],
    [['up'], -90],
    [['right', 'up'], -45],
  ] as const)('%j faces %d°, exactly', (keys, degrees) => {
    expect(
      facing(
        { 'facing.start': 20 },
        keys.map((press) => ({ at: 0, press })),
      ),
    ).toBe(degrees);
  });

  it('from the pointer is kept until a pointer was seen', () => {
    const values = { 'facing.from': 'pointer', 'facing.start': 20 } as const;
    expect(facing(values, [{ at: 0, press: 'right' }])).toBe(20);
    expect(facing(values, [{ at: 0, point: [0, 500] }])).toBe(90);
  });

  it('goes back to the start if so set, and has its sign flipped if so set', () => {
    const stop: Parameters<typeof drive>[2] = [
      { at: 0, press: 'left' },
      { at: 10, release: 'left' },
    ];
    expect(facing({ 'facing.whenStill': 'start', 'facing.start': 90 }, stop, 60)).toBe(90);
    expect(facing({ 'facing.flip': 'y' }, [{ at: 0, press: 'down' }])).toBe(-90);
    expect(facing({ 'facing.flip': 'x' }, [{ at: 0, press: 'right' }])).toBe(180);
  });

  it('is kept when standing', () => {
    expect(
      facing(
        {},
        [
          { at: 0, press: 'left' },
          { at: 5, release: 'left' },
        ],
        60,
      ),
    ).toBe(180);
  });

  it('takes a new sector only past its border by the stickiness', () => {
    const stick = (degrees: number) => ({
      at: 0,
      stick: [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)] as [number, number],
    });
    expect(facing({ 'facing.start': 0 }, [stick(22.5 + 9)])).toBe(0);
    expect(facing({ 'facing.start': 0 }, [stick(22.5 + 11)])).toBe(45);
    expect(facing({ 'facing.start': 0, 'facing.stickiness': 0 }, [stick(23)])).toBe(45);
  });

  it('turns in the shorter direction at its rate, the same at every tick rate', () => {
    const values = { 'facing.start': 170, 'facing.turn': 'rate', 'facing.rate': 90, 'facing.directions': 'free', 'ramp.model': 'instant' };
    const up = [{ at: 0, press: 'up' as const }];
    for (const hz of [30, 60, 144]) expect(facing({ ...values, 'clock.hz': hz }, up, hz / 2)).toBeCloseTo(-145, 6);
  });

  it('per tick it depends on the tick rate, with a half-life it does not', () => {
    const at = (turn: string, hz: number) =>
      facing({ 'facing.start': 0, 'facing.turn': turn, 'clock.hz': hz, 'ramp.model': 'instant' }, [{ at: 0, press: 'down' }], hz / 6);
    expect(Math.abs(at('perTick', 30) - at('perTick', 144))).toBeGreaterThan(5);
    expect(at('smooth', 30)).toBeCloseTo(at('smooth', 144), 9);
    expect(at('smooth', 60)).toBeCloseTo(90 * (1 - 2 ** (-1 / 6 / 0.05)), 9);
  });

  it('has compass names', () => {
    expect(['2', '4', '8', '16', 'free'].map((directions) => compassName(-Math.PI / 2 + 0.1, directions as '8'))).toEqual([
      'E',
      'N',
      'N',
      'N',
      'N',
    ]);
    expect(compassName(Math.PI / 8, '16')).toBe('ESE');
    expect(compassName(Math.PI, '8')).toBe('W');
  });
});

describe('the facing of a trace', () => {
  it('is in (−180, 180], for any start and either direction of turn', () => {
    for (const facing of [-360, -270, -180, -179, 0, 180, 181, 270, 359, 360])
      for (const values of [
        {},
        { 'facing.turn': 'rate' },
        { scheme: 'turn', 'facing.directions': 'free' },
        { 'facing.whenStill': 'start' },
      ]) {
        const { trace } = drive(
          values,
          40,
          [
            { at: 5, press: 'left' },
            { at: 20, release: 'left' },
          ],
          openGround({ start: { x: 0, y: 0, facing } }),
        );
        for (const angle of trace.values('facing')) {
          expect(angle).toBeGreaterThan(-180);
          expect(angle).toBeLessThanOrEqual(180);
        }
        expect(((trace.at('facing', 0) - facing) % 360) + 0).toBeCloseTo(0, 9);
      }
  });

  it('is the middle of the nearest sector, to the bit, for any direction', () => {
    for (const directions of ['2', '4', '8', '16'] as const)
      for (let degrees = -179; degrees <= 180; degrees += 3) {
        const [x, y] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
        const { trace } = drive(
          { 'facing.directions': directions, 'input.deadZone': 0, 'facing.stickiness': 0 },
          3,
          [{ at: 0, stick: [x, y] }],
          openGround({ start: { x: 0, y: 0, facing: 45.5 } }),
        );
        const step = 360 / Number(directions);
        const faced = trace.at('facing', 3);
        expect(faced % step).toBe(0 * faced);
        const away = Math.abs(((degrees - faced + 540) % 360) - 180);
        expect(away).toBeLessThanOrEqual(step / 2 + 1e-9);
      }
  });
});
