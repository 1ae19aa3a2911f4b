import { choice, distance, duration, flag, row } from './specs.ts';

/** Rows for paths to points. */

export const route = {
  enabled: row({ place: 1 }, flag('clicks', 'Click to go', false, 'A click sets a destination.')),
  planner: row(
    { place: 2 },
    choice('clicks', 'Planner', ['straight', 'grid4', 'grid8', 'shortest'], 'shortest', 'How the path to the click is planned.'),
  ),
  margin: distance('clicks', 'Margin', 2, 'Room kept between the body and the walls.'),
  waypointRadius: distance('clicks', 'Waypoint radius', 6, 'A waypoint counts as passed within this distance.'),
  arriveRadius: distance('clicks', 'Arrive radius', 4, 'The destination counts as reached within this distance.'),
  arrival: row(
    { place: 3, words: { radiusOnly: 'radius only' } },
    choice('clicks', 'Arrival', ['exact', 'radiusOnly'], 'exact', 'Exact: ends on the point. radiusOnly: tests the radius only.'),
  ),
  brake: row({ place: 4 }, flag('clicks', 'Brake', true, 'Slows down to stop on the point.')),
  tapTime: duration('clicks', 'Tap time', 0.25, 'Shorter presses go to the point; longer ones follow the pointer.', 0, 5),
  reclick: choice('clicks', 'Click again', ['keep', 'restart'], 'keep', 'Keep or drop the speed on a new click.'),
  unreachable: choice('clicks', 'Unreachable', ['nearest', 'refuse'], 'nearest', 'What a click on an unreachable place does.'),
  stuckAfter: duration('clicks', 'Stuck after', 0.6, 'Time without progress that counts as stuck.', 0.05, 60),
  replanEvery: duration('clicks', 'Replan every', 0, '0: only when something changes.'),
  afterPlant: choice('clicks', 'After plant', ['forget', 'resume'], 'forget', 'What happens to the destination when plant is released.'),
};
