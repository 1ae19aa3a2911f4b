import { surveyCourse } from '../course/courseNotes.ts';
import type { CoursePath } from '../course/coursePath.ts';
import type { Ground } from '../ground/ground.ts';
import { selfCrossing } from '../ground/loops.ts';
import { isSolidAt } from '../ground/outlines.ts';
import { type WallBuckets, WallIndex } from '../ground/wallIndex.ts';
import { meshFor } from '../route/bodyMesh.ts';
import { Locator } from '../route/locate.ts';
import type { Mesh } from '../route/mesh.ts';
import { bodyRadius, centreOffset } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { type Clearance, clearanceField } from './clearance.ts';
import { type Gap, narrowGaps } from './gaps.ts';

/** The settings of a tuning that a survey depends on. */
export const surveyKey = ({ body, contact, bounds, route }: Parameters): string =>
  JSON.stringify([body, contact.skin, contact.response, bounds, route.margin]);

/** Something odd about a ground, in words, with its place. */
interface Note {
  id: 'start' | 'unfelt' | 'crossing' | 'gate';
  words: string;
  x: number;
  y: number;
}

/** A ground's properties for a body; null is not known yet. */
export interface SurveyPart {
  clearance: Clearance;
  /** Findings about the ground, in words, with the place if there is one. */
  notes: Note[];
  gaps: Gap[] | null;
  /** Places where the body's centre can be. */
  mesh: Mesh | null;
  /** The region of the mesh that the start is in; −1 if the start is not free, or not known yet. */
  startRegion: number;
  /** True if the body gets from the start to the goal's ring; null without a goal, or as long as it is not known. */
  reachesGoal: boolean | null;
  /** The planned path of the course; null without one, or as long as it is not known. */
  course: CoursePath | null;
}

/** A part to which nothing is missing. */
export interface Survey extends SurveyPart {
  gaps: Gap[];
  mesh: Mesh;
}

/** Body radii up to which room is measured. */
const ROOM = 3;

/** Surveys a ground for the body of a tuning: its free and reachable area, its narrow gaps, its room. */
export function surveyGround(ground: Ground, parameters: Parameters, walls: WallBuckets): Survey {
  const parts = surveyInParts(ground, parameters, walls);
  for (;;) {
    const { done, value } = parts.next();
    if (done) return value;
  }
}

/** The same, delivered as it becomes known: room and notes at once, then gaps, and last the reachable area. */
export function* surveyInParts(ground: Ground, parameters: Parameters, walls: WallBuckets): Generator<SurveyPart, Survey> {
  const { body, bounds } = parameters;
  const clearance = clearanceField(ground, new WallIndex(walls), bodyRadius(body) * ROOM);
  const first = { clearance, notes: wallNotes(ground), gaps: null, mesh: null, startRegion: -1, reachesGoal: null, course: null };
  yield first;
  const gaps = narrowGaps(ground, body, bounds.policy === 'clamp' && bounds.measure === 'body');
  yield { ...first, gaps };
  const mesh = meshFor(parameters, ground, 0);
  const locator = new Locator(mesh);
  const offset = centreOffset(body);
  const startPolygon = locator.at(ground.start.x + offset.x, ground.start.y + offset.y);
  const course = surveyCourse(parameters, ground, new WallIndex(walls));
  const startRegion = startPolygon < 0 ? -1 : (mesh.regions[startPolygon] as number);
  return {
    clearance,
    notes: [...startNotes(ground, startPolygon >= 0), ...first.notes, ...(course?.notes ?? [])],
    gaps,
    mesh,
    startRegion,
    reachesGoal: reachesGoal(ground, mesh, locator, startRegion, offset),
    course: course?.path ?? null,
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

function startNotes(ground: Ground, startIsFree: boolean): Survey['notes'] {
  const { x, y } = ground.start;
  if (isSolidAt(ground, x, y)) return [{ id: 'start', words: 'The start lies in a wall', x, y }];
  return startIsFree ? [] : [{ id: 'start', words: 'The start is too close to a wall or the edge', x, y }];
}

function wallNotes(ground: Ground): Survey['notes'] {
  const notes: Survey['notes'] = [];
  ground.walls.forEach(({ points, closed, solid }, i) => {
    const [x, y] = points[0] as [number, number];
    if (solid === false) notes.push({ id: 'unfelt', words: `Wall ${i + 1} is drawn but not felt`, x, y });
    const crossing = closed && points.length > 3 && points.length < 500 ? selfCrossing(points) : null;
    if (crossing) notes.push({ id: 'crossing', words: `Wall ${i + 1} crosses itself`, x: crossing[0], y: crossing[1] });
  });
  return notes;
}
