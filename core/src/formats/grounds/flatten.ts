import svgpath from 'svgpath';

/** Refuses to go on: the path has more points than may be. */
export class TooManyPoints extends Error {}

/** Path data that cannot be read; where, counted in characters, as far as that is known. */
export class BrokenPath extends Error {
  readonly at: number | null;

  constructor(at: number | null) {
    super('broken path');
    this.at = at;
  }
}

/** Largest distance (unit) of a flattened curve from the curve itself. */
const TOLERANCE = 0.2;

/** A piece of a path: its points, and whether it was closed. */
interface FlatPath {
  points: [number, number][];
  closed: boolean;
}

/** A cubic Bézier curve as points after its start, halved until its control points are near the chord (de Casteljau). */
function flattenCurve(p: readonly number[], points: Points, depth: number): void {
  const [x0, y0, x1, y1, x2, y2, x3, y3] = p as [number, number, number, number, number, number, number, number];
  const [dx, dy] = [x3 - x0, y3 - y0];
  const chord = Math.hypot(dx, dy);
  const away =
    chord === 0
      ? Math.max(Math.hypot(x1 - x0, y1 - y0), Math.hypot(x2 - x0, y2 - y0))
      : Math.max(Math.abs((x1 - x0) * dy - (y1 - y0) * dx), Math.abs((x2 - x0) * dy - (y2 - y0) * dx)) / chord;
  if (away <= TOLERANCE || depth === 0) {
    points.add(x3, y3);
    return;
  }
  const half = (a: number, b: number) => (a + b) / 2;
  const [ax, ay, bx, by, cx, cy] = [half(x0, x1), half(y0, y1), half(x1, x2), half(y1, y2), half(x2, x3), half(y2, y3)];
  const [ex, ey, fx, fy] = [half(ax, bx), half(ay, by), half(bx, cx), half(by, cy)];
  const [mx, my] = [half(ex, fx), half(ey, fy)];
  flattenCurve([x0, y0, ax, ay, ex, ey, mx, my], points, depth - 1);
  flattenCurve([mx, my, fx, fy, cx, cy, x3, y3], points, depth - 1);
}

/** The points of a piece, which share the rest of those that may be. */
class Points {
  readonly list: [number, number][] = [];
  readonly #left: { points: number };

  constructor(left: { points: number }) {
    this.#left = left;
  }

  add(x: number, y: number): void {
    if (this.#left.points-- <= 0) throw new TooManyPoints();
    this.list.push([x, y]);
  }
}

/**
 * An SVG path, under a chain of transforms (innermost last), as straight pieces with at most so many points. Throws a `BrokenPath` where it
 * cannot be read, `TooManyPoints` where there are more.
 */
export function flattenPath(d: string, transforms: readonly string[], mostPoints: number): FlatPath[] {
  let path = svgpath(d);
  const trouble = (path as unknown as { err?: string }).err;
  if (trouble) throw new BrokenPath(Number(/at pos (\d+)/.exec(trouble)?.[1] ?? NaN) || null);
  for (const transform of [...transforms].reverse()) path = path.transform(transform);
  const left = { points: mostPoints };
  const pieces: { points: Points; closed: boolean }[] = [];
  let piece: { points: Points; closed: boolean } | null = null;
  const begin = (x: number, y: number) => {
    const next = { points: new Points(left), closed: false };
    next.points.add(x, y);
    pieces.push(next);
    return next;
  };
  path
    .abs()
    .unshort()
    .unarc()
    .iterate((segment, _index, x, y) => {
      const [command, ...n] = segment as unknown as [string, ...number[]];
      if (command === 'M') piece = begin(n[0] as number, n[1] as number);
      else if (command === 'Z' || command === 'z') {
        if (piece) piece.closed = true;
        piece = null;
      } else {
        piece ??= begin(x, y);
        if (command === 'L') piece.points.add(n[0] as number, n[1] as number);
        else if (command === 'H') piece.points.add(n[0] as number, y);
        else if (command === 'V') piece.points.add(x, n[0] as number);
        else if (command === 'C') flattenCurve([x, y, ...n], piece.points, 16);
        else if (command === 'Q') {
          const [qx, qy, ex, ey] = n as [number, number, number, number];
          const third = (a: number, b: number) => a + ((b - a) * 2) / 3;
          flattenCurve([x, y, third(x, qx), third(y, qy), third(ex, qx), third(ey, qy), ex, ey], piece.points, 16);
        }
      }
    });
  return pieces.map(({ points, closed }) => ({ points: points.list, closed })).filter(({ points }) => points.length > 1);
}
