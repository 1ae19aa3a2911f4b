import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Sources } from './fold/source.ts';
import { core, motionOf, tickSteps } from './motion.ts';
import { demo } from './testing/random.ts';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'zygopod-order-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

/** The steps of a core whose tick is another one. */
function stepsOf(change: (tick: string) => string, name: string): string[] {
  const copy = join(folder, name);
  cpSync(join(import.meta.dirname, '../../core/src'), copy, { recursive: true, filter: (path) => !path.endsWith('.test.ts') });
  const at = join(copy, 'motion/tick.ts');
  writeFileSync(at, change(readFileSync(at, 'utf8')));
  return tickSteps(new Sources(copy)).map((step) => step.name);
}

it('the steps of generated code are those of the core’s tick, in its order', () => {
  const steps = tickSteps(core);
  expect(steps[0]).toEqual({ path: 'motion/clock.ts', name: 'stepClock', part: 'clock' });
  expect(steps.map(({ name }) => name)).toContain('meetEdges');
  expect(motionOf(demo('carrier-day-boots')).tick.map(({ name }) => name)).toEqual(
    steps.map(({ name }) => name).filter((name) => motionOf(demo('carrier-day-boots')).tick.some((one) => one.name === name)),
  );
  const lines = ['  stepGait(body, plan.gait);\n', '  stepVelocity(body, plan.velocity);\n'] as const;
  const swapped = stepsOf((tick) => tick.replace(lines[0] + lines[1], lines[1] + lines[0]), 'swapped');
  expect(swapped.indexOf('stepGait')).toBe(swapped.indexOf('stepVelocity') + 1);
});

it('a tick that does more than to call its stages is refused', () => {
  expect(() => stepsOf((tick) => tick.replace('  stepGait(', '  if (body.x > 0) stepGait('), 'branch')).toThrow('does more than to call');
  expect(() => stepsOf((tick) => tick.replace('plan.gait)', 'plan)'), 'whole')).toThrow('stage with its part of the plan');
});
