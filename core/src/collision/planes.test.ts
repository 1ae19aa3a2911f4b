import { describe, expect, it } from 'vitest';
import { seeds } from '../testing/campaign.ts';
import { sequence } from '../testing/sequence.ts';
import { addPlane, leadAlong, Planes } from './planes.ts';
import type { Probe } from './probe.ts';

/** A plane whose normal has this angle, as a probe reports it. */
const touching = (angle: number) => ({ normalX: Math.cos(angle), normalY: Math.sin(angle) }) as Probe;

function planesAt(angles: readonly number[], { friction = 0, keeps = false, isWall = true } = {}): Planes {
  const planes = new Planes(friction, keeps);
  for (const angle of angles) addPlane(planes, touching(angle), isWall);
  return planes;
}

function lead(planes: Planes, x: number, y: number): { goesOn: boolean; x: number; y: number } {
  planes.inX = x;
  planes.inY = y;
  const goesOn = leadAlong(planes);
  return { goesOn, x: planes.outX, y: planes.outY };
}

describe('what planes leave of a vector', () => {
  it('is the nearest vector that runs into none of them: no other direction or size is nearer', () => {
    for (const seed of seeds(80, 400)) {
      const next = sequence(seed * 7919);
      const angles = Array.from({ length: 1 + Math.floor(next() * 4) }, () => next() * 2 * Math.PI);
      const [x, y] = [next() * 2 - 1, next() * 2 - 1];
      const left = lead(planesAt(angles), x, y);
      const isOpen = (vx: number, vy: number, slack: number) => angles.every((a) => vx * Math.cos(a) + vy * Math.sin(a) >= -slack);
      expect(isOpen(left.x, left.y, 1e-9), `seed ${seed}`).toBe(true);
      expect(left.x * x + left.y * y, 'never against what was wanted').toBeGreaterThanOrEqual(0);
      const away = Math.hypot(left.x - x, left.y - y);
      for (let spoke = 0; spoke < 360; spoke++)
        for (let size = 0; size <= 1.4; size += 0.05) {
          const [vx, vy] = [Math.cos((spoke * Math.PI) / 180) * size, Math.sin((spoke * Math.PI) / 180) * size];
          if (isOpen(vx, vy, 0)) expect(Math.hypot(vx - x, vy - y), `seed ${seed}`).toBeGreaterThanOrEqual(away - 1e-6);
        }
    }
  });

  it('is cos θ of it along one plane, less μ sin θ with friction, and all of it where the speed is kept', () => {
    for (const [name, options, share] of [
      ['plain', {}, (angle: number) => Math.cos(angle)],
      ['friction', { friction: 0.3 }, (angle: number) => Math.max(0, Math.cos(angle) - 0.3 * Math.sin(angle))],
      ['kept', { keeps: true }, () => 1],
    ] as const)
      for (let degrees = 1; degrees < 90; degrees += 4)
        for (const turned of [0, 0.7, 2, 4]) {
          const angle = (degrees * Math.PI) / 180;
          // Into the plane, at that angle to it.
          const heading = turned + Math.PI / 2 + angle;
          const left = lead(planesAt([turned], options), Math.cos(heading), Math.sin(heading));
          expect(Math.hypot(left.x, left.y), `${name} at ${degrees}°`).toBeCloseTo(share(angle), 9);
        }
  });

  it('is nothing head-on, also where the speed is kept and rounding leaves a hair', () => {
    for (const hair of [0, 1e-16, -1e-12, 1e-9])
      for (const keeps of [false, true]) expect(lead(planesAt([Math.PI / 2], { keeps }), hair, -1)).toEqual({ goesOn: false, x: 0, y: 0 });
  });

  it('of an edge is neither rubbed nor turned', () => {
    for (const options of [{ friction: 0.9 }, { keeps: true }]) {
      const left = lead(planesAt([Math.PI / 2], { ...options, isWall: false }), 3, -4);
      expect(left.goesOn).toBe(true);
      expect(left.x).toBeCloseTo(3, 12);
      expect(left.y).toBeCloseTo(0, 12);
    }
  });

  it('is itself without planes, and away from them', () => {
    expect(lead(planesAt([]), 0.3, -0.4)).toEqual({ goesOn: true, x: 0.3, y: -0.4 });
    expect(lead(planesAt([0, 1]), 1, 1)).toEqual({ goesOn: true, x: 1, y: 1 });
  });
});

describe('a plane', () => {
  it('counts once, as a wall or as an edge', () => {
    const planes = new Planes(0, false);
    expect([addPlane(planes, touching(1), true), addPlane(planes, touching(1), true), addPlane(planes, touching(1), false)]).toEqual([
      true,
      false,
      true,
    ]);
    expect(planes.count).toBe(2);
  });
});
