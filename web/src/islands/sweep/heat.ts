import { MET, type MetricKey, type Sweep } from '@zygopod/core';
import type { Inks } from '../chart/theme.ts';
import type { Shown } from './choice.ts';
import { type Levels, shareOf } from './levels.ts';

type Colour = [number, number, number];

const colourOf = (hex: string): Colour => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16)) as Colour;

const mix = (a: Colour, b: Colour, share: number): Colour => a.map((value, i) => value + ((b[i] as number) - value) * share) as Colour;

/** A value of each cell: its own, or of the coarser cell that stands for it; NaN where there is none. */
export function gridOf(sweep: Sweep, shown: Shown): Float64Array {
  const grid = new Float64Array(sweep.cells).fill(Number.NaN);
  const values = shown === 'met' ? null : sweep.values.get(shown as MetricKey);
  for (let cell = 0; cell < grid.length; cell++) {
    const own = sweep.standIn(cell);
    if (own < 0) continue;
    grid[cell] = values ? (values[own] as number) : sweep.met[own] === MET ? 1 : 0;
  }
  return grid;
}

/** Paints a pixel a cell: deeper water for more; cells without a value stay open. */
export function paintHeat(canvas: HTMLCanvasElement, grid: Float64Array, width: number, height: number, levels: Levels, inks: Inks): void {
  canvas.width = width;
  canvas.height = height;
  const ctx = canvas.getContext('2d');
  if (!ctx) return;
  const image = ctx.createImageData(width, height);
  const [shoal, deep] = [mix(colourOf(inks.sheet), colourOf(inks.water), 0.35), mix(colourOf(inks.water), colourOf(inks.wave), 0.85)];
  for (let cell = 0; cell < grid.length; cell++) {
    const value = grid[cell] as number;
    if (Number.isNaN(value)) continue;
    const colour = mix(shoal, deep, shareOf(value, levels));
    for (let i = 0; i < 3; i++) image.data[cell * 4 + i] = colour[i] as number;
    image.data[cell * 4 + 3] = 255;
  }
  ctx.putImageData(image, 0, 0);
}
