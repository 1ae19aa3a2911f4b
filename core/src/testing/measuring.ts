import { expect } from 'vitest';
import { drills } from '../measure/drills/list.ts';
import { metricsOf, runDrills } from '../measure/drills/run.ts';
import type { Metrics } from '../measure/metricSpecs.ts';
import type { FileValue } from '../tuning/schema.ts';
import { seeds } from './campaign.ts';
import { parametersWith } from './drive.ts';

/** The measurements of the named drills for a tuning with these values. */
export const measured = (values: Record<string, FileValue>, ...names: string[]): Metrics =>
  metricsOf([...runDrills(parametersWith(values), { drills: drills.filter(({ name }) => names.includes(name)) })]);

/** Within half a per cent, or a tenth of what a tick comes to. */
export function agrees(value: number | undefined, wanted: number, tick: number, what: string): void {
  expect(value, what).toBeDefined();
  const error = Math.abs((value as number) - wanted);
  expect(error, `${what}: ${value}, by the reference ${wanted}, a tick is ${tick}`).toBeLessThanOrEqual(
    Math.max(0.005 * Math.abs(wanted), 0.1 * tick),
  );
}

/** So many instances in the suite, and so many of the whole campaign. */
export function each(share: number, whole: number, check: (seed: number) => void): void {
  for (const seed of seeds(share, whole)) check(seed);
}

/** Metrics at many ticks for each of the tuning's own. */
export function atManyTicks(values: Record<string, FileValue>, hz: number, name: string): Metrics {
  const parameters = parametersWith(values);
  const clock = { ...parameters.clock, hz: hz * Math.ceil(2400 / hz) };
  return metricsOf([...runDrills({ ...parameters, clock }, { drills: drills.filter((drill) => drill.name === name) })]);
}
