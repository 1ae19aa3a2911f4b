import type { Parameters } from '@zygopod/core';

/** The figures there are, with their numbers in the order of work. */
export const figureList = [
  { id: 'pace', number: 1, title: 'Pace' },
  { id: 'stamina', number: 2, title: 'Stamina' },
  { id: 'walls', number: 3, title: 'Walls' },
  { id: 'edges', number: 4, title: 'Edges' },
  { id: 'facing', number: 5, title: 'Facing' },
  { id: 'clicks', number: 6, title: 'Clicks' },
  { id: 'steps', number: 7, title: 'Grid steps' },
  { id: 'hands', number: 8, title: 'Hands' },
  { id: 'body', number: 9, title: 'Body' },
  { id: 'camera', number: 10, title: 'Camera' },
  { id: 'clock', number: 11, title: 'Clock' },
] as const;

type FigureId = (typeof figureList)[number]['id'];

/** Figures that a tuning makes no use of. */
export function unusedFigures({ scheme, route }: Pick<Parameters, 'scheme' | 'route'>): ReadonlySet<FigureId> {
  if (scheme === 'step') return new Set<FigureId>(['pace', 'walls', 'clicks']);
  return new Set<FigureId>(route.enabled ? ['steps'] : ['clicks', 'steps']);
}

/** The figures in the order in which they are worked on: those first that the scheme lives by, those last that it makes no use of. */
export function orderedFigures(parameters: Pick<Parameters, 'scheme' | 'route'>): (typeof figureList)[number][] {
  const unused = unusedFigures(parameters);
  const lives = parameters.scheme === 'step' ? 'steps' : parameters.route.enabled ? 'clicks' : null;
  const rank = (id: FigureId) => (id === lives ? 0 : unused.has(id) ? 2 : 1);
  return [...figureList].sort((a, b) => rank(a.id) - rank(b.id));
}
