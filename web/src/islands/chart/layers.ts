/** Layers of the yard, with their names in the legend. */
export const layerNames = {
  prints: 'Prints',
  wedge: 'Heading',
  velocity: 'Velocity',
  grid: 'Grid',
  frame: 'Screen',
  contact: 'Contact',
  snags: 'Snags',
  course: 'Course',
  gaps: 'Gaps',
  reach: 'Reach',
  room: 'Room',
  grown: 'Grown walls',
  searched: 'Search',
  touch: 'Stick and buttons',
} as const;

export type Layer = keyof typeof layerNames;
export type Layers = Record<Layer, boolean>;

/** Layers for which the ground has to be surveyed. */
export const surveyed: readonly Layer[] = ['gaps', 'reach', 'room'];
