import { describe, expect, it } from 'vitest';
import { drive, openGround } from '../testing/drive.ts';

const ground = openGround({ size: { width: 200, height: 100 }, start: { x: 100, y: 50 }, frame: { x: 50, y: 20, width: 80, height: 60 } });
const end = (values: Parameters<typeof drive>[0], ...keys: ('left' | 'right' | 'up' | 'down')[]) =>
  drive(
    { 'bounds.policy': 'clamp', ...values },
    300,
    keys.map((press) => ({ at: 0, press })),
    ground,
  ).state.motion;

describe('clamp', () => {
  it('keeps the whole body, or its centre, in the ground or on the screen', () => {
    expect(end({}, 'right', 'down')).toMatchObject({ x: 188, y: 88, vx: 0, vy: 0 });
    expect(end({ 'bounds.measure': 'centre' }, 'left', 'up')).toMatchObject({ x: 0, y: 0 });
    expect(end({ 'bounds.frame': 'screen' }, 'left', 'up')).toMatchObject({ x: 62, y: 32 });
    expect(end({ 'bounds.inset.left': 10, 'bounds.inset.top': -5 }, 'left', 'up')).toMatchObject({ x: 22, y: 7 });
  });

  it('takes the body as it lies about its origin', () => {
    const box = { 'body.shape': 'box', 'body.width': 40, 'body.height': 20, 'body.originX': 0, 'body.originY': 1 };
    expect(end(box, 'right', 'down')).toMatchObject({ x: 160, y: 100 });
    expect(end(box, 'left', 'up')).toMatchObject({ x: 0, y: 20 });
  });

  it('on one axis only, and without edges not at all', () => {
    expect(end({ 'bounds.axes': 'y' }, 'right', 'down').x).toBeGreaterThan(500);
    expect(end({ 'bounds.policy': 'none' }, 'down').y).toBeGreaterThan(500);
  });

  it('keeps the motion along the edge, and holds a body larger than the frame in its middle', () => {
    expect(
      drive(
        { 'bounds.policy': 'clamp' },
        20,
        [
          { at: 0, press: 'up' },
          { at: 0, press: 'right' },
        ],
        ground,
      ).state.motion.vx,
    ).toBeGreaterThan(90);
    expect(end({ 'body.radius': 500 }, 'right')).toMatchObject({ x: 100, y: 50 });
  });
});
