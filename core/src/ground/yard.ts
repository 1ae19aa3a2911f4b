import { type Ground, newGround, OPEN, SOLID } from './ground.ts';

/** Minimum and maximum sides of a yard, in cells. */
const [FEWEST, MOST] = [24, 96];
/** Seconds that a body walks from end to end of a yard, if its sides allow that. */
const CROSSED_IN = 8;

/**
 * A yard of cells for a body of a speed (units/s): walled in, with blocks to slide along and to walk around, a corridor of two cells and a gap of one.
 * `cell`: side of a cell, in units.
 */
export function yardFor(name: string, unit: Ground['unit'], cell: number, speed: number): Ground {
  const columns = Math.round(Math.min(MOST, Math.max(FEWEST, (speed * CROSSED_IN) / cell)));
  const rows = Math.round((columns * 3) / 5);
  const isWall = (x: number, y: number) => x === 0 || y === 0 || x === columns - 1 || y === rows - 1;
  const across = Math.round(columns * 0.66);
  const gap = Math.round(rows / 4);
  // A wall from top to bottom with a gap of one cell and one of two.
  const isDivider = (x: number, y: number) => x === across && y !== gap && y !== rows - gap && y !== rows - gap - 1;
  const isBlock = (x: number, y: number) => {
    const [fromX, fromY] = [Math.round(columns * 0.28), Math.round(rows * 0.3)];
    const [isWide, isHigh] = [x >= fromX && x < fromX + 4, y >= fromY && y < fromY + 3];
    const isPost = x >= fromX + 6 && x < fromX + 7 && y >= Math.round(rows * 0.6) && y < Math.round(rows * 0.6) + 4;
    return (isWide && isHigh) || isPost;
  };
  const cells = Array.from({ length: rows }, (_, y) =>
    Array.from({ length: columns }, (_, x) => (isWall(x, y) || isDivider(x, y) || isBlock(x, y) ? SOLID : OPEN)).join(''),
  );
  return {
    ...newGround(name, unit),
    size: { width: columns * cell, height: rows * cell },
    cell,
    cells,
    start: { x: 3.5 * cell, y: (Math.floor(rows / 2) + 0.5) * cell, facing: 0 },
  };
}

/** True if a body of a speed (units/s) can be judged on a ground: it takes between two seconds and a minute to walk across. */
export function suitsSpeed({ size }: Pick<Ground, 'size'>, speed: number): boolean {
  const seconds = Math.max(size.width, size.height) / speed;
  return seconds >= 2 && seconds <= 60;
}

/** Side of a cell (unit) and speed (unit/s) of the body of the yard that a project begins with. */
const first = { px: { cell: 32, speed: 140 }, m: { cell: 1, speed: 4.375 } };

/** The yard that a project without a ground begins with. */
export const firstYard = (unit: Ground['unit']): Ground => yardFor('Yard', unit, first[unit].cell, first[unit].speed);
