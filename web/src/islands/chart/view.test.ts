import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { centred, firstMode, fit, follow, followScale, sharp, type View } from './view.ts';

const side = fc.double({ min: 1, max: 1e5, noNaN: true });
const size = fc.record({ width: side, height: side });
const canvas = fc.record({ width: fc.integer({ min: 200, max: 3840 }), height: fc.integer({ min: 120, max: 2160 }) });
const radius = fc.double({ min: 0.1, max: 1000, noNaN: true });
const share = fc.double({ min: 0, max: 1, noNaN: true });

/** Where a world point is on the canvas. */
const on = (view: View, x: number, y: number) => [(x - view.x) * view.scale, (y - view.y) * view.scale] as const;

describe('how a ground is seen at first', () => {
  it('is whole where the body is ten pixels in radius then, else with the body at ten to twenty', () => {
    fc.assert(
      fc.property(size, canvas, radius, (ground, sheet, r) => {
        const mode = firstMode(ground, sheet, r);
        const scale = mode === 'whole' ? fit(ground, sheet).scale : followScale(r);
        expect(scale * r).toBeGreaterThanOrEqual(10 - 1e-9);
        if (mode === 'follow') expect(scale * r).toBeLessThanOrEqual(20);
      }),
    );
  });
});

describe('the whole ground', () => {
  it('is in sight, and so is all of a body in its middle, however large that is', () => {
    fc.assert(
      fc.property(size, canvas, radius, (ground, sheet, r) => {
        const view = fit(ground, sheet, r);
        for (const [x, y] of [
          [0, 0],
          [ground.width, ground.height],
          [ground.width / 2 - r, ground.height / 2 - r],
          [ground.width / 2 + r, ground.height / 2 + r],
        ] as const) {
          const [px, py] = on(view, x, y);
          expect(px).toBeGreaterThanOrEqual(-1e-6);
          expect(px).toBeLessThanOrEqual(sheet.width + 1e-6);
          expect(py).toBeGreaterThanOrEqual(-1e-6);
          expect(py).toBeLessThanOrEqual(sheet.height + 1e-6);
        }
      }),
    );
  });
});

describe('a view that follows', () => {
  it('has the body in sight at once, wherever it is on whatever ground', () => {
    fc.assert(
      fc.property(size, canvas, radius, share, share, (ground, sheet, r, atX, atY) => {
        const [x, y] = [ground.width * atX, ground.height * atY];
        const view = follow(null, ground, sheet, followScale(r), x, y, 0);
        const [px, py] = on(view, x, y);
        expect(px).toBeGreaterThanOrEqual(-1e-6);
        expect(px).toBeLessThanOrEqual(sheet.width + 1e-6);
        expect(py).toBeGreaterThanOrEqual(-1e-6);
        expect(py).toBeLessThanOrEqual(sheet.height + 1e-6);
      }),
    );
  });

  it('stays while the body is near the middle, and comes after it smoothly, the same at any frame rate', () => {
    const ground = { width: 5000, height: 5000 };
    const sheet = { width: 800, height: 400 };
    const first = follow(null, ground, sheet, 1, 2500, 2500, 0);
    expect(follow(first, ground, sheet, 1, 2560, 2520, 1 / 60)).toEqual(first);
    const after = (hz: number) => {
      let view = first;
      for (let i = 0; i < hz; i++) view = follow(view, ground, sheet, 1, 2900, 2500, 1 / hz);
      return view.x;
    };
    expect(after(144)).toBeCloseTo(after(30), 6);
    expect(on({ ...first, x: after(60) }, 2900, 2500)[0]).toBeLessThan(800 * 0.62);
  });

  it('shows next to nothing beyond the ground', () => {
    const ground = { width: 5000, height: 300 };
    const sheet = { width: 800, height: 400 };
    const view = follow(null, ground, sheet, 1, 0, 0, 0);
    expect(view.x).toBe(-28);
    // Too low to fill the sheet: it lies in its middle.
    expect(view.y).toBe(-50);
  });

  it('lies on whole device pixels', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e4, max: 1e4, noNaN: true }),
        fc.constantFrom(1, 1.25, 2),
        fc.double({ min: 0.1, max: 10, noNaN: true }),
        (x, ratio, scale) => {
          const view = sharp({ scale, x, y: -x }, ratio);
          const at = view.x * scale * ratio;
          expect(Math.abs(at - Math.round(at))).toBeLessThan(1e-6);
          expect(Math.abs(view.x - x) * scale * ratio).toBeLessThanOrEqual(0.5 + 1e-6);
        },
      ),
    );
  });
});

it('a point is moved into the middle', () => {
  expect(on(centred({ scale: 2, x: 0, y: 0 }, { width: 800, height: 400 }, 70, 90), 70, 90)).toEqual([400, 200]);
});
