import { axisText, type SweepAxis, spread } from '@zygopod/core';

/** A rectangle of cells, both ends included. */
export interface CellBox {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** The axes of a rectangle of cells, as text: as many values as before between its ends; of options those that are in it. */
export function zoomInto(axes: readonly SweepAxis[], { left, right, top, bottom }: CellBox): string[] {
  return axes.map((axis, i) => {
    const [from, to] = i === 0 ? [left, right] : [top, bottom];
    const [first, last] = [Math.max(0, from), Math.min(axis.values.length - 1, Math.max(to, from + 1))];
    const [low, high] = [axis.values[first], axis.values[last]];
    const isSpread = axisText(axis).includes(':');
    if (!isSpread || typeof low !== 'number' || typeof high !== 'number' || !(low < high))
      return axisText({ ...axis, values: axis.values.slice(first, last + 1) });
    return axisText({ ...axis, values: spread(low, high, axis.values.length, axis.isLog) });
  });
}
