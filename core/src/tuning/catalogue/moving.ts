import {
  acceleration,
  amount,
  angle,
  anyOf,
  choice,
  curve,
  distance,
  duration,
  flag,
  frequency,
  perSecond,
  ratio,
  row,
  speed,
  turnRate,
} from './specs.ts';

/** Rows for the body, the hands and the feet: what moves, what is asked of it, how fast it follows. */

export const scheme = row(
  { place: 1 },
  choice(
    'hands',
    'Scheme',
    ['steer', 'latch', 'step', 'turn'],
    'steer',
    'Steer: moves while held. Latch: a press sets the way. Step: cell to cell. Turn: left and right turn, up and down drive.',
  ),
);

export const body = {
  shape: choice('body', 'Shape', ['circle', 'box'], 'circle', 'Outline used against walls and edges; a box keeps its sides level.'),
  radius: row({ when: [{ 'body.shape': ['circle'] }] }, distance('body', 'Radius', 12, 'Radius of the circle.', 0.1, 1e5)),
  width: row({ when: [{ 'body.shape': ['box'] }] }, distance('body', 'Width', 24, 'Width of the box.', 0.2, 2e5)),
  height: row({ when: [{ 'body.shape': ['box'] }] }, distance('body', 'Height', 24, 'Height of the box.', 0.2, 2e5)),
  originX: ratio('body', 'Origin across', 0.5, 'Where the position sits in the body: 0 is its left side, 1 its right.'),
  originY: ratio('body', 'Origin down', 0.5, 'Where the position sits in the body: 0 is its top, 1 its bottom.'),
};

export const input = {
  deadZone: ratio('hands', 'Dead zone', 0.15, 'Stick travel that counts as rest.', 0, 0.95),
  outerZone: ratio('hands', 'Outer zone', 0.95, 'Stick travel that counts as full.', 0.05, 1),
  curve: ratio('hands', 'Curve', 1, 'Exponent on the stick between the zones; above 1 gives fine control near rest.', 0.1, 10),
  normaliseDiagonals: row(
    { place: 4 },
    flag('hands', 'Even diagonals', true, 'Keeps two keys at once no faster than one. Off: diagonals are 1.41 times as fast.'),
  ),
  axes: choice('hands', 'Axes', ['both', 'x', 'y'], 'both', 'Movement on both axes or on one alone.'),
  directions: row(
    { place: 2 },
    choice('hands', 'Ways', ['free', '8', '4'], 'free', 'Free: any angle. 8: to the nearest eighth. 4: one axis at a time.'),
  ),
  conflict: row(
    { place: 3 },
    choice(
      'hands',
      'Opposite keys',
      ['newest', 'oldest', 'cancel'],
      'newest',
      'Which of two opposite keys counts; also settles ties with 4 ways.',
    ),
  ),
  devices: choice(
    'hands',
    'Two devices',
    ['larger', 'newest', 'sum'],
    'larger',
    'Keys and stick at once: the larger one counts, the one that spoke last takes over, or both add up.',
  ),
  relativeTo: choice('hands', 'Relative to', ['screen', 'camera', 'facing'], 'screen', 'What “up” means.'),
  swipeDistance: row({ stage: 'devices' }, distance('hands', 'Swipe length', 40, 'Shortest travel of a swipe on the screen.', 1, 2000)),
  swipeTime: row({ stage: 'devices' }, duration('hands', 'Swipe time', 0.4, 'Longest time that a swipe may take.', 0.02, 5)),
};

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
    'Walk speed that the end of a sprint puts back; linked to walk, so that it cannot go stale.',
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
    anyOf('pace', 'Sprint ends on', ['stop', 'wall', 'action'], 'What ends a sprint besides letting go.'),
  ),
  sprintMinStick: row({ stage: 'intent' }, ratio('pace', 'Least stick', 0.7, 'Stick travel that a sprint needs.')),
  autoRun: row({ stage: 'intent' }, choice('pace', 'Auto-run', ['off', 'walk', 'sprint'], 'off', 'What the auto-run control starts.')),
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
      'How speed follows the hands: at once, at a steady rate, with a half-life, or along a drawn curve.',
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
    duration('pace', 'Half-life', 0.05, 'Smooth: time in which half of the difference to the wanted speed is gone.', 0.001, 10),
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
      'Curve: factor on accelerate over the fraction of full speed reached.',
    ),
  ),
  turning: row(
    { place: 10 },
    choice(
      'pace',
      'Turning',
      ['vector', 'heading'],
      'vector',
      'Vector: the velocity goes straight to the wanted one. Heading: speed and direction change apart.',
    ),
  ),
  turnRate: row(
    { place: 11, when: [{ 'ramp.turning': ['heading'] }, { scheme: ['turn'] }] },
    turnRate('pace', 'Turn rate', 720, 'How fast the heading turns (heading, and scheme turn).'),
  ),
};

