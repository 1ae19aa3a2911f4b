import { describe, expect, it } from 'vitest';
import type { TapeEvent } from '../tape/tape.ts';
import { drive, openGround } from '../testing/drive.ts';
import type { FileValue } from '../tuning/schema.ts';
import { viewCorners } from './camera.ts';

const ground = openGround({ size: { width: 4000, height: 4000 }, start: { x: 2000, y: 2000 } });
const right: TapeEvent[] = [{ at: 0, press: 'right' }];
const run = (values: Record<string, FileValue>, ticks = 120) => drive({ 'ramp.model': 'instant', ...values }, ticks, right, ground);
/** How far the view lags behind the body. */
const lag = (values: Record<string, FileValue>, ticks = 120) => {
  const { body } = run(values, ticks);
  return body.x - body.cameraX;
};

describe('camera', () => {
  it('locked is where the body is; none stays', () => {
    expect(lag({ 'camera.follow': 'locked' })).toBe(0);
    expect(run({ 'camera.follow': 'none' }).body).toMatchObject({ cameraX: 2000, cameraY: 2000 });
  });

  it('smooth lags by v·h/ln 2·(1 − 2^(−t/h)), the solution of ċ = (x − c)·ln 2/h, at every tick rate', () => {
    for (const hz of [7, 30, 60, 144])
      for (const [halfLife, seconds] of [
        [0.12, 1],
        [0.3, 1],
        [2, 3],
      ] as const) {
        const expected = ((140 * halfLife) / Math.LN2) * (1 - 2 ** (-seconds / halfLife));
        expect(lag({ 'clock.hz': hz, 'camera.halfLife': halfLife }, hz * seconds)).toBeCloseTo(expected, 9);
      }
  });

  it('per tick follows at a rate that depends on the ticks', () => {
    const at = (hz: number) => lag({ 'clock.hz': hz, 'camera.follow': 'perTick' }, hz * 8);
    expect(at(30)).toBeCloseTo((140 / 30) * 9, 6);
    expect(at(144)).toBeCloseTo((140 / 144) * 9, 6);
  });

  it('with a dead zone moves only once the body is at its border', () => {
    expect(run({ 'camera.follow': 'deadZone' }, 20).body.cameraX).toBe(2000);
    expect(lag({ 'camera.follow': 'deadZone' }, 200)).toBeCloseTo(60, 9);
    // Turned by 90°, the zone's height counts.
    expect(lag({ 'camera.follow': 'deadZone', 'camera.heading': 90 }, 200)).toBeCloseTo(40, 9);
  });

  it('looks ahead by the seconds that are set', () => {
    expect(lag({ 'camera.follow': 'locked', 'camera.lookAhead': 0.5 })).toBeCloseTo(-70, 9);
  });

  it('never shows past the ground, and centres a ground that is smaller than the view', () => {
    const small = openGround({ size: { width: 700, height: 300 }, start: { x: 20, y: 20 } });
    expect(drive({ 'camera.follow': 'locked' }, 1, [], small).body).toMatchObject({ cameraX: 320, cameraY: 150 });
    expect(drive({ 'camera.follow': 'locked', 'camera.keepInGround': false }, 1, [], small).body.cameraX).toBe(20);
  });

  it('leaning by 60° shows twice the height of ground', () => {
    const camera = run({ 'camera.tilt': 60 }).parameters.camera;
    const [a, , c] = viewCorners(camera, 0, 0) as [[number, number], unknown, [number, number]];
    expect(c[1] - a[1]).toBeCloseTo(720, 9);
    expect(c[0] - a[0]).toBeCloseTo(640, 9);
  });
});

describe('movement relative to the camera', () => {
  it('goes where up is on the turned view', () => {
    const up: TapeEvent[] = [{ at: 0, press: 'up' }];
    const motion = drive({ 'camera.heading': 90, 'input.relativeTo': 'camera', 'ramp.model': 'instant' }, 60, up, ground).body;
    expect(motion.x).toBeCloseTo(2140, 6);
    expect(motion.y).toBeCloseTo(2000, 6);
  });
});

describe('a camera with an offset', () => {
  it('has the body stand beside the middle of its view by it, on the view’s own axes', () => {
    const place = openGround({ size: { width: 4000, height: 4000 }, start: { x: 2000, y: 2000 } });
    for (const follow of ['locked', 'smooth', 'deadZone'])
      for (const heading of [0, 90, 33]) {
        const values = { 'camera.follow': follow, 'camera.offsetX': 60, 'camera.offsetY': -20, 'camera.heading': heading };
        const { body } = drive({ ...values, 'camera.deadZoneWidth': 0, 'camera.deadZoneHeight': 0 }, 60, [], place);
        const [dx, dy] = [body.x - body.cameraX, body.y - body.cameraY];
        const [c, s] = [Math.cos((heading * Math.PI) / 180), Math.sin((heading * Math.PI) / 180)];
        expect(dx * c + dy * s).toBeCloseTo(60, 9);
        expect(dy * c - dx * s).toBeCloseTo(-20, 9);
      }
  });
});
