/** A side or an arc of the outline of a wall grown by a body. */
export interface Piece {
  /** Calls back with the places on it that may be nearest to (x, y): the foot, or an end. */
  nearest(x: number, y: number, give: (x: number, y: number) => void): void;
  /** Calls back with its intersections with another piece. */
  crossings(other: Piece, give: (x: number, y: number) => void): void;
  isWithin(x: number, y: number, radius: number): boolean;
}
export type Outline = Piece[];

/** Fraction of a side's length by which it is extended, so that the ends of neighbours meet in spite of rounding. */
const LONGER = 1e-9;

class Side implements Piece {
  readonly ax: number;
  readonly ay: number;
  readonly ex: number;
  readonly ey: number;

  constructor(ax: number, ay: number, bx: number, by: number) {
    this.ax = ax;
    this.ay = ay;
    this.ex = bx - ax;
    this.ey = by - ay;
  }

  nearest(x: number, y: number, give: (x: number, y: number) => void): void {
    const size = this.ex * this.ex + this.ey * this.ey;
    const share = size === 0 ? 0 : Math.max(0, Math.min(1, ((x - this.ax) * this.ex + (y - this.ay) * this.ey) / size));
    give(this.ax + this.ex * share, this.ay + this.ey * share);
  }

  crossings(other: Piece, give: (x: number, y: number) => void): void {
    if (!(other instanceof Side)) {
      other.crossings(this, give);
      return;
    }
    const cross = this.ex * other.ey - this.ey * other.ex;
    if (cross === 0) return;
    const [fx, fy] = [other.ax - this.ax, other.ay - this.ay];
    const share = (fx * other.ey - fy * other.ex) / cross;
    const along = (fx * this.ey - fy * this.ex) / cross;
    if (share < -LONGER || share > 1 + LONGER || along < -LONGER || along > 1 + LONGER) return;
    give(this.ax + this.ex * share, this.ay + this.ey * share);
  }

  isWithin(x: number, y: number, radius: number): boolean {
    let within = false;
    this.nearest(x, y, (px, py) => {
      within = (px - x) ** 2 + (py - y) ** 2 <= radius * radius;
    });
    return within;
  }
}

/** The round end of a capsule, as a whole circle: its part inside the wall's outline isn't free anyway. */
class Round implements Piece {
  readonly x: number;
  readonly y: number;
  readonly radius: number;

  constructor(x: number, y: number, radius: number) {
    this.x = x;
    this.y = y;
    this.radius = radius;
  }

  nearest(x: number, y: number, give: (x: number, y: number) => void): void {
    const [dx, dy] = [x - this.x, y - this.y];
    const size = Math.sqrt(dx * dx + dy * dy);
    if (size === 0) give(this.x + this.radius, this.y);
    else give(this.x + (dx / size) * this.radius, this.y + (dy / size) * this.radius);
  }

  crossings(other: Piece, give: (x: number, y: number) => void): void {
    if (other instanceof Side) this.#meetSide(other, give);
    else if (other instanceof Round) this.#meetRound(other, give);
  }

  #meetSide({ ax, ay, ex, ey }: Side, give: (x: number, y: number) => void): void {
    const a = ex * ex + ey * ey;
    if (a === 0) return;
    const b = (ax - this.x) * ex + (ay - this.y) * ey;
    const c = (ax - this.x) ** 2 + (ay - this.y) ** 2 - this.radius ** 2;
    const discriminant = b * b - a * c;
    if (discriminant < 0) return;
    const root = Math.sqrt(discriminant);
    for (const share of [(-b - root) / a, (-b + root) / a])
      if (share >= -LONGER && share <= 1 + LONGER) give(ax + ex * share, ay + ey * share);
  }

  #meetRound(other: Round, give: (x: number, y: number) => void): void {
    const [dx, dy] = [other.x - this.x, other.y - this.y];
    const apart = dx * dx + dy * dy;
    if (apart === 0) return;
    const along = (apart + this.radius ** 2 - other.radius ** 2) / (2 * apart);
    const aside = this.radius ** 2 / apart - along * along;
    if (aside < 0) return;
    const root = Math.sqrt(aside);
    for (const sign of [-1, 1]) give(this.x + dx * along - dy * root * sign, this.y + dy * along + dx * root * sign);
  }

  isWithin(x: number, y: number, radius: number): boolean {
    const away = Math.sqrt((x - this.x) ** 2 + (y - this.y) ** 2) - this.radius;
    return Math.abs(away) <= radius;
  }
}

/** The outlines of walls from (ax, ay) to (bx, by), grown by a body. */
export const outlineOf = {
  side: (ax: number, ay: number, bx: number, by: number): Outline => [new Side(ax, ay, bx, by)],

  /** Grown by a circle: two sides and two round ends. */
  capsule(ax: number, ay: number, bx: number, by: number, radius: number): Outline {
    const size = Math.sqrt((bx - ax) ** 2 + (by - ay) ** 2);
    const [nx, ny] = [(-(by - ay) / size) * radius, ((bx - ax) / size) * radius];
    return [
      new Side(ax + nx, ay + ny, bx + nx, by + ny),
      new Side(ax - nx, ay - ny, bx - nx, by - ny),
      new Round(ax, ay, radius),
      new Round(bx, by, radius),
    ];
  },

  /** Grown by a level box: a hexagon, or a rectangle where the wall is level. */
  grownByBox(ax: number, ay: number, bx: number, by: number, halfWidth: number, halfHeight: number): Outline {
    // From its left end to its right one; its slope decides at which corners the box leaves the ends.
    const [lx, ly, rx, ry] = ax < bx || (ax === bx && ay < by) ? [ax, ay, bx, by] : [bx, by, ax, ay];
    const falls = ry >= ly ? 1 : -1;
    const [w, h] = [halfWidth, halfHeight * falls];
    const corners: [number, number][] = [
      [lx - w, ly - h],
      [lx + w, ly - h],
      [rx + w, ry - h],
      [rx + w, ry + h],
      [rx - w, ry + h],
      [lx - w, ly + h],
    ];
    return corners.map(([x, y], i) => {
      const [toX, toY] = corners[(i + 1) % 6] as [number, number];
      return new Side(x, y, toX, toY);
    });
  },
};
