/** Tangents of the monotone cubic at its points. */
function tangents(points: readonly (readonly [number, number])[]): number[] {
  const slopes = points.slice(1).map(([x, y], i) => {
    const [x0, y0] = points[i] as readonly [number, number];
    return (y - y0) / (x - x0);
  });
  const m = points.map((_, i) => {
    const before = slopes[i - 1] ?? slopes[i] ?? 0;
    const after = slopes[i] ?? before;
    return before * after <= 0 ? 0 : (before + after) / 2;
  });
  // Keep (α, β) inside the circle of radius 3, which is enough for monotony.
  slopes.forEach((slope, i) => {
    if (slope === 0) {
      m[i] = 0;
      m[i + 1] = 0;
      return;
    }
    const alpha = (m[i] as number) / slope;
    const beta = (m[i + 1] as number) / slope;
    const size = Math.sqrt(alpha * alpha + beta * beta);
    if (size > 3) {
      m[i] = (3 / size) * alpha * slope;
      m[i + 1] = (3 / size) * beta * slope;
    }
  });
  return m;
}

/**
 * The monotone piecewise cubic through `points` (x rising from 0 to 1) as a function of x in [0, 1] (Fritsch and Carlson, "Monotone Piecewise Cubic
 * Interpolation", SIAM J. Numer. Anal. 17, 1980).
 */
export function monotoneCubic(points: readonly (readonly [number, number])[]): (x: number) => number {
  const m = tangents(points);
  return (x) => {
    let i = 0;
    while (i < points.length - 2 && x > (points[i + 1]?.[0] ?? 1)) i++;
    const [x0, y0] = points[i] as readonly [number, number];
    const [x1, y1] = points[i + 1] as readonly [number, number];
    const h = x1 - x0;
    const t = (x - x0) / h;
    const u = 1 - t;
    return y0 * (1 + 2 * t) * u * u + y1 * t * t * (3 - 2 * t) + h * t * u * ((m[i] as number) * u - (m[i + 1] as number) * t);
  };
}
