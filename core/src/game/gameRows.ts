import { DEGREE, wrapAngle } from '../math/functions.ts';
import { gaits } from '../motion/codes.ts';

/** The description of a game's rows, as its `hello` has it. */
export interface GameTerms {
  hz: number;
  unit: 'px' | 'm' | 'tiles';
  yUp: boolean;
  columns: readonly string[];
}

/** How a game's lengths and axes lie in the ground's: units of the ground in one of the game, and the ground's height, which turns y over. */
export interface GameScale {
  length: number;
  height: number;
}

/** A game's report of a tick, in the ground's unit, y downwards, angles in radians; NaN where it reports nothing. */
export interface GameRow {
  tick: number;
  x: number;
  y: number;
  vx: number;
  vy: number;
  facing: number;
  stamina: number;
  gait: number;
}

/**
 * Returns the function that reads rows of a game. A facing is in degrees from the x axis towards the y axis. Without velocities they are those from
 * the last row to this one.
 */
export function rowReader({ hz, yUp, columns }: GameTerms, { length, height }: GameScale): (row: readonly number[]) => GameRow {
  const place = (name: string) => columns.indexOf(name);
  const [x, y, vx, vy] = [place('x'), place('y'), place('vx'), place('vy')];
  const [facing, stamina, gait] = [place('facing'), place('stamina'), place('gait')];
  const sign = yUp ? -1 : 1;
  const has = vx >= 0 && vy >= 0;
  let last: GameRow | null = null;
  return (row) => {
    const at = (index: number) => (index < 0 ? Number.NaN : (row[index] as number));
    const read: GameRow = {
      tick: row[0] as number,
      x: at(x) * length,
      y: yUp ? height - at(y) * length : at(y) * length,
      vx: at(vx) * length,
      vy: sign * at(vy) * length,
      facing: facing < 0 ? Number.NaN : wrapAngle(sign * at(facing) * DEGREE),
      stamina: at(stamina),
      gait: gaits[at(gait)] === undefined ? Number.NaN : at(gait),
    };
    if (!has) {
      const follows = last !== null && last.tick + 1 === read.tick;
      read.vx = follows ? (read.x - (last as GameRow).x) * hz : 0;
      read.vy = follows ? (read.y - (last as GameRow).y) * hz : 0;
    }
    last = read;
    return read;
  };
}

/** Units of the ground in one of the game: tiles are cells; a metre is `metre` px. */
export function lengthIn(ground: { unit: 'px' | 'm'; cell: number }, unit: GameTerms['unit'], metre: number): number {
  if (unit === 'tiles') return ground.cell;
  if (unit === ground.unit) return 1;
  return unit === 'm' ? metre : 1 / metre;
}
