import { standalone, type Tuning } from '@zygopod/core';
import type { Sources } from './fold/source.ts';
import { Specialiser } from './fold/specialise.ts';
import { fieldsOf, tidied } from './fold/tidy.ts';
import { amongWalls, BODY, CannotHold, has, isProbe, known, List, PLACES, type Value, Written } from './fold/values.ts';
import type { Walls } from './languages/program.ts';
import { atContact, core, meetsWalls } from './motion.ts';

const segments = new List('segments');
const courses = new List('courses');
const near = new List('near');
/** Planes that a body touches at once, at most. */
const PLANES = 32;
const planeLists: Readonly<Record<string, List>> = {
  x: new List('planeX', PLANES),
  y: new List('planeY', PLANES),
  isWall: new List('planeIsWall', PLANES),
};
/** Parts of a plan that never change, of what is written otherwise. */
const fixed = new Set(['index', 'circle', 'halfWidth', 'halfHeight', 'slop', 'friction', 'keeps', 'plain']);

/** Folds the probe with a tuning: walls are a scanned list, and intermediate values are fields. */
class AmongWalls extends Specialiser {
  protected override placed(of: unknown, part: string): List | Written | symbol | null {
    if (fixed.has(part)) return null;
    if (isProbe(of)) return part === 'near' ? near : new Written(part);
    if (has(of, 'isWall', 'plain')) return planeLists[part] ?? new Written(part === 'count' ? 'planeCount' : part);
    const isIndex = has(of, 'buckets', 'found');
    if (isIndex && part === 'count') return new Written('many');
    if (isIndex && part === 'found') return PLACES;
    if (isIndex || has(of, 'segments', 'courses')) return part === 'segments' ? segments : part === 'courses' ? courses : null;
    return null;
  }
}

const at = (name: string): Value => ({ is: { is: 'local', name, kind: 'number' } });

/** The contact of a tuning's body among walls, folded with its numbers. Throws `CannotHold` for one that meets none. */
export function wallsOf({ file, parameters }: Tuning, sources: Sources = core): Walls {
  if (!meetsWalls(parameters)) throw new CannotHold('walls: its body meets none');
  const { plan } = standalone(parameters);
  const contact = { ...plan.contact, felt: true };
  const { probe } = contact;
  const specialiser = new AmongWalls(sources, {}, amongWalls);
  const entries = [
    specialiser.entry('motion/contact.ts', 'meetWalls', [known(BODY), known(contact), known(false)]),
    specialiser.entry('collision/placedBody.ts', 'isClear', [
      known({ ...plan.route.body, felt: true, probe }),
      ...['fromX', 'fromY', 'toX', 'toY'].map(at),
    ]),
    specialiser.entry('ground/wallIndex.ts', 'layCourses', [known(segments), known(courses), at('many')]),
  ];
  const names = entries.map(({ name }) => name);
  const program = tidied(specialiser.program, names, new Set(atContact));
  const [meets, isClear, lays] = names.map((name) => program.routines.find((routine) => routine.name === name)) as [
    Walls['contact'],
    Walls['isClear'],
    Walls['courses'],
  ];
  const begins = { ...plan.contact.probe, many: 0 } as unknown as Record<string, number>;
  return {
    tuning: file.name,
    program,
    contact: meets,
    isClear,
    courses: lays,
    fields: [...new Set([...fieldsOf(program, 'walls'), 'many', 'left', 'right', 'top', 'bottom'])]
      .sort()
      .map((field): [string, number] => [field, Number(begins[field] ?? 0) + 0]),
    planes: PLANES,
  };
}
