import { describe, expect, it } from 'vitest';
import { type Ground, readGround } from '../ground/ground.ts';
import { bucketWalls, WallIndex } from '../ground/wallIndex.ts';
import { drive, openGround, parametersWith } from '../testing/drive.ts';
import { clearanceField } from './clearance.ts';
import { narrowGaps } from './gaps.ts';
import { surveyGround, surveyInParts } from './survey.ts';

/** Two blocks side by side with a gap in a wall across the ground. */
const gate = (width: number, more: Partial<Ground> = {}) => {
  const half = width / 2;
  const block = (x0: number, x1: number): [number, number][] => [
    [x0, 90],
    [x1, 90],
    [x1, 120],
    [x0, 120],
  ];
  return openGround({
    size: { width: 300, height: 200 },
    start: { x: 150, y: 40 },
    goal: { x: 150, y: 170, radius: 10 },
    walls: [
      { points: block(0, 150 - half), closed: true },
      { points: block(150 + half, 300), closed: true },
    ],
    ...more,
  });
};
const survey = (ground: Ground, values = {}) => {
  const parameters = parametersWith(values);
  return surveyGround(ground, parameters, bucketWalls(ground));
};

describe('narrow gaps', () => {
  it('are reported with place and width, once per corridor', () => {
    const gaps = narrowGaps(gate(26), parametersWith().body, false);
    expect(gaps).toHaveLength(1);
    expect(gaps[0]?.width).toBeCloseTo(26, 9);
    expect(gaps[0]?.ratio).toBeCloseTo(26 / 24, 9);
    expect([(gaps[0]?.a[0] as number) + (gaps[0]?.b[0] as number), gaps[0]?.a[1]]).toEqual([300, 105]);
    expect(narrowGaps(gate(60), parametersWith().body, false)).toEqual([]);
  });

  it('compare with what a box needs across them', () => {
    const body = parametersWith({ 'body.shape': 'box', 'body.width': 40, 'body.height': 10 }).body;
    expect(narrowGaps(gate(26), body, false)[0]?.ratio).toBeCloseTo(26 / 40, 9);
  });

  it('are none between cells that touch, and none behind another wall', () => {
    const cells = openGround({ cells: ['....', '.#..', '..#.', '....'] });
    expect(narrowGaps(cells, parametersWith().body, false)).toEqual([]);
  });

  it('count the border as a wall where the body is kept in', () => {
    const near = openGround({
      size: { width: 300, height: 200 },
      walls: [
        {
          points: [
            [20, 50],
            [60, 50],
            [60, 90],
            [20, 90],
          ],
          closed: true,
        },
      ],
    });
    expect(narrowGaps(near, parametersWith().body, true).map(({ width }) => width)).toEqual([20]);
    expect(narrowGaps(near, parametersWith().body, false)).toEqual([]);
  });
});

describe('a survey', () => {
  it('reports whether the goal can be reached, to a hundredth of a pixel of the gap', () => {
    expect(survey(gate(24.1)).reachesGoal).toBe(true);
    expect(survey(gate(23.9)).reachesGoal).toBe(false);
    expect(survey(gate(23.9), { 'body.radius': 11 }).reachesGoal).toBe(true);
    expect(survey(gate(10), { 'contact.response': 'none' }).reachesGoal).toBe(true);
    expect(survey(openGround()).reachesGoal).toBeNull();
  });

  it('says what is odd: a start in a wall, walls that are not felt or cross themselves', () => {
    const odd = gate(30, { start: { x: 20, y: 100 } });
    odd.walls.push(
      {
        points: [
          [10, 10],
          [20, 20],
        ],
        solid: false,
      },
      {
        points: [
          [200, 10],
          [240, 50],
          [240, 10],
          [200, 50],
        ],
        closed: true,
      },
    );
    const { notes, startRegion } = survey(odd);
    expect(startRegion).toBe(-1);
    expect(notes.map(({ words }) => words)).toEqual(['The start lies in a wall', 'Wall 3 is drawn but not felt', 'Wall 4 crosses itself']);
  });

  it('comes in parts: room and notes, then gaps, then where the body gets to, each with what was known before', () => {
    const parameters = parametersWith();
    const ground = gate(26);
    const parts = surveyInParts(ground, parameters, bucketWalls(ground));
    const all = [parts.next(), parts.next(), parts.next()];
    const whole = survey(ground);
    expect(all.map(({ done }) => done)).toEqual([false, false, true]);
    expect(all.map(({ value }) => [value.gaps?.length, value.mesh?.x.length])).toEqual([
      [undefined, undefined],
      [1, undefined],
      [1, whole.mesh.x.length],
    ]);
    for (const { value } of all) expect(value.clearance).toEqual(whole.clearance);
    expect(all[2]?.value).toEqual(whole);
  });

  it('of a ground without a free place says so, and a body on it stays put', () => {
    const full = openGround({
      size: { width: 96, height: 96 },
      cells: ['###', '###', '###'],
      start: { x: 48, y: 48 },
      goal: { x: 80, y: 80, radius: 4 },
    });
    const found = survey(full, { 'bounds.policy': 'clamp' });
    expect(found.notes.map(({ words }) => words)).toEqual(['The start lies in a wall']);
    expect([found.reachesGoal, found.startRegion, found.mesh.starts.length]).toEqual([false, -1, 1]);
    const motion = drive({}, 60, [{ at: 0, press: 'right' }], full).body;
    expect(Number.isFinite(motion.x) && Number.isFinite(motion.y)).toBe(true);
  });

  it('measures the room at every place', () => {
    const ground = gate(60);
    const field = clearanceField(ground, new WallIndex(bucketWalls(ground)), 36);
    const at = (x: number, y: number) => field.values[Math.floor(y / field.step) * field.columns + Math.floor(x / field.step)] as number;
    expect(at(20, 105)).toBe(0);
    expect(at(150, 105)).toBeGreaterThan(24);
    expect(at(150, 105)).toBeLessThanOrEqual(30 + field.step);
    expect(at(150, 20)).toBe(36);
  });
});

describe('a ground that is wrong', () => {
  it('says where', () => {
    const wrong = readGround({
      format: 'zygopod/ground',
      version: 1,
      name: 'Wrong',
      size: { width: 10, height: 10 },
      start: { x: 0, y: 0 },
      walls: [
        {
          points: [
            [3, 3],
            [3, 3],
          ],
        },
      ],
    });
    expect(wrong).toMatchObject({ ok: false, faults: [{ path: 'walls.0.points', found: 'a wall without length at 3, 3' }] });
  });
});
