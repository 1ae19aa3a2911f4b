import { choice, distance, row } from './specs.ts';

/** Rows for the edges of the ground or the screen. */

const inset = (label: string) =>
  distance('edges', label, 0, 'Distance of the limit from the frame’s edge; negative values lie outside.', -1e5, 1e5);

export const bounds = {
  policy: row(
    { place: 1, words: { sendTo: 'send to' } },
    choice(
      'edges',
      'At the edge',
      ['clamp', 'none', 'push', 'wrap', 'sendTo'],
      'clamp',
      'Clamp: held. Push: moved back. Wrap: re-enters at the other side. sendTo: moved to a point.',
    ),
  ),
  frame: row({ place: 3 }, choice('edges', 'Edge of', ['ground', 'screen'], 'ground', 'The ground’s border, or the screen frame.')),
  measure: row(
    { place: 2 },
    choice('edges', 'Measured by', ['body', 'centre'], 'body', 'Whether the whole body or only its centre must stay inside.'),
  ),
  push: row(
    { place: 4, when: [{ 'bounds.policy': ['push'] }] },
    distance('edges', 'Push', 10, 'Distance inside the edge to which the body is moved back.'),
  ),
  sendToX: row({ when: [{ 'bounds.policy': ['sendTo'] }] }, distance('edges', 'Send to x', 0, 'Where sendTo moves the body.', -1e6)),
  sendToY: row({ when: [{ 'bounds.policy': ['sendTo'] }] }, distance('edges', 'Send to y', 0, 'Where sendTo moves the body.', -1e6)),
  inset: { top: inset('Inset top'), right: inset('Inset right'), bottom: inset('Inset bottom'), left: inset('Inset left') },
  axes: choice('edges', 'Axes', ['both', 'x', 'y'], 'both', 'Which axes have edges.'),
};
