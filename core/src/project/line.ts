import type { Ground } from '../ground/ground.ts';
import { significant } from '../math/significant.ts';
import { axisLabel, cellsOver } from '../sweeps/axis.ts';
import { axesOf, type SweepFile } from '../sweeps/sweepFile.ts';
import type { Tape } from '../tape/tape.ts';
import type { TargetSet } from '../targets/targets.ts';
import { specs } from '../tuning/catalogue/catalogue.ts';
import { shortNumber } from '../tuning/expression.ts';
import { stopDistance } from '../tuning/outcomes.ts';
import { numberAt, type Tuning } from '../tuning/tuning.ts';

/** A tuning's main numbers in a line: `walk 140 · sprint 245 · stops within 7 px`. */
export function tuningLine({ file, parameters }: Tuning): string {
  const { scheme, pace, ramp, step, route, clock } = parameters;
  const unit = file.unit ?? 'px';
  if (scheme === 'step') {
    const rate = step.time > 0 ? `${significant(1 / step.time)} cells/s` : 'at once';
    return [`cells of ${significant(step.cell)}`, rate, ...(step.buffer > 0 ? ['buffered'] : [])].join(' · ');
  }
  const parts = [`walk ${significant(pace.walkSpeed)}`];
  if (pace.sprintSpeed > 0 && pace.sprintSpeed !== pace.walkSpeed) parts.push(`sprint ${significant(pace.sprintSpeed)}`);
  if (scheme === 'turn') parts.push(`turns ${significant(ramp.turnRate)} °/s`);
  if (route.enabled) parts.push('click to go');
  if (ramp.model === 'instant') parts.push('at once');
  else if (ramp.model === 'smooth') parts.push(`half-life ${significant(ramp.halfLife)} s`);
  else parts.push(`stops within ${significant(stopDistance(pace.walkSpeed, ramp.decelerate, 1 / clock.hz, clock.integration))} ${unit}`);
  return parts.join(' · ');
}

/** The numbers of a tuning by path, as they are in force: links followed, defaults filled in. */
export function tuningNumbers({ parameters }: Tuning): Record<string, number> {
  const paths = [...specs].filter(([, { kind }]) => kind === 'number').map(([path]) => path);
  return Object.fromEntries(paths.map((path) => [path, numberAt(parameters, path)]));
}

/** A ground's numbers in a line: `960 × 640 px · cells of 32 · 14 walls`. */
export function groundLine({ size, cell, cells, walls, unit }: Ground): string {
  const parts = [`${shortNumber(size.width)} × ${shortNumber(size.height)} ${unit}`];
  if (cells.length > 0) parts.push(`cells of ${shortNumber(cell)}`);
  if (walls.length > 0) parts.push(walls.length === 1 ? '1 wall' : `${walls.length} walls`);
  return parts.join(' · ');
}

/** A tape's numbers in a line: `17 s · 60 Hz · 84 events`. */
export function tapeLine({ ticks, hz, events }: Tape): string {
  return `${shortNumber(ticks / hz, 1)} s · ${shortNumber(hz)} Hz · ${events.length === 1 ? '1 event' : `${events.length} events`}`;
}

/** How many targets a set has: `7 targets`. */
export function targetsLine({ targets }: TargetSet): string {
  return targets.length === 1 ? '1 target' : `${targets.length} targets`;
}

/** How many tunings a sweep has, its parameters, and its tuning: `1,200 tunings · Walk × Decelerate · Carrier, day boots`. */
export function sweepLine(file: SweepFile): string {
  const axes = axesOf(file);
  const cells = cellsOver(axes);
  return [`${cells.toLocaleString('en')} tunings`, axes.map(({ path }) => axisLabel(path)).join(' × '), file.tuning.name].join(' · ');
}
