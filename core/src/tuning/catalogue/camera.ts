import { angle, choice, distance, duration, flag, ratio, row } from './specs.ts';

/** Rows for the camera. */

export const camera = {
  follow: row(
    { words: { perTick: 'per tick', deadZone: 'dead zone' } },
    choice('camera', 'Follow', ['smooth', 'none', 'locked', 'perTick', 'deadZone'], 'smooth', 'How the view follows the body.'),
  ),
  halfLife: row(
    { when: [{ 'camera.follow': ['smooth'] }], entries: ['toNineTenths'] },
    duration('camera', 'Half-life', 0.12, 'Smooth: time until half of the lag is gone.', 0.001, 10),
  ),
  perTick: row(
    { when: [{ 'camera.follow': ['perTick'] }] },
    ratio('camera', 'Fraction per tick', 0.1, 'perTick: fraction of the lag removed each tick; depends on the tick rate.'),
  ),
  deadZoneWidth: row(
    { when: [{ 'camera.follow': ['deadZone'] }] },
    distance('camera', 'Dead zone width', 120, 'Width in which the body moves without moving the view.'),
  ),
  deadZoneHeight: row(
    { when: [{ 'camera.follow': ['deadZone'] }] },
    distance('camera', 'Dead zone height', 80, 'Height in which the body moves without moving the view.'),
  ),
  lookAhead: duration('camera', 'Look ahead', 0, 'The view leads by this many seconds of travel.', 0, 10),
  offsetX: distance('camera', 'Offset across', 0, 'Position of the body in the view, right of its middle.', -1e5, 1e5),
  offsetY: distance('camera', 'Offset down', 0, 'Position of the body in the view, below its middle.', -1e5, 1e5),
  keepInGround: flag('camera', 'Keep in ground', true, 'The view never shows past the ground.'),
  viewWidth: distance('camera', 'View width', 640, 'Width of the area that the player sees.', 1, 1e5),
  viewHeight: distance('camera', 'View height', 360, 'Height of the area that the player sees.', 1, 1e5),
  heading: angle('camera', 'Heading', 0, 'Rotation of the view.'),
  tilt: row({ stage: 'drawing' }, angle('camera', 'Tilt', 0, 'Angle of the view from straight down.', 0, 80)),
};
