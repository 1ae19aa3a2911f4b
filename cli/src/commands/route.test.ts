import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { root } from '../root.ts';

const demo = (name: string) => join(root, 'demo', name);

function route(...args: string[]): { status: number | null; stdout: string; stderr: string } {
  const files = ['--tuning', demo('ferry-hand.tuning.json'), '--ground', demo('tidal-flats.ground.json')];
  return spawnSync(process.execPath, [join(root, 'cli/src/main.ts'), 'route', ...files, ...args], { encoding: 'utf8' });
}

describe('route', () => {
  it('answers for machines: points from start to end, length, walking time, visited bends', () => {
    const { status, stdout } = route('--from', '448,3776', '--to', '5952,576', '--json');
    const answer = JSON.parse(stdout) as {
      reached: boolean;
      points: [number, number][];
      length: number;
      seconds: number;
      expanded: number;
      milliseconds: number;
    };
    expect(status).toBe(0);
    expect(answer.reached).toBe(true);
    expect(answer.points[0]).toEqual([448, 3776]);
    expect(answer.points.at(-1)).toEqual([5952, 576]);
    const length = answer.points
      .slice(1)
      .reduce((sum, [x, y], i) => sum + Math.hypot(x - (answer.points[i]?.[0] ?? 0), y - (answer.points[i]?.[1] ?? 0)), 0);
    expect(answer.length).toBeCloseTo(length, 6);
    // Pools and mud slow the walk: it takes longer than its length at walk speed, 170 px/s.
    expect(answer.seconds).toBeGreaterThan(answer.length / 170);
    expect(answer.expanded).toBeGreaterThan(0);
  });

  it('says when the point is not reached, with exit code 1, and when it is misused, with 2', () => {
    const outside = route('--from', '448,3776', '--to=-500,100');
    expect(outside.status).toBe(1);
    expect(outside.stdout).toContain('not reached');
    const misused = route('--from', 'here', '--to', '1,2');
    expect(misused.status).toBe(2);
    expect(misused.stderr).toContain('--from: found here, expected two numbers');
  });
});
