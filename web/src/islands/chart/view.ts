/** How the ground is seen: `scale` screen pixels a unit, with the world point (x, y) at the canvas' top left. */
export interface View {
  scale: number;
  x: number;
  y: number;
}

export interface Size {
  width: number;
  height: number;
}

/** All of the ground; with the body, which stays in sight; or as the user has moved it. */
export const viewModes = ['whole', 'follow', 'free'] as const;
export type ViewMode = (typeof viewModes)[number];

/** Height (pixels) that the map of a ground has at most. */
export const MAP_HEIGHT = 92;

/** Room round a fitted ground: for the menus above, the coordinates at the right and below. */
const MARGIN = { top: 34, right: 40, bottom: 22, left: 12 };

/** Radius of the body on the screen (pixels): at least, so that its motion can be judged, and where the view follows it. */
const LEAST_RADIUS = 10;
const FOLLOWED_RADIUS = 14;

/** Radius that a body has at most where all of the ground is seen, as a share of the canvas' smaller side: one larger than its ground does not hide it. */
const MOST_RADIUS = 0.25;

/** Screen pixels beyond the ground's border that a view which follows shows. */
const BEYOND = 28;

/** The part of the canvas, round its middle, within which the body moves without the view (a share of each side). */
const ZONE = 0.22;

/** Half-life (s) of the distance from the view to the body. */
const HALF_LIFE = 0.12;

/** The whole ground, centred, with room for a body of this radius (unit). */
export function fit(ground: Size, canvas: Size, radius = 0): View {
  const width = Math.max(1, canvas.width - MARGIN.left - MARGIN.right);
  const height = Math.max(1, canvas.height - MARGIN.top - MARGIN.bottom);
  const largest = radius > 0 ? (MOST_RADIUS * Math.min(width, height)) / radius : Infinity;
  const scale = Math.max(1e-6, Math.min(width / ground.width, height / ground.height, largest));
  return { scale, x: ground.width / 2 - (MARGIN.left + width / 2) / scale, y: ground.height / 2 - (MARGIN.top + height / 2) / scale };
}

/** How a ground is seen at first: whole where a body of this radius (unit) is large enough then, else with the body. */
export function firstMode(ground: Size, canvas: Size, radius: number): ViewMode {
  return fit(ground, canvas).scale * radius >= LEAST_RADIUS ? 'whole' : 'follow';
}

/** The scale of a view that follows a body of this radius (unit). */
export function followScale(radius: number): number {
  return FOLLOWED_RADIUS / radius;
}

/**
 * The next view that follows a point at a scale, `elapsed` seconds after the last one: it stays while the point is near the middle, moves
 * after it with a half-life else, and shows no more beyond the ground than it has to. Without a last view, or from another scale, it begins on the point.
 */
export function follow(last: View | null, ground: Size, canvas: Size, scale: number, x: number, y: number, elapsed: number): View {
  const share = last?.scale === scale ? 1 - 2 ** (-elapsed / HALF_LIFE) : 1;
  const along = (from: number | undefined, at: number, side: number, length: number): number => {
    const seen = side / scale;
    const middle = share === 1 ? at : (from as number) + seen / 2;
    const zone = share === 1 ? 0 : (seen * ZONE) / 2;
    const wanted = Math.min(Math.max(middle, at - zone), at + zone);
    const next = middle + (wanted - middle) * share;
    const beyond = BEYOND / scale;
    if (length + 2 * beyond <= seen) return length / 2 - seen / 2;
    return Math.min(Math.max(next - seen / 2, -beyond), length + beyond - seen);
  };
  return { scale, x: along(last?.x, x, canvas.width, ground.width), y: along(last?.y, y, canvas.height, ground.height) };
}

/** A view on whole device pixels, so that lines stay sharp while it moves. */
export function sharp(view: View, ratio: number): View {
  const step = view.scale * ratio;
  return { scale: view.scale, x: Math.round(view.x * step) / step, y: Math.round(view.y * step) / step };
}

/** True if nothing of the ground is out of sight. */
export function isAllInSight(ground: Size, { x, y, scale }: View, canvas: Size): boolean {
  return x <= 0 && y <= 0 && x + canvas.width / scale >= ground.width && y + canvas.height / scale >= ground.height;
}

/** Zooms by `factor` and keeps the world point under the screen point (px, py) where it is. */
export function zoomAt(view: View, factor: number, px: number, py: number): View {
  const scale = Math.min(1000, Math.max(0.005, view.scale * factor));
  return { scale, x: view.x + px / view.scale - px / scale, y: view.y + py / view.scale - py / scale };
}

/** Moves the ground by a screen distance. */
export function pan(view: View, dx: number, dy: number): View {
  return { scale: view.scale, x: view.x - dx / view.scale, y: view.y - dy / view.scale };
}

/** The view at the same scale with a world point in the middle. */
export function centred(view: View, canvas: Size, x: number, y: number): View {
  return { scale: view.scale, x: x - canvas.width / 2 / view.scale, y: y - canvas.height / 2 / view.scale };
}

/** Moves the view just enough that the point stays `margin` screen pixels inside. */
export function keepInside(view: View, canvas: Size, x: number, y: number, margin: number): View {
  const px = (x - view.x) * view.scale;
  const py = (y - view.y) * view.scale;
  const dx = px < margin ? px - margin : px > canvas.width - margin ? px - canvas.width + margin : 0;
  const dy = py < margin ? py - margin : py > canvas.height - margin ? py - canvas.height + margin : 0;
  return dx === 0 && dy === 0 ? view : pan(view, -dx, -dy);
}

/** A round step (the cell, doubled as often as need be) that is at least `least` screen pixels wide. */
export function gridStep(scale: number, cell: number, least: number): number {
  for (let step = cell; ; step *= 2) if (step * scale >= least) return step;
}
