import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { tuningFile } from '../files.ts';
import { root } from '../root.ts';

const folder = mkdtempSync(join(tmpdir(), 'zygopod-fit-'));
afterAll(() => rmSync(folder, { recursive: true }));

const boots = join(root, 'demo/carrier-day-boots.tuning.json');
const run = (targets: object[], ...args: string[]) => {
  const file = join(folder, 'own.targets.json');
  writeFileSync(file, JSON.stringify({ format: 'zygopod/targets', version: 1, targets }));
  const { status, stdout, stderr } = spawnSync(
    process.execPath,
    [join(root, 'cli/src/main.ts'), 'fit', '--tuning', boots, '--targets', file, ...args],
    { encoding: 'utf8' },
  );
  return { status, stdout, stderr };
};

describe('fit', () => {
  it('writes a tuning whose drills meet the targets that the old one missed', () => {
    const output = join(folder, 'brisk.tuning.json');
    const targets = [
      { metric: 'stopDistance', min: 3.6, max: 4 },
      { metric: 'riseTime', max: 0.12 },
    ];
    const { status, stdout } = run(targets, '--move', 'ramp.decelerate=600:6000,ramp.accelerate', '--json', '-o', output);
    const report = JSON.parse(stdout);
    expect([status, report.met, Object.keys(report)]).toEqual([0, true, ['met', 'set', 'held', 'free', 'conflicts', 'metrics']]);
    expect(report.metrics[0]).toMatchObject({ name: 'stopDistance', before: 7, min: 3.6, max: 4, ok: true });
    for (const { low, high } of Object.values<{ low: number; high: number }>(report.held)) expect(low).toBeLessThan(high);
    const { ramp } = tuningFile(output).parameters;
    expect(ramp.decelerate).toBe(report.set['ramp.decelerate']);
    const drilled = spawnSync(
      process.execPath,
      [join(root, 'cli/src/main.ts'), 'drill', '--tuning', output, '--targets', join(folder, 'own.targets.json'), '--json'],
      { encoding: 'utf8' },
    );
    expect([drilled.status, JSON.parse(drilled.stdout).targets.map(({ ok }: { ok: boolean }) => ok)]).toEqual([0, [true, true]]);
  });

  it('ends with 1 and the conflict where targets can’t be met, and with 2 where it is misused', () => {
    const apart = [
      { metric: 'stopDistance', max: 4 },
      { metric: 'stopTime', min: 0.3 },
    ];
    const { status, stdout } = run(apart, '--move', 'ramp.decelerate');
    expect(status).toBe(1);
    expect(stdout).toContain('Stops within at most 4 px and Stops after at least 0.3 s conflict through Decelerate.');
    expect(run(apart, '--move', 'ramp.speed')).toMatchObject({ status: 2, stderr: expect.stringContaining('found no such parameter') });
    expect(run(apart, '--move', 'ramp.brake=9')).toMatchObject({ status: 2, stderr: expect.stringContaining('PATH=MIN:MAX') });
    expect(run([])).toMatchObject({ status: 2, stderr: expect.stringContaining('found no target') });
    expect(readFileSync(boots, 'utf8')).toContain('Carrier, day boots');
  });
});
