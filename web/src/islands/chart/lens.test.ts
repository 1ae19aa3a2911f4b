import { describe, expect, it } from 'vitest';
import { cameraLens, flatLens, type Lens, worldAt } from './lens.ts';
import { fit, keepInside, pan, zoomAt } from './view.ts';

const camera = {
  follow: 'smooth',
  halfLife: 0.1,
  perTick: 0.1,
  deadZoneWidth: 0,
  deadZoneHeight: 0,
  lookAhead: 0,
  keepInGround: true,
  viewWidth: 640,
  viewHeight: 360,
  heading: 0,
  tilt: 0,
  offsetX: 0,
  offsetY: 0,
} as const;

/** Where the canvas' transform of a lens puts a world point: turned and leaned about the middle. */
function onCanvas({ view, turn, squash, x, y }: Lens, wx: number, wy: number): [number, number] {
  const [dx, dy] = [(wx - view.x) * view.scale - x, (wy - view.y) * view.scale - y];
  return [x + dx * Math.cos(turn) - dy * Math.sin(turn), y + (dx * Math.sin(turn) + dy * Math.cos(turn)) * squash];
}

describe('a lens', () => {
  it('gives back the world point under a point of the canvas, turned and leaned as it may be', () => {
    for (const heading of [0, 30, -115, 180])
      for (const tilt of [0, 35, 70]) {
        const lens = cameraLens({ ...camera, heading, tilt }, 500, 300, 800, 400);
        for (const [wx, wy] of [
          [500, 300],
          [420, 250],
          [610, 390],
        ] as const) {
          const found = worldAt(lens, ...onCanvas(lens, wx, wy));
          expect(found.x).toBeCloseTo(wx, 9);
          expect(found.y).toBeCloseTo(wy, 9);
        }
      }
  });

  it('of the camera shows its view as large as the canvas has room, with the camera’s point in the middle', () => {
    const lens = cameraLens(camera, 500, 300, 1280, 360);
    expect(lens.view.scale).toBe(1);
    expect(onCanvas(lens, 500, 300)).toEqual([640, 180]);
    const turned = cameraLens({ ...camera, heading: 90 }, 0, 0, 640, 360);
    // A view that is turned by 90° has the east above.
    expect(onCanvas(turned, 100, 0)[1]).toBeCloseTo(180 - 100, 9);
  });

  it('that is flat is the view itself', () => {
    expect(worldAt(flatLens({ scale: 2, x: 10, y: 20 }, 100, 100), 30, 40)).toEqual({ x: 25, y: 40 });
  });
});

describe('a view', () => {
  it('fits the whole ground with room for what is written beside it', () => {
    const view = fit({ width: 1000, height: 500 }, { width: 800, height: 600 });
    const right = (1000 - view.x) * view.scale;
    expect((0 - view.x) * view.scale).toBeGreaterThanOrEqual(12 - 1e-9);
    expect(right).toBeLessThanOrEqual(800 - 40 + 1e-9);
  });

  it('zooms about the pointer, within limits, and pans by the pointer’s travel', () => {
    const view = { scale: 1, x: 100, y: 50 };
    const near = zoomAt(view, 2, 300, 200);
    expect([near.x + 300 / near.scale, near.y + 200 / near.scale]).toEqual([400, 250]);
    expect(zoomAt(view, 1e9, 0, 0).scale).toBe(1000);
    expect(zoomAt(view, 1e-9, 0, 0).scale).toBe(0.005);
    expect(pan(near, 10, -20)).toEqual({ scale: 2, x: near.x - 5, y: near.y + 10 });
  });

  it('moves no more than it has to for a point to stay inside', () => {
    const view = { scale: 1, x: 0, y: 0 };
    expect(keepInside(view, { width: 200, height: 100 }, 100, 50, 20)).toBe(view);
    expect(keepInside(view, { width: 200, height: 100 }, 195, 50, 20)).toMatchObject({ x: 15, y: 0 });
    expect(keepInside(view, { width: 200, height: 100 }, 100, 5, 20)).toMatchObject({ x: 0, y: -15 });
  });
});
