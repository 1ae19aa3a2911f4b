import { choice, count, distance, flag, ratio, row } from './specs.ts';

/** Rows for what it does at walls. */

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
