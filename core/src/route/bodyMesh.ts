import { type BodyParameters, originLimits } from '../collision/limits.ts';
import type { Ground } from '../ground/ground.ts';
import { wallLoops } from '../ground/loops.ts';
import { bodyRadius, bodySize, centreOffset } from '../tuning/body.ts';
import type { Grown } from './inflate.ts';
import { buildMesh, type Mesh, type Rectangle } from './mesh.ts';

/**
 * Margin added to a body so that rounding doesn't make a path along a wall touch it, as a fraction of half its larger side: about 1e-3 for 24 units.
 */
const CLEAR = 2 ** -14;

/** The settings of a mesh: the body with its skin and a margin, and the area of its centre. */
interface MeshOrder {
  body: Grown;
  area: Rectangle;
}

/** The mesh that a tuning asks for on a ground: its body with skin and `margin`, kept in by its edges, else in the ground. */
function meshOrder(parameters: BodyParameters, ground: Ground, margin: number): MeshOrder {
  const { body, contact } = parameters;
  const { width, height } = bodySize(body);
  const room = contact.skin + margin + CLEAR * bodyRadius(body);
  const offset = centreOffset(body);
  const limits = originLimits(parameters, ground);
  const whole = { left: 0, top: 0, right: ground.size.width, bottom: ground.size.height };
  const area = {
    left: Math.max(whole.left, limits.left + offset.x),
    top: Math.max(whole.top, limits.top + offset.y),
    right: Math.min(whole.right, limits.right + offset.x),
    bottom: Math.min(whole.bottom, limits.bottom + offset.y),
  };
  return {
    body:
      body.shape === 'circle'
        ? { shape: 'circle', radius: body.radius + room }
        : { shape: 'box', halfWidth: width / 2 + room, halfHeight: height / 2 + room },
    area: area.left < area.right && area.top < area.bottom ? area : whole,
  };
}

/** A tuning without walls has no obstacles. */
export function meshFor(parameters: BodyParameters, ground: Ground, margin: number): Mesh {
  const { body, area } = meshOrder(parameters, ground, margin);
  return buildMesh(parameters.contact.response === 'none' ? [] : wallLoops(ground), body, area);
}
