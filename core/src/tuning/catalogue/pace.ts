import { acceleration, anyOf, choice, curve, duration, ratio, row, speed, turnRate } from './specs.ts';

/** Rows for how fast it goes, and how fast it gets there. */

export const pace = {
  walkSpeed: row({ place: 1 }, speed('pace', 'Walk', 140, 'Steady speed without sprinting.')),
  sprintSpeed: row(
    { place: 2 },
    speed(
      'pace',
      'Sprint',
      { of: 'pace.walkSpeed', times: 1.75 },
      'Steady speed while sprinting; linked to walk so that one number moves both.',
    ),
  ),
  restoredSpeed: speed(
    'pace',
    'After sprint',
    { of: 'pace.walkSpeed' },
    'Walk speed restored when a sprint ends; linked to walk so that it can’t go stale.',
  ),
  sprintKey: row(
    { stage: 'intent' },
    choice(
      'pace',
      'Sprint key',
      ['hold', 'toggle', 'both'],
      'hold',
      'Hold: while pressed. Toggle: each press switches. Both: hold key and toggle key side by side.',
    ),
  ),
  sprintEndsOn: row(
    { stage: 'intent' },
    anyOf('pace', 'Sprint ends on', ['stop', 'wall', 'action'], 'Events that end a sprint, besides releasing the control.'),
  ),
  sprintMinStick: row({ stage: 'intent' }, ratio('pace', 'Minimum stick', 0.7, 'Stick travel needed to sprint.')),
  autoRun: row({ stage: 'intent' }, choice('pace', 'Auto-run', ['off', 'walk', 'sprint'], 'off', 'Pace that the auto-run control starts.')),
  backwardFactor: row({ stage: 'velocity' }, ratio('pace', 'Backward', 1, 'Speed factor when moving against the facing.', 0, 10)),
  sidewaysFactor: row({ stage: 'velocity' }, ratio('pace', 'Sideways', 1, 'Speed factor when moving across the facing.', 0, 10)),
};

export const ramp = {
  model: row(
    { place: 3 },
    choice(
      'pace',
      'Ramp',
      ['instant', 'linear', 'smooth', 'curve'],
      'linear',
      'How speed follows the input: at once, at a constant rate, with a half-life, or along a drawn curve.',
    ),
  ),
  accelerate: row(
    { place: 4, when: [{ 'ramp.model': ['linear', 'curve'] }], entries: ['toWalk'] },
    acceleration('pace', 'Accelerate', 900, 'Rate of gaining speed.', 0.001),
  ),
  decelerate: row(
    { place: 5, when: [{ 'ramp.model': ['linear', 'curve'] }], entries: ['toWalk', 'toStop'] },
    acceleration('pace', 'Decelerate', 1200, 'Rate of losing speed with no input.', 0.001),
  ),
  brake: row(
    { place: 6, when: [{ 'ramp.model': ['linear', 'curve'] }], entries: ['toWalk', 'toStop'] },
    acceleration('pace', 'Brake', 1800, 'Rate of losing speed with input against the motion.', 0.001),
  ),
  ease: row(
    { place: 7, when: [{ 'ramp.model': ['linear', 'curve'] }], entries: ['toWalkFromSprint'] },
    acceleration('pace', 'Ease', 900, 'Rate of dropping from sprint to walk.', 0.001),
  ),
  halfLife: row(
    { place: 8, when: [{ 'ramp.model': ['smooth'] }], entries: ['toNineTenths'] },
    duration('pace', 'Half-life', 0.05, 'Smooth: time until half of the difference to the target speed is gone.', 0.001, 10),
  ),
  points: row(
    { place: 9, when: [{ 'ramp.model': ['curve'] }] },
    curve(
      'pace',
      'Curve',
      [
        [0, 1],
        [1, 1],
      ],
      0,
      10,
      'Curve: factor on accelerate, by the fraction of full speed reached.',
    ),
  ),
  turning: row(
    { place: 10 },
    choice(
      'pace',
      'Turning',
      ['vector', 'heading'],
      'vector',
      'Vector: the velocity moves straight to its target. Heading: speed and direction change separately.',
    ),
  ),
  turnRate: row(
    { place: 11, when: [{ 'ramp.turning': ['heading'] }, { scheme: ['turn'] }] },
    turnRate('pace', 'Turn rate', 720, 'How fast the heading turns, with heading turning or scheme turn.'),
  ),
};
