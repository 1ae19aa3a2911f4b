import type { Parameters } from './catalogue/catalogue.ts';

type Body = Parameters['body'];

/** Full width and height of a body, unit. */
export function bodySize(body: Body): { width: number; height: number } {
  return body.shape === 'circle' ? { width: 2 * body.radius, height: 2 * body.radius } : { width: body.width, height: body.height };
}

/** Half the larger side of a body, unit. */
export function bodyRadius(body: Body): number {
  const { width, height } = bodySize(body);
  return Math.max(width, height) / 2;
}

/** From a body's origin to its centre, unit. */
export function centreOffset(body: Body): { x: number; y: number } {
  const { width, height } = bodySize(body);
  return { x: (0.5 - body.originX) * width, y: (0.5 - body.originY) * height };
}

/**
 * The ratio of a gap between the walls' points, (dx, dy) apart, to the body's need: 1 is just enough. A box passes two points if one of its sides
 * fits between them; along a wall it needs its width across.
 */
export function gapRatio(body: Body, dx: number, dy: number, betweenPoints: boolean): number {
  const { width, height } = bodySize(body);
  const gap = Math.sqrt(dx * dx + dy * dy);
  if (body.shape === 'circle') return gap / width;
  if (betweenPoints) return Math.max(Math.abs(dx) / width, Math.abs(dy) / height);
  return (gap * gap) / (width * Math.abs(dx) + height * Math.abs(dy));
}
