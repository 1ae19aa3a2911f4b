import type { Lens } from './lens.ts';
import type { View } from './view.ts';

/** Screen pixels that a chart is drawn beyond what is in sight, so that it lasts for a while when the view moves. */
const BEYOND = 160;

/**
 * The static part of a drawing, kept on its own canvas: redrawn only when it changes, copied in each frame.
 * A chart that is turned or leaned is drawn level and larger than what is in sight, and laid down through the lens.
 */
export class Chart {
  #sheet: HTMLCanvasElement | null = null;
  #key = '';
  #view: View | null = null;
  #size = { width: 0, height: 0 };

  /** Redraws at the next `lay`. */
  forget(): void {
    this.#key = '';
  }

  /** Lays the chart down by the canvas' present transform; `draw` draws a sheet of that size by that view. */
  lay(
    ctx: CanvasRenderingContext2D,
    { view, turn, squash }: Lens,
    size: { width: number; height: number },
    ratio: number,
    key: string,
    draw: (ctx: CanvasRenderingContext2D, view: View, width: number, height: number) => void,
  ): void {
    const flat = turn === 0 && squash === 1;
    const reach = Math.hypot(size.width, size.height / squash) + 2 * BEYOND;
    const wanted = flat ? { width: size.width + 2 * BEYOND, height: size.height + 2 * BEYOND } : { width: reach, height: reach };
    const whole = `${key} ${view.scale} ${wanted.width} ${wanted.height} ${ratio}`;
    const centre = { x: view.x + size.width / 2 / view.scale, y: view.y + size.height / 2 / view.scale };
    const kept = this.#view;
    const moved = kept
      ? Math.max(
          Math.abs(centre.x - kept.x - this.#size.width / 2 / kept.scale),
          Math.abs(centre.y - kept.y - this.#size.height / 2 / kept.scale),
        ) * view.scale
      : Infinity;
    if (this.#key !== whole || !this.#sheet || moved > BEYOND) {
      this.#sheet ??= document.createElement('canvas');
      this.#sheet.width = Math.ceil(wanted.width * ratio);
      this.#sheet.height = Math.ceil(wanted.height * ratio);
      this.#size = wanted;
      this.#view = { scale: view.scale, x: centre.x - wanted.width / 2 / view.scale, y: centre.y - wanted.height / 2 / view.scale };
      this.#key = whole;
      const on = this.#sheet.getContext('2d') as CanvasRenderingContext2D;
      on.setTransform(ratio, 0, 0, ratio, 0, 0);
      draw(on, this.#view, wanted.width, wanted.height);
    }
    const at = this.#view as View;
    ctx.drawImage(this.#sheet, (at.x - view.x) * view.scale, (at.y - view.y) * view.scale, this.#size.width, this.#size.height);
  }
}
