import { describe, expect, it } from 'vitest';
import { bends } from './drawRoute.ts';

describe('the bends of a path', () => {
  it('are one a corner: an arc in small steps is its middle', () => {
    const arc = (cx: number, cy: number) =>
      [0, 12, 24, 36, 48].map((degrees): [number, number] => [
        cx + 13 * Math.cos((degrees * Math.PI) / 180),
        cy + 13 * Math.sin((degrees * Math.PI) / 180),
      ]);
    const points: [number, number][] = [[0, 0], ...arc(100, 0), ...arc(300, 0)];
    expect(bends(points, 20)).toEqual([[0, 0], arc(100, 0)[2], arc(300, 0)[2]]);
  });

  it('are none where there are none', () => {
    expect(bends([], 20)).toEqual([]);
  });
});
