import { z } from 'zod';
import { type Format, readDocument, readJson } from '../document/document.ts';
import { type Fault, type Reading, shown } from '../document/fault.ts';

export const SOLID = '#';
export const OPEN = '.';

const coordinate = z.number().min(-1e7).max(1e7);
const side = z.number().min(1).max(1e7);

const wall = z.strictObject({
  points: z
    .array(z.tuple([coordinate, coordinate]))
    .min(2)
    .max(100_000),
  closed: z.boolean().default(false),
  solid: z.boolean().default(true),
});

/** A free wall: closed ones are solid inside, open ones are thin lines felt from both sides. */
export type Wall = z.input<typeof wall>;

const surface = z.strictObject({ name: z.string().min(1).max(60), speed: z.number().min(0).max(10) });

/** A kind of surface; `speed` is the factor on speed over it. */
export type Surface = z.infer<typeof surface>;

const point = z.tuple([coordinate, coordinate]);

const gate = z.strictObject({ from: point, to: point });

/** A line that a course crosses, from one end to the other. */
export type Gate = z.infer<typeof gate>;

const course = z.strictObject({ gates: z.array(gate).min(1).max(500), laps: z.int().min(1).max(100).default(1) });

/** Gates to be crossed in order, as often as there are laps; the last one is the finish. The ground's start is the course's. */
export type Course = z.infer<typeof course>;

const schema = z.strictObject({
  format: z.literal('zygopod/ground'),
  version: z.literal(2),
  name: z.string().trim().min(1).max(120),
  unit: z.enum(['px', 'm']).default('px'),
  size: z.strictObject({ width: side, height: side }),
  cell: z.number().min(0.01).max(1e5).default(32),
  cells: z.array(z.string().max(4096)).max(4096).default([]),
  surfaces: z.record(z.string().length(1), surface).default({}),
  walls: z.array(wall).max(100_000).default([]),
  start: z.strictObject({ x: coordinate, y: coordinate, facing: z.number().min(-360).max(360).optional() }),
  goal: z.strictObject({ x: coordinate, y: coordinate, radius: z.number().min(0.01).max(1e6) }).optional(),
  frame: z.strictObject({ x: coordinate, y: coordinate, width: side, height: side }).optional(),
  course: course.optional(),
});

/** A map to move on, as it stands in a file. */
export type Ground = Omit<z.output<typeof schema>, 'walls'> & { walls: Wall[] };

/** The ground format. */
export const groundFormat: Format<Ground> = {
  format: 'zygopod/ground',
  version: 2,
  // Version 2 can hold a course.
  migrations: [(old) => ({ ...old, version: 2 })],
  lists: { walls: { item: wall, most: 100_000 } },
  schema,
};

/** The first column of a row whose mark is not known; −1 if all are. */
function unknownIn(row: string, surfaces: Ground['surfaces']): number {
  for (let x = 0; x < row.length; x++) {
    const mark = row[x] as string;
    if (mark !== SOLID && mark !== OPEN && !Object.hasOwn(surfaces, mark)) return x;
  }
  return -1;
}

/** Checks beyond the schema: rows of equal length, known marks. */
function cellFaults(ground: Ground): Fault[] {
  const width = ground.cells[0]?.length ?? 0;
  return ground.cells.flatMap((row, y): Fault[] => {
    if (row.length !== width)
      return [{ path: `cells.${y}`, found: `a row of ${row.length} cells`, expected: `${width}, like the first row` }];
    const x = unknownIn(row, ground.surfaces);
    return x < 0
      ? []
      : [{ path: `cells.${y}`, found: `the mark ${shown(row[x])} in column ${x}`, expected: `"#", "." or a mark of surfaces` }];
  });
}

/** Walls whose points are all in one place. */
function wallFaults(ground: Ground): Fault[] {
  return ground.walls.flatMap(({ points }, i): Fault[] => {
    const [x, y] = points[0] as [number, number];
    if (points.some(([px, py]) => px !== x || py !== y)) return [];
    return [{ path: `walls.${i}.points`, found: `a wall without length at ${x}, ${y}`, expected: 'two different points' }];
  });
}

/** Maximum number of points of all walls together. */
const MOST_POINTS = 500_000;

/** Counts the wall points of a possible ground without validating them. */
function pointsOf(value: unknown): number {
  const walls = typeof value === 'object' && value !== null && 'walls' in value ? value.walls : [];
  let count = 0;
  for (const wall of Array.isArray(walls) ? walls : []) if (Array.isArray(wall?.points)) count += wall.points.length;
  return count;
}

/** Reads a parsed JSON value as a ground. */
export function readGround(value: unknown): Reading<Ground> {
  const points = pointsOf(value);
  if (points > MOST_POINTS)
    return { ok: false, faults: [{ path: 'walls', found: `${points} points`, expected: `at most ${MOST_POINTS} together` }] };
  const reading = readDocument(groundFormat, value);
  if (!reading.ok) return reading;
  const ground = reading.value;
  const faults = [...cellFaults(ground), ...wallFaults(ground)];
  return faults.length > 0 ? { ok: false, faults: faults.slice(0, 20) } : { ok: true, value: ground };
}

/** Reads the text of a `*.ground.json`. */
export function parseGround(text: string): Reading<Ground> {
  const json = readJson(text);
  return json.ok ? readGround(json.value) : json;
}

/** A ground with only the given objects. Throws if it is invalid. */
export const groundWith = (given: Pick<Ground, 'name' | 'size' | 'start'> & Partial<Ground>): Ground =>
  schema.parse({ format: groundFormat.format, version: groundFormat.version, ...given });

/** An open ground to begin with. */
export const newGround = (name: string, unit: Ground['unit'] = 'px'): Ground =>
  groundWith({ name, unit, size: { width: 640, height: 384 }, start: { x: 80, y: 80 } });
