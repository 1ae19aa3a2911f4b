import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { readAxis, rerun, Sweep, type SweepAxis, sweepReport, traceMetrics } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { groundFile, tapeFile, tuningFile } from '../files.ts';
import { root } from '../root.ts';

const boots = join(root, 'demo/carrier-day-boots.tuning.json');
const run = (...args: string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(root, 'cli/src/main.ts'), 'sweep', '--tuning', boots, ...args], {
    encoding: 'utf8',
  });
  return { status, stdout, stderr };
};

describe('sweep', () => {
  it('prints with several workers what one by one measures, bit for bit', () => {
    const over = ['pace.walkSpeed=60:320:24', 'ramp.decelerate=300:4800:16:log'];
    const { status, stdout, stderr } = run(
      '--over',
      over[0] as string,
      '--over',
      over[1] as string,
      '--metric',
      'stopDistance,riseTime',
      '--json',
    );
    expect(stderr).toMatch(/^384 tunings, [0-9.]+ s\n$/);
    expect(status).toBe(0);
    const tuning = tuningFile(boots);
    const axes = over.map((text) => readAxis(text, tuning.file) as SweepAxis);
    const alone = new Sweep({ tuning, axes, metrics: ['stopDistance', 'riseTime'], targets: [], ground: null });
    while (alone.run(100));
    const { seconds, ...report } = JSON.parse(stdout);
    const { seconds: _, ...own } = sweepReport(alone, 0);
    expect(seconds).toBeGreaterThan(0);
    expect(report).toEqual(own);
    expect(Object.keys(JSON.parse(stdout))).toEqual(['axes', 'metrics', 'holes', 'seconds']);
    expect(report.metrics.stopDistance).toHaveLength(16);
    expect(report.metrics.stopDistance[0]).toHaveLength(24);
  });

  it('compares with targets, and writes CSV', () => {
    const { stdout } = run('--over', 'ramp.decelerate=300,1200,4800', '--targets', join(root, 'demo/brisk-carrier.targets.json'), '--csv');
    const [head, ...lines] = stdout.trimEnd().split('\r\n');
    expect(head).toMatch(/^ramp\.decelerate,.*stopDistance.*,met$/);
    expect(lines.map((line) => line.split(',')[0])).toEqual(['300', '1200', '4800']);
    for (const line of lines) expect(line).toMatch(/,(true|false)$/);
  });

  it('drives tapes on a ground, and refuses their metrics without one', () => {
    const [tape, ground] = ['out-and-back.tape', 'boardwalk.ground'].map((name) => join(root, `demo/${name}.json`)) as [string, string];
    const args = ['--over', 'pace.walkSpeed=100,140', '--metric', 'travelled@1,stopDistance', '--tape', tape];
    const { status, stdout } = run(...args, '--ground', ground);
    const { metrics } = JSON.parse(stdout) as { metrics: Record<string, number[][]> };
    const { parameters } = tuningFile(boots);
    const driven = traceMetrics(rerun(tapeFile(tape), parameters, groundFile(ground)).trace, parameters);
    expect([status, metrics['travelled@1']?.[0]?.[1]]).toEqual([0, driven.travelled]);
    expect(run(...args)).toMatchObject({ status: 2, stderr: expect.stringContaining('travelled@1: needs a ground') });
  });

  it.each([
    [['--over', 'pace.nothing=1:2:3', '--metric', 'stopDistance'], /--over: pace.nothing: found no such parameter/],
    [['--over', 'pace.walkSpeed=9:1:3', '--metric', 'stopDistance'], /expected the first below the second/],
    [['--over', 'pace.walkSpeed=1:9:3', '--metric', 'nonsense'], /nonsense: found no such metric/],
    [['--over', 'pace.walkSpeed=1:9:3'], /found no metric/],
    [['--over', 'pace.walkSpeed=1:9:3', '--metric', 'stepTime'], /stepTime: doesn’t apply to this tuning/],
    [['--over', 'pace.walkSpeed=1:9:3', 'ramp.brake=1:9:3', 'ramp.ease=1:9:3', '--metric', 'stopTime'], /found 3 axes/],
  ])('%j is refused', (args, why) => {
    const { status, stdout, stderr } = run(...args);
    expect([status, stdout]).toEqual([2, '']);
    expect(stderr).toMatch(why);
  });
});
