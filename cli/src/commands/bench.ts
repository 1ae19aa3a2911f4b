import { measureRoutes } from '../bench/routes.ts';
import { measureTicks } from '../bench/ticks.ts';
import { GOOD } from '../misuse.ts';

/** Prints each measure as a ratio to the bare loop of the same run. */
export function bench(options: { json?: boolean }): number {
  const measures = measureTicks();
  const routes = measureRoutes();
  if (options.json) process.stdout.write(`${JSON.stringify([...measures, ...routes], null, 2)}\n`);
  else {
    for (const { name, perSecond, ratio, reach } of measures)
      process.stdout.write(`${name.padEnd(44)} ${(perSecond / 1e6).toFixed(2).padStart(8)} M/s   ${ratio.padStart(8)}   ${reach}\n`);
    for (const { name, figure, reach } of routes) process.stdout.write(`${name.padEnd(44)} ${figure.padStart(23)}   ${reach}\n`);
  }
  return GOOD;
}
