import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { root } from '../root.ts';

const demo = (name: string) => join(root, 'demo', name);
function compare(a: string, b: string, ...more: string[]) {
  const args = ['compare', demo(a), demo(b), '--ground', demo('boardwalk.ground.json'), ...more];
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(root, 'cli/src/main.ts'), ...args], { encoding: 'utf8' });
  return { status, stdout, stderr };
}
const day = 'carrier-day-boots.tuning.json';
const storm = 'carrier-storm-boots.tuning.json';

describe('compare', () => {
  it('lists differences and their effects for machines', () => {
    const { status, stdout } = compare(day, storm, '--json');
    expect(status).toBe(0);
    const { parameters, metrics } = JSON.parse(stdout) as {
      parameters: { path: string; a: unknown; b: unknown }[];
      metrics: { name: string; a: number; b: number }[];
    };
    expect(parameters.length).toBeGreaterThan(0);
    expect(metrics.find(({ name }) => name === 'riseTime')?.a).toBeCloseTo((0.99 * 140) / 900, 3);
    expect(metrics.some(({ a, b }) => a !== b)).toBe(true);
    const { moments } = JSON.parse(stdout) as { moments: { time: number; kind: string; words: string }[] };
    expect(moments.map(({ kind }) => kind)).toContain('most');
    expect([...moments].sort((one, other) => one.time - other.time)).toEqual(moments);
  });

  it('finds nothing between a tuning and itself', () => {
    const { stdout } = compare(day, day, '--json', '--tape', demo('boardwalk-lap.tape.json'));
    const { parameters, metrics } = JSON.parse(stdout) as { parameters: unknown[]; metrics: { a: number; b: number }[] };
    expect(parameters).toEqual([]);
    for (const { a, b } of metrics) expect(a).toBe(b);
  });

  it('prints a table for people, and refuses what is no tuning in a line', () => {
    expect(compare(day, storm).stdout).toMatch(/Stops after +0\.\d+ +\d+\.?\d* +s/);
    const { status, stderr } = compare(day, 'boardwalk.ground.json');
    expect(status).toBe(2);
    expect(stderr.trimEnd().split('\n').length).toBeLessThanOrEqual(2);
  });
});
