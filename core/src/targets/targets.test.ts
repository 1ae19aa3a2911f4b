import { describe, expect, it } from 'vitest';
import { type MetricName, type Metrics, metricKey, metricSpecs } from '../measure/metricSpecs.ts';
import { sequence } from '../testing/sequence.ts';
import { judgeTargets, keepAsTargets, parseTargets, readTargets, type Target, targetFaults } from './targets.ts';

const names = Object.keys(metricSpecs) as MetricName[];
const set = (targets: object[], over: object = {}) => ({ format: 'zygopod/targets', version: 1, targets, ...over });

describe('targets', () => {
  it('judge values by their bands, open ends included, and say what was not measured', () => {
    const metrics: Metrics = { riseTime: 0.2, stopDistance: 7, 'slideKept(45)': 0.7 };
    const judged = judgeTargets(
      [
        { metric: 'riseTime', min: 0.1, max: 0.2 },
        { metric: 'stopDistance', max: 6.9 },
        { metric: 'slideKept', at: 45, min: 0.7 },
        { metric: 'slideKept', at: 15, min: 0.7 },
        { metric: 'stepTime', max: 1 },
      ],
      metrics,
    );
    expect(judged.map(({ ok }) => ok)).toEqual([true, false, true, null, null]);
    expect(judged[2]?.value).toBe(0.7);
  });

  it('made from what is right take it in, by any values, and nothing twice as large', () => {
    for (let seed = 1; seed <= 200; seed++) {
      const next = sequence(seed * 57);
      const metrics: Metrics = {};
      for (const name of names)
        if (next() < 0.4)
          metrics[metricKey(name, 5 * Math.floor(next() * 18))] = next() < 0.2 ? 0 : 10 ** (next() * 10 - 5) * (next() < 0.2 ? -1 : 1);
      const targets = keepAsTargets(metrics);
      const read = readTargets(JSON.parse(JSON.stringify(set(targets))));
      expect(read.ok, `seed ${seed}: ${JSON.stringify(read.ok || read.faults)}`).toBe(true);
      for (const { ok, metric } of judgeTargets(targets, metrics)) expect(ok, `seed ${seed}, ${metric}`).toBe(true);
      const doubled = Object.fromEntries(Object.entries(metrics).map(([key, value]) => [key, value === 0 ? 1 : 2 * (value as number)]));
      for (const { ok, metric } of judgeTargets(targets, doubled)) expect(ok, `seed ${seed}, ${metric} doubled`).toBe(false);
    }
  });

  it('of a file have a name even where none is written, and refuse what is none', () => {
    const read = parseTargets(JSON.stringify(set([{ metric: 'riseTime', min: 0.1, max: 0.2 }])));
    expect(read).toMatchObject({ ok: true, value: { name: 'Targets', note: '' } });
    const refused: [object, string][] = [
      [set([{ metric: 'riseTime' }]), 'targets.0'],
      [set([{ metric: 'no metric', max: 1 }]), 'targets.0.metric'],
      [set([{ metric: 'riseTime', max: 1, more: 2 }]), 'targets.0'],
      [set([{ metric: 'slideKept', at: 91, max: 1 }]), 'targets.0.at'],
      [set([{ metric: 'riseTime', max: 1e99 }]), 'targets.0.max'],
      [set([], { version: 2 }), 'version'],
      [set(Array.from({ length: 201 }, () => ({ metric: 'riseTime', max: 1 }))), 'targets'],
    ];
    for (const [file, path] of refused) {
      const bad = readTargets(file);
      expect(bad.ok ? '' : bad.faults[0]?.path, JSON.stringify(file).slice(0, 120)).toContain(path);
    }
  });

  it('that contradict each other or name no metric are reported, those that narrow each other are not', () => {
    const two = (a: Partial<Target>, b: Partial<Target>) =>
      targetFaults([
        { metric: 'riseTime', ...a },
        { metric: 'riseTime', ...b },
      ]).map(Boolean);
    expect(two({ max: 1 }, { min: 2 })).toEqual([true, true]);
    expect(two({ max: 2 }, { min: 1 })).toEqual([false, false]);
    expect(
      targetFaults([
        { metric: 'slideKept', at: 15, max: 0.1 },
        { metric: 'slideKept', at: 45, min: 0.2 },
      ]),
    ).toEqual([null, null]);
    expect(targetFaults([{ metric: 'toString', max: 1 }])).toEqual(['no metric is called toString']);
    const [judged] = judgeTargets([{ metric: 'nothing', max: 1 }], {});
    expect(judged).toMatchObject({ value: null, ok: null, fault: 'no metric is called nothing' });
  });
});
