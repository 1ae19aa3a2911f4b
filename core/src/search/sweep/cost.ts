import type { SweepDefinition } from './sweep.ts';
import { drillsOf, drivenTapes } from './sweep.ts';

/** Milliseconds of a drill on one tuning, measured warm on one core; of all others about `USUAL`. They size chunks, and nothing else. */
const costs: Readonly<Record<string, number>> = {
  'sprint-to-empty': 0.5,
  'long-sprint-cycle': 2.3,
  'wall-graze': 1.6,
  'gap-series': 2.2,
  'click-tour': 5,
  'tick-rates': 2,
  lap: 20,
};
const USUAL = 0.3;
/** Milliseconds of a second of a tape, at 60 ticks. */
const TAPED = 0.06;
/** Milliseconds to resolve a tuning. */
const RESOLVED = 0.2;

/** About how long a cell of a sweep takes on one core, ms. */
export function cellCost(definition: SweepDefinition): number {
  const taped = drivenTapes(definition).reduce((sum, { ticks, hz }) => sum + (ticks / hz) * TAPED, 0);
  return drillsOf(definition).reduce((sum, { name }) => sum + (costs[name] ?? USUAL), RESOLVED + taped);
}
