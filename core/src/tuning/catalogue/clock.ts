import { choice, flag, frequency, row } from './specs.ts';

/** Rows for the ticks. */

export const clock = {
  hz: frequency('clock', 'Tick rate', 60, 'Ticks per second.'),
  stepping: row(
    { words: { perFrame: 'per frame' } },
    choice(
      'clock',
      'Stepping',
      ['fixed', 'perFrame'],
      'fixed',
      'Fixed: every tick has the same length. perFrame: a tick is as long as the frame.',
    ),
  ),
  integration: row(
    { words: { semiImplicit: 'semi-implicit' }, stage: 'velocity' },
    choice('clock', 'Integration', ['semiImplicit', 'trapezoid', 'exact'], 'semiImplicit', 'How speed becomes distance within a tick.'),
  ),
  snapToPixel: row(
    { stage: 'drawing' },
    flag('clock', 'Snap to pixel', false, 'Draws at whole pixels; the simulation keeps its fractions.'),
  ),
};
