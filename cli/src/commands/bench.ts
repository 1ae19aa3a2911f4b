import { measureLaps } from '../bench/laps.ts';
import { measureBytecode, measureMemory, measureTapes } from '../bench/processes.ts';
import { measureRoutes } from '../bench/routes.ts';
import { measureSurvey } from '../bench/survey.ts';
import { measureSweep } from '../bench/sweep.ts';
import { type Figure, measureTicks } from '../bench/ticks.ts';
import { GOOD, Misuse } from '../misuse.ts';

const parts: Record<string, () => Figure[] | Promise<Figure[]>> = {
  ticks: measureTicks,
  memory: measureMemory,
  tapes: measureTapes,
  bytecode: measureBytecode,
  routes: measureRoutes,
  survey: measureSurvey,
  laps: measureLaps,
  sweep: measureSweep,
};

/** The parts of the suite, in the order in which they run. */
const benchParts = Object.keys(parts);

/** Prints each measure, the ticks as ratios to the bare loop of the same run; all parts, or those that are named. */
export async function bench(named: readonly string[], options: { json?: boolean }): Promise<number> {
  const unknown = named.find((part) => !Object.hasOwn(parts, part));
  if (unknown !== undefined) throw new Misuse(`found ${unknown}, expected one of ${benchParts.join(', ')}`);
  const figures: Figure[] = [];
  for (const part of named.length > 0 ? named : benchParts) {
    const measured = await (parts[part] as (typeof parts)[string])();
    figures.push(...measured);
    if (options.json) continue;
    for (const { name, figure, reach } of measured) process.stdout.write(`${name.padEnd(54)} ${figure.padStart(28)}   ${reach}\n`);
  }
  if (options.json) process.stdout.write(`${JSON.stringify(figures, null, 2)}\n`);
  return GOOD;
}
