import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { parseGround } from '../../ground/ground.ts';
import { openGround } from '../../testing/drive.ts';
import { tuningWith } from '../../testing/soundTuning.ts';
import { groundSnags } from './ground.ts';

describe('snags of a ground', () => {
  const parameters = tuningWith({ 'body.radius': 12 }).parameters;
  const named = (over: object, p = parameters) =>
    groundSnags(openGround({ size: { width: 640, height: 384 }, start: { x: 80, y: 80 }, ...over }), p).map(({ id }) => id);
  const box = (x: number, y: number, w: number, h: number, solid = true) => ({
    points: [
      [x, y],
      [x + w, y],
      [x + w, y + h],
      [x, y + h],
    ] as [number, number][],
    closed: true,
    solid,
  });

  it('are none where there is room', () => {
    expect(named({})).toEqual([]);
    expect(named({ walls: [box(300, 100, 60, 60)], goal: { x: 500, y: 300, radius: 16 } })).toEqual([]);
  });

  it('are found where they are', () => {
    expect(named({ walls: [box(300, 100, 60, 60, false)] })).toEqual(['wall-not-solid']);
    expect(named({ walls: [box(60, 60, 60, 60)] })).toContain('start-in-wall');
    expect(named({ walls: [box(300, -10, 20, 420)], goal: { x: 500, y: 300, radius: 16 } })).toEqual(['goal-unreachable']);
    const gap = (wide: number) => named({ walls: [box(300, -20, 20, 200), box(300, 180 + wide, 20, 260)] });
    expect(gap(20)).toEqual(['gap-too-narrow']);
    expect(gap(26)).toEqual(['gap-tight']);
    expect(gap(40)).toEqual([]);
    const straight = tuningWith({ 'route.enabled': true, 'route.planner': 'straight' }).parameters;
    expect(named({ walls: [box(300, 100, 60, 60)] }, straight)).toEqual(['route-straight']);
    expect(named({}, straight)).toEqual([]);
    expect(named({}, tuningWith({ scheme: 'step', 'body.radius': 16 }).parameters)).toEqual(['cell-body-equal']);
    expect(named({}, tuningWith({ scheme: 'step', 'body.radius': 12 }).parameters)).toEqual([]);
  });

  it('give the place and the size', () => {
    const ground = openGround({
      size: { width: 640, height: 384 },
      start: { x: 80, y: 80 },
      walls: [box(300, 40, 20, 140), box(300, 200, 20, 150)],
    });
    const [snag] = groundSnags(ground, parameters);
    expect(snag?.evidence).toContain('20 px wide');
    expect(snag?.place?.y).toBeCloseTo(190, 6);
  });

  it('are none on the demo’s Boardwalk but for its gaps', () => {
    const read = parseGround(readFileSync(new URL('../../../../demo/boardwalk.ground.json', import.meta.url), 'utf8'));
    if (!read.ok) throw new Error('no Boardwalk');
    expect(groundSnags(read.value, parameters).filter(({ id }) => !id.startsWith('gap-'))).toEqual([]);
  });
});
