import { describe, expect, it } from 'vitest';
import { seeds } from '../testing/campaign.ts';
import { drive, openGround } from '../testing/drive.ts';
import { deepest, type Segment, type Shape } from '../testing/overlaps.ts';
import { sequence } from '../testing/sequence.ts';
import { bodySize, centreOffset } from '../tuning/body.ts';
import type { FileValue } from '../tuning/schema.ts';
import { START_MOVED } from './events.ts';
import type { World } from './world.ts';

const oneOf = <T>(next: () => number, ...values: T[]) => values[Math.floor(next() * values.length)] as T;

interface Run {
  world: World;
  shape: Shape;
  walls: Segment[];
  size: number;
  policy: string;
}

/** A run of any body with any ramp on a ground of random walls, with edges that hold, push, wrap or send. */
function anyRun(seed: number, ticks: number): Run {
  const next = sequence(seed * 104_729);
  const size = 200 + next() * 200;
  const walls = Array.from({ length: 1 + Math.floor(next() * 7) }, (): Segment => {
    const [x, y, angle, length] = [next() * (size + 100) - 50, next() * (size + 100) - 50, next() * 7, 20 + next() * 200];
    return [x, y, x + Math.cos(angle) * length, y + Math.sin(angle) * length];
  });
  const circle = next() < 0.5;
  const halfWidth = 3 + next() * 13;
  const halfHeight = circle ? halfWidth : 3 + next() * 13;
  const policy = oneOf(next, 'clamp', 'clamp', 'clamp', 'push', 'wrap', 'sendTo');
  const values: Record<string, FileValue> = {
    'body.shape': circle ? 'circle' : 'box',
    'body.radius': halfWidth,
    'body.width': 2 * halfWidth,
    'body.height': 2 * halfHeight,
    'body.originX': next() < 0.5 ? 0.5 : next(),
    'body.originY': next() < 0.5 ? 0.5 : next(),
    'bounds.policy': policy,
    'bounds.push': next() * 60,
    'bounds.sendToX': next() * size,
    'bounds.sendToY': next() * size,
    'input.deadZone': 0,
    'input.outerZone': 1,
    'ramp.model': oneOf(next, 'linear', 'instant', 'smooth'),
    'ramp.turning': next() < 0.3 ? 'heading' : 'vector',
    'pace.walkSpeed': oneOf(next, 60, 200, 1000, 8000),
    'contact.keepSpeed': next() < 0.2,
    'contact.wallFriction': next() < 0.3 ? next() : 0,
    'contact.cornerAssist': next() < 0.2 ? next() * 10 : 0,
    'contact.contactsPerTick': 1 + Math.floor(next() * 6),
    'clock.hz': oneOf(next, 30, 60, 144),
    'clock.integration': oneOf(next, 'semiImplicit', 'trapezoid', 'exact'),
  };
  const ground = openGround({
    size: { width: size, height: size },
    start: { x: next() * size, y: next() * size },
    walls: walls.map(([ax, ay, bx, by]) => ({
      points: [
        [ax, ay],
        [bx, by],
      ],
      closed: false,
      solid: true,
    })),
  });
  const events = Array.from({ length: Math.ceil(ticks / 15) }, (_, i) => ({
    at: i * 15,
    // Often straight along an axis or a diagonal, where walls and edges meet in the same tick.
    stick: (next() < 0.3 ? [Math.round(next() * 2 - 1), Math.round(next() * 2 - 1)] : [next() * 2 - 1, next() * 2 - 1]) as [number, number],
  }));
  return { world: drive(values, ticks, events, ground), shape: { circle, halfWidth, halfHeight }, walls, size, policy };
}

/** True if the straight line between two points crosses a segment. */
function crosses(x0: number, y0: number, x1: number, y1: number, [ax, ay, bx, by]: Segment): boolean {
  const turn = (px: number, py: number, qx: number, qy: number, rx: number, ry: number) => (qx - px) * (ry - py) - (qy - py) * (rx - px);
  return turn(ax, ay, bx, by, x0, y0) * turn(ax, ay, bx, by, x1, y1) < 0 && turn(x0, y0, x1, y1, ax, ay) * turn(x0, y0, x1, y1, bx, by) < 0;
}

describe('among walls and edges', () => {
  it('no body is ever in a wall, through one, beyond an edge that holds, or nowhere', () => {
    let free = 0;
    const runs = seeds(2500, 20_000);
    for (const seed of runs) {
      const { world, shape, walls, size, policy } = anyRun(seed, 75);
      const { trace, parameters } = world;
      const offset = centreOffset(parameters.body);
      const { width, height } = bodySize(parameters.body);
      const { originX, originY } = parameters.body;
      const [xs, ys, events] = [trace.values('x'), trace.values('y'), trace.values('events')];
      const depth = (row: number) => deepest(shape, (xs[row] as number) + offset.x, (ys[row] as number) + offset.y, walls);
      // A ground without a free place has nothing to hold.
      if (depth(0) > 0) continue;
      free++;
      for (let row = 1; row < xs.length; row++) {
        const [x, y] = [xs[row] as number, ys[row] as number];
        const label = `seed ${seed}, row ${row} at ${x}, ${y}`;
        if (!Number.isFinite(x) || !Number.isFinite(y)) throw new Error(label);
        if (depth(row) > 1e-5) throw new Error(`${label} is in a wall`);
        const isHeld = policy === 'clamp' && width <= size && height <= size;
        if (isHeld && !(x >= width * originX && x <= size - width * (1 - originX) + 1e-9)) throw new Error(`${label} is beyond an edge`);
        if (isHeld && !(y >= height * originY && y <= size - height * (1 - originY) + 1e-9)) throw new Error(`${label} is beyond an edge`);
        const [fromX, fromY] = [xs[row - 1] as number, ys[row - 1] as number];
        // A longer displacement may lead round the end of a wall within the tick.
        const isShort = Math.hypot(x - fromX, y - fromY) < Math.min(shape.halfWidth, shape.halfHeight);
        const isPut = policy !== 'clamp' && ((events[row] as number) & START_MOVED) !== 0;
        if (isShort && !isPut)
          for (const wall of walls)
            if (crosses(fromX + offset.x, fromY + offset.y, x + offset.x, y + offset.y, wall))
              throw new Error(`${label} has crossed a wall`);
      }
    }
    expect(free).toBeGreaterThan(0.75 * runs.length);
  });
});
