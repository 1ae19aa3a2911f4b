import type { Gate, Ground } from '../ground/ground.ts';
import { isSolidAt } from '../ground/outlines.ts';
import type { WallIndex } from '../ground/wallIndex.ts';
import { significant } from '../math/significant.ts';
import { bodySize } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { type CoursePath, planCourse } from './coursePath.ts';

/** Something odd about a gate, in words, with its place. */
interface GateNote {
  id: 'gate';
  words: string;
  x: number;
  y: number;
}

/** The course of a ground for a body: its planned path, and the findings about its gates. */
export interface CourseSurvey {
  path: CoursePath;
  notes: GateNote[];
}

const lengthOf = ({ from, to }: Gate): number => Math.sqrt((to[0] - from[0]) ** 2 + (to[1] - from[1]) ** 2);

/** The oddity of a gate by itself; null if there is none. */
function oddity(ground: Ground, gate: Gate, before: Gate | undefined, width: number): string | null {
  const { from, to } = gate;
  const isBeyond = [from, to].every(([x, y]) => x < 0 || y < 0 || x > ground.size.width || y > ground.size.height);
  if (lengthOf(gate) === 0) return 'has no length';
  if (isBeyond) return 'lies outside of the ground';
  if (isSolidAt(ground, (from[0] + to[0]) / 2, (from[1] + to[1]) / 2) && isSolidAt(ground, ...from) && isSolidAt(ground, ...to))
    return 'lies in a wall';
  const isSame = before && [...before.from, ...before.to].every((value, i) => value === [...from, ...to][i]);
  if (isSame) return 'is the same as the one before';
  return lengthOf(gate) < width ? `is narrower than the body (${significant(lengthOf(gate))} ${ground.unit})` : null;
}

/** Plans the course of a ground for a tuning's body, and lists what is odd about its gates; null without a course. */
export function surveyCourse(parameters: Parameters, ground: Ground, walls: WallIndex): CourseSurvey | null {
  if (!ground.course) return null;
  const { gates } = ground.course;
  const { width, height } = bodySize(parameters.body);
  const path = planCourse(parameters, ground, walls);
  const notes = gates.flatMap((gate, i): GateNote[] => {
    const [x, y] = [(gate.from[0] + gate.to[0]) / 2, (gate.from[1] + gate.to[1]) / 2];
    const odd = oddity(ground, gate, gates[i - 1], Math.min(width, height));
    const blocked = path.blocked && path.blocked.gate % gates.length === i ? `can’t be reached: ${path.blocked.why}` : null;
    return [odd, blocked].filter((words) => words !== null).map((words) => ({ id: 'gate', words: `Gate ${i + 1} ${words}`, x, y }));
  });
  return { path, notes };
}
