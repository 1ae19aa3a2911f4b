import type { Target } from '@zygopod/core';
import { useMemo } from 'react';
import type { Shown } from './choice.ts';
import { bandRings, cellRings, contourLines, thinned } from './contourLines.ts';
import { gridOf } from './heat.ts';
import { bandOf } from './layout.ts';
import { levelsOf } from './levels.ts';
import type { Swept } from './measuring.ts';

/** Where all targets are met, as a band. */
const met: Target = { metric: '', min: 0.5 };

/** The drawn parts of a plane, in cells: its values and their levels, contours, the target's band and its ends. One unit of a line is `step` cells. */
export function usePlane(swept: Swept, shown: Shown) {
  const { sweep } = swept;
  const { width, height } = sweep;
  const { axes, targets } = sweep.definition;
  // Between two options there is nothing: no lines there.
  const isSmooth = axes.every(({ values }) => values.every((value) => typeof value === 'number'));
  // A sweep is one object that fills; `swept` is new with each picture of it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: cells change within the sweep
  const drawn = useMemo(() => {
    const grid = gridOf(sweep, shown);
    const levels = shown === 'met' ? { values: [0.5], low: 0, high: 1.6, isLog: false } : levelsOf(grid);
    const few = isSmooth ? thinned(grid, width, height) : { values: grid, width, height, step: 1 };
    return { grid, levels, few, lines: isSmooth ? contourLines(few.values, few.width, few.height, levels.values) : [] };
  }, [swept, shown]);
  const { few } = drawn;
  const band = shown === 'met' ? met : bandOf(targets, shown);
  const rings = useMemo(
    () =>
      band
        ? (isSmooth ? bandRings : cellRings)(few.values, few.width, few.height, band.min ?? Number.NEGATIVE_INFINITY, band.max ?? Infinity)
        : [],
    [few, band, isSmooth],
  );
  const [min, max] = shown === 'met' ? [] : [band?.min, band?.max];
  const ends = useMemo(() => [min, max].filter((end) => end !== undefined), [min, max]);
  const endLines = useMemo(() => (isSmooth ? contourLines(few.values, few.width, few.height, ends) : []), [few, ends, isSmooth]);
  return { ...drawn, rings, ends, endLines, step: few.step };
}
