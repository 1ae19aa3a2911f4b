import { choice, distance, ratio, row } from './specs.ts';

/** Rows for the body. */

export const body = {
  shape: choice('body', 'Shape', ['circle', 'box'], 'circle', 'Outline used against walls and edges; a box keeps its sides level.'),
  radius: row({ when: [{ 'body.shape': ['circle'] }] }, distance('body', 'Radius', 12, 'Radius of the circle.', 0.1, 1e5)),
  width: row({ when: [{ 'body.shape': ['box'] }] }, distance('body', 'Width', 24, 'Width of the box.', 0.2, 2e5)),
  height: row({ when: [{ 'body.shape': ['box'] }] }, distance('body', 'Height', 24, 'Height of the box.', 0.2, 2e5)),
  originX: ratio('body', 'Origin across', 0.5, 'Where the position sits in the body: 0 is its left side, 1 its right.'),
  originY: ratio('body', 'Origin down', 0.5, 'Where the position sits in the body: 0 is its top, 1 its bottom.'),
};