export const stamina = {
  enabled: row({ place: 1 }, flag('stamina', 'Stamina', false, 'Sprinting costs stamina.')),
  max: amount('stamina', 'Full', 100, 'Size of the bar.', 0.001),
  drain: row({ place: 2, entries: ['toEmpty'] }, perSecond('stamina', 'Drain', 20, 'Stamina lost a second of sprint.')),
  regain: row({ place: 3, entries: ['toFull'] }, perSecond('stamina', 'Regain', 15, 'Stamina gained a second of recovery.')),
  regainDelay: row({ place: 4 }, duration('stamina', 'Wait', 0.6, 'Time after the last drain before regain begins.')),
  regainWhile: row(
    { words: { notSprinting: 'not sprinting' } },
    choice('stamina', 'Regain while', ['standing', 'notSprinting', 'always'], 'notSprinting', 'When regain may run.'),
  ),
  regainMovingFactor: row(
    { when: [{ 'stamina.enabled': [true], 'stamina.regainWhile': ['notSprinting', 'always'] }] },
    ratio('stamina', 'Regain moving', 0.5, 'Share of the regain while walking.', 0, 10),
  ),
  startAt: row({ place: 5 }, amount('stamina', 'Start at', 10, 'Stamina that a sprint needs to begin.')),
  recoverTo: row({ place: 6 }, amount('stamina', 'Recover to', 25, 'Stamina at which an emptied bar allows sprinting again.')),
  afterEmpty: choice(
    'stamina',
    'After empty',
    ['cancel', 'resume'],
    'cancel',
    'What a sprint that is still held or toggled does once recovered.',
  ),
  emptyEndsSprint: flag('stamina', 'Empty ends sprint', true, 'Off: sprint goes on with nothing left.'),
  spentFactor: ratio('stamina', 'Spent pace', 1, 'Walk speed factor while spent.', 0, 10),
  interval: duration('stamina', 'Lump', 0, '0: continuous. Else drain and regain come in lumps this far apart.', 0, 10),
  drainWhile: choice(
    'stamina',
    'Drain while',
    ['moving', 'held'],
    'moving',
    'Moving: only when the body really moves. Held: as long as sprint is on.',
  ),
};

