import { measureTicks } from '../bench/ticks.ts';
import { GOOD } from '../misuse.ts';

/** Prints each measure as a ratio to the bare loop of the same run. */
export function bench(options: { json?: boolean }): number {
  const measures = measureTicks();
  if (options.json) process.stdout.write(`${JSON.stringify(measures, null, 2)}\n`);
  else
    for (const { name, perSecond, ratio, reach } of measures)
      process.stdout.write(`${name.padEnd(44)} ${(perSecond / 1e6).toFixed(2).padStart(8)} M/s   ${ratio.padStart(8)}   ${reach}\n`);
  return GOOD;
}
