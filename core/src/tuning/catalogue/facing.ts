import { angle, choice, duration, ratio, row, speed, turnRate } from './specs.ts';

/** Rows for the facing direction. */

export const facing = {
  directions: row({ place: 1 }, choice('facing', 'Directions', ['2', '4', '8', '16', 'free'], '8', 'Directions that the body can face.')),
  from: row({ place: 2 }, choice('facing', 'From', ['movement', 'input', 'pointer'], 'movement', 'What decides the facing.')),
  turn: row(
    { place: 3, words: { perTick: 'per tick' } },
    choice('facing', 'Turn', ['instant', 'rate', 'smooth', 'perTick'], 'instant', 'How the facing reaches its target.'),
  ),
  rate: row({ when: [{ 'facing.turn': ['rate'] }] }, turnRate('facing', 'Rate', 720, 'Rate: how fast the facing turns.')),
  halfLife: row(
    { when: [{ 'facing.turn': ['smooth'] }], entries: ['toNineTenths'] },
    duration('facing', 'Half-life', 0.05, 'Smooth: time until half of the turn is done.', 0.001, 10),
  ),
  perTick: row(
    { when: [{ 'facing.turn': ['perTick'] }] },
    ratio('facing', 'Fraction per tick', 0.2, 'perTick: fraction of the remaining turn done each tick; depends on the tick rate.'),
  ),
  flip: choice('facing', 'Flipped', ['none', 'x', 'y', 'both'], 'none', 'Inverts an axis, as a sign error in code does.'),
  whenStill: row(
    { place: 4 },
    choice('facing', 'Standing', ['keep', 'start'], 'keep', 'Keeps the last facing, or returns to the start facing.'),
  ),
  stickiness: row(
    { when: [{ 'facing.directions': ['2', '4', '8', '16'] }] },
    angle('facing', 'Stickiness', 10, 'How far past the border of its sector the angle must turn before the facing changes.', 0, 45),
  ),
  start: angle('facing', 'At start', 90, 'Facing at the start if the ground gives none.'),
  launchSpeed: row({ stage: 'drawing' }, speed('facing', 'Launch speed', 300, 'Speed of a pebble thrown along the facing.')),
};
