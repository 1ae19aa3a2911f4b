import { choice, count, distance, flag, ratio, row } from './specs.ts';

/** Rows for contact with walls. */

export const contact = {
  response: row(
    { place: 1 },
    choice('walls', 'On contact', ['slide', 'stop', 'none'], 'slide', 'Slide along the wall, stop at it, or pass through.'),
  ),
  skin: distance('walls', 'Skin (gap to walls)', 0.01, 'Gap kept between the body and a wall.', 1e-6, 10),
  contactsPerTick: row(
    { when: [{ 'contact.response': ['slide'] }] },
    count('walls', 'Contacts per tick', 4, 'Walls that the body may slide along in one tick.', 1, 16),
  ),
  wallFriction: row(
    { place: 2, when: [{ 'contact.response': ['slide'] }] },
    ratio('walls', 'Wall friction', 0, 'Fraction of the speed into a wall that is lost from the speed along it.', 0, 10),
  ),
  keepSpeed: row(
    { place: 3, when: [{ 'contact.response': ['slide'] }] },
    flag('walls', 'Keep speed', false, 'Keeps the full speed when sliding along a wall.'),
  ),
  swept: flag('walls', 'Swept', true, 'Checks the whole movement of a tick. Off: checks only its end, so a fast body passes thin walls.'),
  seams: flag(
    'walls',
    'Catching seams',
    false,
    'Solid cells aren’t merged: the joints between them stand out slightly, and bodies catch on them.',
  ),
  cornerAssist: row(
    { place: 4, when: [{ 'contact.response': ['slide'] }] },
    distance('walls', 'Corner assist', 0, 'Largest overlap with a corner at which the body is eased around it.', 0, 1e4),
  ),
};
