import { angle, choice, count, distance, duration, flag, ratio, row, speed, turnRate } from './specs.ts';

/** Rows for what the body meets (walls, edges) and for the way it looks. */

export const contact = {
  response: row(
    { place: 1 },
    choice('walls', 'On contact', ['slide', 'stop', 'none'], 'slide', 'Slide along the wall, stop at it, or pass through.'),
  ),
  skin: distance('walls', 'Skin', 0.01, 'Gap kept to the wall.', 1e-6, 10),
  contactsPerTick: row(
    { when: [{ 'contact.response': ['slide'] }] },
    count('walls', 'Contacts in a tick', 4, 'Walls along which the body may slide in one tick.', 1, 16),
  ),
  wallFriction: row(
    { place: 2, when: [{ 'contact.response': ['slide'] }] },
    ratio('walls', 'Wall friction', 0, 'Share of the speed into the wall that is taken from the speed along it.', 0, 10),
  ),
  keepSpeed: row(
    { place: 3, when: [{ 'contact.response': ['slide'] }] },
    flag('walls', 'Keep speed', false, 'Turns the whole speed along the wall.'),
  ),
  swept: flag(
    'walls',
    'Swept',
    true,
    'Follows the whole way of a tick. Off: looks only where the tick ends, so that thin walls are passed at speed.',
  ),
  seams: flag(
    'walls',
    'Felt seams',
    false,
    'Solid cells are not merged: the joints between them stand out a hair, and bodies catch on them.',
  ),
  cornerAssist: row(
    { place: 4, when: [{ 'contact.response': ['slide'] }] },
    distance('walls', 'Corner assist', 0, 'Overlap with a corner at which the body is eased round it.', 0, 1e4),
  ),
};

const inset = (label: string) =>
  distance('edges', label, 0, 'Distance of the limit from the frame’s edge; below 0 lies outside.', -1e5, 1e5);

export const bounds = {
  policy: row(
    { place: 1, words: { sendTo: 'send to' } },
    choice(
      'edges',
      'At the edge',
      ['clamp', 'none', 'push', 'wrap', 'sendTo'],
      'clamp',
      'Clamp: held. Push: put back. Wrap: in at the other side. sendTo: to a point.',
    ),
  ),
  frame: row({ place: 3 }, choice('edges', 'Edge of', ['ground', 'screen'], 'ground', 'The ground’s own border, or the screen frame.')),
  measure: row(
    { place: 2 },
    choice('edges', 'Measured by', ['body', 'centre'], 'body', 'Whether the whole body or its centre has to stay inside.'),
  ),
  push: row(
    { place: 4, when: [{ 'bounds.policy': ['push'] }] },
    distance('edges', 'Push', 10, 'How far inside the edge the body is put back.'),
  ),
  sendToX: row({ when: [{ 'bounds.policy': ['sendTo'] }] }, distance('edges', 'Send to x', 0, 'Where sendTo puts the body.', -1e6)),
  sendToY: row({ when: [{ 'bounds.policy': ['sendTo'] }] }, distance('edges', 'Send to y', 0, 'Where sendTo puts the body.', -1e6)),
  inset: { top: inset('Inset top'), right: inset('Inset right'), bottom: inset('Inset bottom'), left: inset('Inset left') },
  axes: choice('edges', 'Axes', ['both', 'x', 'y'], 'both', 'Which axes have edges.'),
};

export const facing = {
  directions: row({ place: 1 }, choice('facing', 'Directions', ['2', '4', '8', '16', 'free'], '8', 'Ways that the body can face.')),
  from: row({ place: 2 }, choice('facing', 'From', ['movement', 'input', 'pointer'], 'movement', 'What decides the facing.')),
  turn: row(
    { place: 3, words: { perTick: 'per tick' } },
    choice('facing', 'Turn', ['instant', 'rate', 'smooth', 'perTick'], 'instant', 'How the facing goes to where it should be.'),
  ),
  rate: row({ when: [{ 'facing.turn': ['rate'] }] }, turnRate('facing', 'Rate', 720, 'Rate: how fast the facing turns.')),
  halfLife: row(
    { when: [{ 'facing.turn': ['smooth'] }], entries: ['toNineTenths'] },
    duration('facing', 'Half-life', 0.05, 'Smooth: time in which half of the turn is done.', 0.001, 10),
  ),
  perTick: row(
    { when: [{ 'facing.turn': ['perTick'] }] },
    ratio('facing', 'Share a tick', 0.2, 'perTick: share of the turn done each tick; depends on the tick rate.'),
  ),
  flip: choice('facing', 'Flipped', ['none', 'x', 'y', 'both'], 'none', 'Turns the sign of an axis, as a slip in the code does.'),
  whenStill: row(
    { place: 4 },
    choice('facing', 'Standing', ['keep', 'start'], 'keep', 'Keeps the last facing, or goes back to the one at the start.'),
  ),
  stickiness: row(
    { when: [{ 'facing.directions': ['2', '4', '8', '16'] }] },
    angle('facing', 'Stickiness', 10, 'How far past the border of its sector the angle must go before the facing changes.', 0, 45),
  ),
  start: angle('facing', 'At start', 90, 'Facing at the start where the ground gives none.'),
  launchSpeed: row({ stage: 'drawing' }, speed('facing', 'Launch speed', 300, 'Speed of a pebble thrown along the facing.')),
};
