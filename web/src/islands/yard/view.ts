/** How the ground is seen: `scale` screen pixels a unit, with the world point (x, y) at the canvas' top left. */
export interface View {
  scale: number;
  x: number;
  y: number;
}

interface Size {
  width: number;
  height: number;
}

/** Room round a fitted ground: for the legend above, the coordinates at the right and below. */
const MARGIN = { top: 34, right: 40, bottom: 22, left: 12 };

/** The whole ground, centred. */
export function fit(ground: Size, canvas: Size): View {
  const width = canvas.width - MARGIN.left - MARGIN.right;
  const height = canvas.height - MARGIN.top - MARGIN.bottom;
  const scale = Math.max(1e-6, Math.min(width / ground.width, height / ground.height));
  return { scale, x: ground.width / 2 - (MARGIN.left + width / 2) / scale, y: ground.height / 2 - (MARGIN.top + height / 2) / scale };
}

/** Zooms by `factor` and keeps the world point under the screen point (px, py) where it is. */
export function zoomAt(view: View, factor: number, px: number, py: number): View {
  const scale = Math.min(64, Math.max(0.005, view.scale * factor));
  return { scale, x: view.x + px / view.scale - px / scale, y: view.y + py / view.scale - py / scale };
}

/** Moves the ground by a screen distance. */
export function pan(view: View, dx: number, dy: number): View {
  return { scale: view.scale, x: view.x - dx / view.scale, y: view.y - dy / view.scale };
}

/** Moves the view just enough that the point stays `margin` screen pixels inside. */
export function keepInside(view: View, canvas: Size, x: number, y: number, margin: number): View {
  const px = (x - view.x) * view.scale;
  const py = (y - view.y) * view.scale;
  const dx = px < margin ? px - margin : px > canvas.width - margin ? px - canvas.width + margin : 0;
  const dy = py < margin ? py - margin : py > canvas.height - margin ? py - canvas.height + margin : 0;
  return dx === 0 && dy === 0 ? view : pan(view, -dx, -dy);
}

/** A round step (1, 2 or 5 times a power of ten, or the cell) that is at least `least` screen pixels wide. */
export function gridStep(scale: number, cell: number, least: number): number {
  for (let step = cell; ; step *= 2) if (step * scale >= least) return step;
}
