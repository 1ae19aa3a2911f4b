import { choice, distance, row } from './specs.ts';

/** Rows for what it does at the edges of the ground or the screen. */

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
