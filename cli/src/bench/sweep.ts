import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type MetricKey, parseTuning, readAxis, Sweep, type SweepAxis } from '@zygopod/core';
import { root } from '../root.ts';
import { runSweep } from '../sweep/pool.ts';
import type { Figure } from './ticks.ts';

/** A metric of each of eight drills: standing start, hard stop, turn-round, right angle, sprint to empty, edges, gaps, walls. */
const metrics: readonly MetricKey[] = [
  'riseTime',
  'stopDistance',
  'reverseTime',
  'turn90Radius',
  'sprintTime',
  'edgeOvershoot',
  'tightestGap',
  'slideKept(45)',
];

/** 10,000 tunings through eight drills, with one worker and with two. */
export async function measureSweep(): Promise<Figure[]> {
  const read = parseTuning(readFileSync(join(root, 'demo/carrier-day-boots.tuning.json'), 'utf8'));
  if (!read.ok) throw new Error('the demo cannot be read');
  const tuning = read.value;
  const axes = ['pace.walkSpeed=60:320:100', 'ramp.decelerate=300:4800:100:log'].map((text) => readAxis(text, tuning.file) as SweepAxis);
  const time = async (workers: number) => {
    const sweep = new Sweep({ tuning, axes, metrics, targets: [], ground: null });
    const begun = performance.now();
    await runSweep(sweep, () => undefined, workers);
    return (performance.now() - begun) / 1000;
  };
  const [one, two] = [await time(1), await time(2)];
  return [
    { name: '10,000 tunings × 8 drills, one worker', figure: `${one.toFixed(1)} s`, reach: '' },
    { name: '10,000 tunings × 8 drills, two workers', figure: `${two.toFixed(1)} s`, reach: 'reach ≤ 12 s' },
    { name: 'two workers to one', figure: `${(one / two).toFixed(2)} ×`, reach: 'reach ≥ 1.8 ×' },
  ];
}
