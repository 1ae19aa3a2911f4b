import { type Figure, figureTitles, type Parameters } from '@zygopod/core';

/** A figure with its number in the order of work. */
interface Listed {
  id: Figure;
  number: number;
  title: string;
}

/** The figures there are. */
export const figureList: readonly Listed[] = Object.entries(figureTitles).map(([id, title], i) => ({
  id: id as Figure,
  number: i + 1,
  title,
}));

/** Figures that a tuning makes no use of. */
export function unusedFigures({ scheme, route }: Pick<Parameters, 'scheme' | 'route'>): ReadonlySet<Figure> {
  if (scheme === 'step') return new Set<Figure>(['pace', 'walls', 'clicks']);
  return new Set<Figure>(route.enabled ? ['steps'] : ['clicks', 'steps']);
}

/** The figures in the order in which they are worked on: those first that the scheme lives by, those last that it makes no use of. */
export function orderedFigures(parameters: Pick<Parameters, 'scheme' | 'route'>): Listed[] {
  const unused = unusedFigures(parameters);
  const lives = parameters.scheme === 'step' ? 'steps' : parameters.route.enabled ? 'clicks' : null;
  const rank = (id: Figure) => (id === lives ? 0 : unused.has(id) ? 2 : 1);
  return [...figureList].sort((a, b) => rank(a.id) - rank(b.id));
}
