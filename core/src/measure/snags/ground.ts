import type { Ground } from '../../ground/ground.ts';
import { bucketWalls } from '../../ground/wallIndex.ts';
import { significant, significantPair } from '../../math/significant.ts';
import { bodySize } from '../../tuning/body.ts';
import type { Parameters } from '../../tuning/catalogue/catalogue.ts';
import { type Survey, surveyGround } from '../survey.ts';
import type { Snag } from './snag.ts';

/** Fraction of the body's need below which a gap is tight. */
const TIGHT = 1.15;
/** Maximum number of reported gaps. */
const MOST_GAPS = 12;

/** The snags of a ground for a body: the findings of a survey, as snags. `survey` is one of this ground and body, if there is one. */
export function groundSnags(
  ground: Ground,
  parameters: Parameters,
  survey: Survey = surveyGround(ground, parameters, bucketWalls(ground)),
): Snag[] {
  return [
    ...starts(survey),
    ...wallSnags(ground),
    ...goal(ground, survey),
    ...gaps(ground, survey),
    ...cells(ground, parameters),
    ...blockedPaths(ground, parameters),
  ];
}

const starts = (survey: Survey): Snag[] =>
  survey.notes
    .filter(({ id }) => id === 'start')
    .map(({ words, x, y }) => ({ id: 'start-in-wall', severity: 'fault', evidence: words.toLowerCase(), place: { x, y } }));

/** Objects of a ground that are drawn and not felt, whatever body walks on it. */
export const wallSnags = ({ walls }: Ground): Snag[] =>
  walls.flatMap(({ solid, points }, i): Snag[] => {
    const [x, y] = points[0] as [number, number];
    return solid === false
      ? [{ id: 'wall-not-solid', severity: 'risk', evidence: `wall ${i + 1} is drawn but not solid`, place: { x, y } }]
      : [];
  });

function goal({ goal: ring, unit }: Ground, { reachesGoal, startRegion }: Survey): Snag[] {
  if (!ring || reachesGoal !== false || startRegion < 0) return [];
  const { x, y, radius } = ring;
  return [
    {
      id: 'goal-unreachable',
      severity: 'fault',
      evidence: `no path leads within ${significant(radius)} ${unit} of the goal`,
      place: { x, y },
    },
  ];
}

function gaps({ unit }: Ground, { gaps: found }: Survey): Snag[] {
  return (found ?? [])
    .filter(({ ratio }) => ratio < TIGHT)
    .slice(0, MOST_GAPS)
    .map(({ a, b, width, ratio }) => {
      const place = { x: (a[0] + b[0]) / 2, y: (a[1] + b[1]) / 2 };
      const [is, needs] = significantPair(width, width / ratio);
      const evidence = `${is} ${unit} wide, the body needs ${needs} ${unit}`;
      return ratio < 1
        ? { id: 'gap-too-narrow', severity: 'risk', evidence, place }
        : { id: 'gap-tight', severity: 'hint', evidence, place };
    });
}

/** Share of a cell under which a grid body has room in it. */
const ROOMY = 0.98;

function cells({ cell, cells: rows, unit }: Ground, { scheme, body, step }: Parameters): Snag[] {
  const { width, height } = bodySize(body);
  const wide = Math.max(width, height);
  const least = rows.length > 0 ? Math.min(cell, step.cell) : step.cell;
  if (scheme !== 'step' || wide < ROOMY * least) return [];
  const numberWords = `the body is ${significant(wide)} ${unit} wide, a cell ${significant(least)}`;
  const side = Number((0.8 * least).toPrecision(4));
  const set: Record<string, number> = body.shape === 'circle' ? { 'body.radius': side / 2 } : { 'body.width': side, 'body.height': side };
  return [
    { id: 'cell-body-equal', severity: 'risk', path: 'step.cell', evidence: numberWords, mend: { words: 'A body of 0.8 cells', set } },
  ];
}

function blockedPaths({ walls: drawn, cells: rows }: Ground, { route, scheme }: Parameters): Snag[] {
  const isFree = drawn.every(({ solid }) => solid === false) && rows.every((row) => !row.includes('#'));
  if (!route.enabled || scheme === 'step' || route.planner !== 'straight' || isFree) return [];
  const mend = { words: 'Plan the shortest path', set: { 'route.planner': 'shortest' } };
  return [{ id: 'route-straight', severity: 'risk', path: 'route.planner', evidence: 'paths go straight, and there are walls', mend }];
}
