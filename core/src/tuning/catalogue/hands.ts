import { choice, distance, duration, flag, ratio, row } from './specs.ts';

/** Rows for the control scheme and the devices. */

export const scheme = row(
  { place: 1 },
  choice(
    'hands',
    'Scheme',
    ['steer', 'latch', 'step', 'turn'],
    'steer',
    'Steer: moves while held. Latch: a press sets the direction. Step: cell to cell. Turn: left and right turn, up and down drive.',
  ),
);

export const input = {
  deadZone: ratio('hands', 'Dead zone', 0.15, 'Stick travel that counts as rest.', 0, 0.95),
  outerZone: ratio('hands', 'Outer zone', 0.95, 'Stick travel that counts as full.', 0.05, 1),
  curve: ratio('hands', 'Curve', 1, 'Exponent on the stick between the zones; values above 1 give fine control near rest.', 0.1, 10),
  normaliseDiagonals: row(
    { place: 4 },
    flag('hands', 'Even diagonals', true, 'Two keys at once are no faster than one. Off: diagonals are 1.41 times as fast.'),
  ),
  axes: choice('hands', 'Axes', ['both', 'x', 'y'], 'both', 'Movement on both axes or on one only.'),
  directions: row(
    { place: 2 },
    choice('hands', 'Directions', ['free', '8', '4'], 'free', 'Free: any angle. 8: to the nearest eighth. 4: one axis at a time.'),
  ),
  conflict: row(
    { place: 3 },
    choice(
      'hands',
      'Opposite keys',
      ['newest', 'oldest', 'cancel'],
      'newest',
      'Which of two opposite keys counts; also settles ties with 4 directions.',
    ),
  ),
  devices: choice(
    'hands',
    'Two devices',
    ['larger', 'newest', 'sum'],
    'larger',
    'Keys and stick at once: the larger counts, the most recent takes over, or both add up.',
  ),
  relativeTo: choice('hands', 'Relative to', ['screen', 'camera', 'facing'], 'screen', 'What “up” means.'),
  swipeDistance: row({ stage: 'devices' }, distance('hands', 'Swipe length', 40, 'Shortest travel of a swipe on the screen.', 1, 2000)),
  swipeTime: row({ stage: 'devices' }, duration('hands', 'Swipe time', 0.4, 'Longest time a swipe may take.', 0.02, 5)),
};