export const clock = {
  hz: frequency('clock', 'Tick rate', 60, 'Ticks a second.'),
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

export const step = {
  cell: distance('steps', 'Cell', 32, 'Side of a cell.', 1, 1e5),
  time: duration('steps', 'Step time', 0.16, 'Time for one cell; 0: at once.', 0, 10),
  ease: choice('steps', 'Ease', ['linear', 'smooth'], 'linear', 'Speed within a step: even, or slow at both ends.'),
  buffer: duration('steps', 'Buffer', 0.12, 'A press this long before the end of a step is kept for the next.', 0, 10),
  turnTime: duration('steps', 'Turn first', 0, 'Time to turn before the step begins.', 0, 10),
  diagonals: flag('steps', 'Diagonals', false, 'Two keys step diagonally.'),
  diagonalTime: row(
    { when: [{ 'step.diagonals': [true] }] },
    choice('steps', 'Diagonal time', ['scaled', 'same'], 'scaled', 'Scaled: 1.41 times the step time. Same: faster over the ground.'),
  ),
  bumpTime: duration('steps', 'Bump', 0.1, 'Time lost against a blocked cell.', 0, 10),
  repeat: flag('steps', 'Repeat', true, 'A held key goes on stepping.'),
};

export const route = {
  enabled: row({ place: 1 }, flag('clicks', 'Click to go', false, 'A click sets a destination.')),
  planner: row(
    { place: 2 },
    choice('clicks', 'Planner', ['straight', 'grid4', 'grid8', 'shortest'], 'shortest', 'How the way to the click is found.'),
  ),
  margin: distance('clicks', 'Margin', 2, 'Room kept between the body and the walls.'),
  waypointRadius: distance('clicks', 'Waypoint radius', 6, 'A waypoint counts as passed within this distance.'),
  arriveRadius: distance('clicks', 'Arrive radius', 4, 'The destination counts as reached within this distance.'),
  arrival: row(
    { place: 3, words: { radiusOnly: 'radius only' } },
    choice('clicks', 'Arrival', ['exact', 'radiusOnly'], 'exact', 'Exact: ends on the point. radiusOnly: only tests the radius.'),
  ),
  brake: row({ place: 4 }, flag('clicks', 'Brake', true, 'Slows down so as to stop on the point.')),
  tapTime: duration('clicks', 'Tap time', 0.25, 'Shorter presses go to the point; longer ones follow the pointer.', 0, 5),
  reclick: choice('clicks', 'Click again', ['keep', 'restart'], 'keep', 'Keep or drop the speed on a new click.'),
  unreachable: choice('clicks', 'Unreachable', ['nearest', 'refuse'], 'nearest', 'What a click on a place out of reach does.'),
  stuckAfter: duration('clicks', 'Stuck after', 0.6, 'Time without headway that counts as stuck.', 0.05, 60),
  replanEvery: duration('clicks', 'Plan again every', 0, '0: only when something changes.'),
  afterPlant: choice('clicks', 'After plant', ['forget', 'resume'], 'forget', 'What becomes of the destination once the feet are let go.'),
};

export const camera = {
  follow: row(
    { words: { perTick: 'per tick', deadZone: 'dead zone' } },
    choice('camera', 'Follow', ['smooth', 'none', 'locked', 'perTick', 'deadZone'], 'smooth', 'How the view follows the body.'),
  ),
  halfLife: row(
    { when: [{ 'camera.follow': ['smooth'] }], entries: ['toNineTenths'] },
    duration('camera', 'Half-life', 0.12, 'Smooth: time in which half of the lag is gone.', 0.001, 10),
  ),
  perTick: row(
    { when: [{ 'camera.follow': ['perTick'] }] },
    ratio('camera', 'Share a tick', 0.1, 'perTick: share of the lag that goes each tick; depends on the tick rate.'),
  ),
  deadZoneWidth: row(
    { when: [{ 'camera.follow': ['deadZone'] }] },
    distance('camera', 'Dead zone width', 120, 'Width in which the body moves freely.'),
  ),
  deadZoneHeight: row(
    { when: [{ 'camera.follow': ['deadZone'] }] },
    distance('camera', 'Dead zone height', 80, 'Height in which the body moves freely.'),
  ),
  lookAhead: duration('camera', 'Look ahead', 0, 'The view leads by this many seconds of travel.', 0, 10),
  offsetX: distance('camera', 'Offset across', 0, 'Where the body stands in the view, right of its middle.', -1e5, 1e5),
  offsetY: distance('camera', 'Offset down', 0, 'Where the body stands in the view, below its middle.', -1e5, 1e5),
  keepInGround: flag('camera', 'Keep in ground', true, 'The view never shows past the ground.'),
  viewWidth: distance('camera', 'View width', 640, 'Width of what the player sees.', 1, 1e5),
  viewHeight: distance('camera', 'View height', 360, 'Height of what the player sees.', 1, 1e5),
  heading: angle('camera', 'Heading', 0, 'How far the view is turned.'),
  tilt: row({ stage: 'drawing' }, angle('camera', 'Tilt', 0, 'How far the view leans from straight down.', 0, 80)),
};
