import { choice, distance, duration, flag, row } from './specs.ts';

/** Rows for steps from cell to cell. */

export const step = {
  cell: distance('steps', 'Cell', 32, 'Side of a cell.', 1, 1e5),
  time: duration('steps', 'Step time', 0.16, 'Time for one cell; 0: at once.', 0, 10),
  ease: choice('steps', 'Ease', ['linear', 'smooth'], 'linear', 'Speed within a step: constant, or slow at both ends.'),
  buffer: duration('steps', 'Buffer', 0.12, 'A press this long before the end of a step is kept for the next step.', 0, 10),
  turnTime: duration('steps', 'Turn first', 0, 'Time to turn before the step begins.', 0, 10),
  diagonals: flag('steps', 'Diagonals', false, 'Two keys step diagonally.'),
  diagonalTime: row(
    { when: [{ 'step.diagonals': [true] }] },
    choice('steps', 'Diagonal time', ['scaled', 'same'], 'scaled', 'Scaled: 1.41 times the step time. Same: faster over the ground.'),
  ),
  bumpTime: duration('steps', 'Bump', 0.1, 'Time lost against a blocked cell.', 0, 10),
  repeat: flag('steps', 'Repeat', true, 'A held key keeps stepping.'),
};
