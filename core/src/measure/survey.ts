import type { Ground } from '../ground/ground.ts';
import { selfCrossing } from '../ground/loops.ts';
import { isSolidAt } from '../ground/outlines.ts';
import { type WallBuckets, WallIndex } from '../ground/wallIndex.ts';
import { meshFor } from '../route/bodyMesh.ts';
import { Locator } from '../route/locate.ts';
import type { Mesh } from '../route/mesh.ts';
import { bodySize, centreOffset } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { type Clearance, clearanceField } from './clearance.ts';
import { type Gap, narrowGaps } from './gaps.ts';

/** What a ground is like for a body. */
export interface Survey {
  /** Places where the body's centre can be. */
  mesh: Mesh;
  /** The region of the mesh that the start is in; −1 where the start is not free. */
  startRegion: number;
  /** Whether the body gets from the start to the goal's ring; null without a goal. */
  reachesGoal: boolean | null;
  gaps: Gap[];
  clearance: Clearance;
  /** What is odd about the ground, in words, with the place where there is one. */
  notes: { words: string; x?: number; y?: number }[];
}

/** Body radii up to which room is measured. */
const ROOM = 3;

/** Surveys a ground for the body of a tuning: where it can be and get to, where it is narrow, how much room there is. */
export function surveyGround(ground: Ground, parameters: Parameters, walls: WallBuckets): Survey {
  const { body, bounds } = parameters;
  const mesh = meshFor(parameters, ground, 0);
  const locator = new Locator(mesh);
  const offset = centreOffset(body);
  const startPolygon = locator.at(ground.start.x + offset.x, ground.start.y + offset.y);
  const startRegion = startPolygon < 0 ? -1 : (mesh.regions[startPolygon] as number);
  const { width, height } = bodySize(body);
  return {
    mesh,
    startRegion,
    reachesGoal: reachesGoal(ground, mesh, locator, startRegion, offset),
    gaps: narrowGaps(ground, body, bounds.policy === 'clamp' && bounds.measure === 'body'),
    clearance: clearanceField(ground, new WallIndex(walls), (Math.max(width, height) / 2) * ROOM),
    notes: notesOn(ground, startPolygon >= 0),
  };
}

function reachesGoal(
  { goal }: Ground,
  mesh: Mesh,
  locator: Locator,
  startRegion: number,
  offset: { x: number; y: number },
): boolean | null {
  if (!goal) return null;
  if (startRegion < 0) return false;
  const [x, y] = [goal.x + offset.x, goal.y + offset.y];
  const polygon = locator.at(x, y);
  if (polygon >= 0 && mesh.regions[polygon] === startRegion) return true;
  const near = locator.nearest(x, y, (candidate) => mesh.regions[candidate] === startRegion);
  return near !== null && (near.x - x) ** 2 + (near.y - y) ** 2 <= goal.radius ** 2;
}

function notesOn(ground: Ground, startIsFree: boolean): Survey['notes'] {
  const notes: Survey['notes'] = [];
  const { start } = ground;
  if (isSolidAt(ground, start.x, start.y)) notes.push({ words: 'The start lies in a wall', x: start.x, y: start.y });
  else if (!startIsFree) notes.push({ words: 'The start is too close to a wall or the edge', x: start.x, y: start.y });
  ground.walls.forEach(({ points, closed, solid }, i) => {
    const [x, y] = points[0] as [number, number];
    if (solid === false) notes.push({ words: `Wall ${i + 1} is drawn but not felt`, x, y });
    const crossing = closed && points.length > 3 && points.length < 500 ? selfCrossing(points) : null;
    if (crossing) notes.push({ words: `Wall ${i + 1} crosses itself`, x: crossing[0], y: crossing[1] });
  });
  return notes;
}
