/**
 * The cells of a grid from coarse to fine: level by level the step between cells halves on both axes, so that the first hundredth shows the whole plane.
 * Each cell comes once. Yields the index of a cell, row by row (`y * width + x`).
 */
export function* coarseToFine(width: number, height: number): Generator<number> {
  let step = 1;
  while (step < Math.max(width, height)) step *= 2;
  for (let before = 0; step >= 1; before = step, step /= 2)
    for (let y = 0; y < height; y += step)
      for (let x = 0; x < width; x += step) if (before === 0 || x % before !== 0 || y % before !== 0) yield y * width + x;
}
