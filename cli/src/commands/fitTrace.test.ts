import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { tuningFile } from '../files.ts';
import { root } from '../root.ts';

const folder = mkdtempSync(join(tmpdir(), 'zygopod-recording-'));
afterAll(() => rmSync(folder, { recursive: true }));

const cli = (...args: string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(root, 'cli/src/main.ts'), ...args], { encoding: 'utf8' });
  return { status, stdout, stderr };
};
const demo = (name: string) => join(root, `demo/${name}.json`);
const drive = join(folder, 'drive.csv');
beforeAll(() => {
  const files = ['--tuning', demo('carrier-day-boots.tuning'), '--ground', demo('boardwalk.ground'), '--tape', demo('out-and-back.tape')];
  expect(cli('sim', ...files, '--trace', drive).status).toBe(0);
});

describe('fit --trace', () => {
  it('finds the numbers of what sim wrote, with their ranges, and writes the tuning', () => {
    const output = join(folder, 'found.tuning.json');
    const { status, stdout } = cli('fit', '--trace', drive, '--json', '-o', output);
    const report = JSON.parse(stdout);
    expect([status, Object.keys(report)]).toEqual([0, ['set', 'held', 'unknown', 'residual', 'tuning']]);
    const { pace, ramp } = tuningFile(demo('carrier-day-boots.tuning')).parameters;
    expect(report.set['pace.walkSpeed'] / pace.walkSpeed).toBeCloseTo(1, 2);
    expect(report.set['pace.sprintSpeed'] / pace.sprintSpeed).toBeCloseTo(1, 2);
    expect(report.set['ramp.accelerate'] / ramp.accelerate).toBeCloseTo(1, 1);
    expect(report.set['facing.directions']).toBe('8');
    expect(report.unknown).toContain('ramp.brake');
    for (const { low, high, evidence } of Object.values<{ low: number; high: number; evidence: string }>(report.held)) {
      expect(low).toBeLessThan(high);
      expect(evidence).not.toBe('');
    }
    expect(tuningFile(output).parameters.pace.walkSpeed).toBe(report.set['pace.walkSpeed']);
    // Two takes of the same are as one, in tiles as in px.
    const twice = cli('fit', '--trace', drive, drive, '--unit', 'tiles:2', '--json');
    expect(JSON.parse(twice.stdout).set['pace.walkSpeed'] / report.set['pace.walkSpeed']).toBeCloseTo(2, 2);
  });

  it('ends with 1 where there is nothing to find, and with 2 where it is misused', () => {
    const still = join(folder, 'still.csv');
    writeFileSync(still, ['time,x,y', ...Array.from({ length: 60 }, (_, i) => `${i / 60},5,7`)].join('\n'));
    expect(cli('fit', '--trace', still)).toMatchObject({ status: 1, stderr: expect.stringContaining('no motion') });
    writeFileSync(still, 'time,x,y\n0,1,2\n1,2,3');
    expect(cli('fit', '--trace', still)).toMatchObject({ status: 2, stderr: expect.stringContaining('found 2 rows') });
    expect(cli('fit', '--trace', drive, '--unit', 'feet')).toMatchObject({ status: 2, stderr: expect.stringContaining('--unit') });
    expect(cli('fit', '--trace', drive, '--targets', demo('brisk-carrier.targets'))).toMatchObject({ status: 2 });
    expect(cli('fit', '--trace', drive, '--move', 'ramp.brake')).toMatchObject({ status: 2, stderr: expect.stringContaining('--move') });
    expect(cli('fit', '--trace', drive, '--ground', drive)).toMatchObject({ status: 2 });
    expect(cli('fit')).toMatchObject({ status: 2, stderr: expect.stringContaining('--tuning and --targets') });
  });
});
