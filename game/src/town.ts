/** A wall's edge, from one corner to the next. */
interface Edge {
  ax: number;
  ay: number;
  bx: number;
  by: number;
}

/** The town that letters are carried through, in px. */
export interface Town {
  name: string;
  width: number;
  height: number;
  cell: number;
  /** Rows of cells; a mark of `pools` is a pool, with its factor on speed. */
  cells: readonly string[];
  pools: Readonly<Record<string, number>>;
  edges: readonly Edge[];
  outlines: readonly { points: readonly (readonly [number, number])[]; isClosed: boolean }[];
  start: { x: number; y: number };
}

/** The parts of a ground file that the game uses. */
interface GroundFile {
  name: string;
  size: { width: number; height: number };
  cell: number;
  cells: string[];
  surfaces?: Record<string, { speed: number }>;
  walls: { points: [number, number][]; closed: boolean }[];
  start: { x: number; y: number };
}

export function townOf({ name, size, cell, cells, surfaces = {}, walls, start }: GroundFile): Town {
  const outlines = walls.map(({ points, closed }) => ({ points, isClosed: closed }));
  const edges = outlines.flatMap(({ points, isClosed }) =>
    points.flatMap(([ax, ay], i): Edge[] => {
      const next = points[i + 1] ?? (isClosed ? points[0] : undefined);
      return next ? [{ ax, ay, bx: next[0], by: next[1] }] : [];
    }),
  );
  const pools = Object.fromEntries(Object.entries(surfaces).map(([mark, { speed }]) => [mark, speed]));
  return { name, ...size, cell, cells, pools, edges, outlines, start };
}

/** The factor on speed at a place: below 1 in a pool. */
export const footing = ({ cells, cell, pools }: Town, x: number, y: number): number =>
  pools[cells[Math.floor(y / cell)]?.[Math.floor(x / cell)] ?? ''] ?? 1;
