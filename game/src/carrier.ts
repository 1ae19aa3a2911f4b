import { footing, type Town } from './town.ts';

/** The numbers of the carrier's motion, in px and seconds. */
export interface Numbers {
  walk_speed: number;
  dash_speed: number;
  accel: number;
  friction: number;
  turn_brake: number;
  dash_ease: number;
  stam_max: number;
  stam_drain: number;
  stam_regain: number;
  wait_s: number;
  hop_height: number;
}

export const firstNumbers: Numbers = {
  walk_speed: 140,
  dash_speed: 245,
  accel: 900,
  friction: 1200,
  turn_brake: 1800,
  dash_ease: 900,
  stam_max: 100,
  stam_drain: 20,
  stam_regain: 15,
  wait_s: 0.6,
  hop_height: 48,
};

/** Faults that can be switched on. */
export const faults = ['stale-restore', 'frame-lerp', 'late-facing', 'centre-clamp', 'double-drain'] as const;
export type Fault = (typeof faults)[number];

/** The keys that count in a tick. */
export interface Pad {
  x: -1 | 0 | 1;
  y: -1 | 0 | 1;
  dash: boolean;
  /** True in a tick in which the dash key went down. */
  dashes: boolean;
}

export const RADIUS = 12;
/** Gap that is kept to walls, px. */
const GAP = 0.01;
/** Seconds since a dash that never was. */
const LONG_AGO = 1e9;
/** Length of a piece of a step in which walls are met, px. */
const PIECE = 1;
/** Stamina to begin a dash, and to be recovered after running empty. */
const ENOUGH = 10;
const RECOVERED = 25;
/** Factor on the regain while the carrier walks. */
const WALKING = 0.5;
/** The speed that a dash leaves behind with the fault `stale-restore`: an older walk speed. */
const STALE = 110;
/** Fraction of the way to the wanted velocity per frame with the fault `frame-lerp`. */
const LERP = 0.2;
const DIAGONAL = Math.SQRT1_2;
const TURN = Math.PI / 4;
/** The faced eighth is kept until the direction is so far from its middle, radians. */
const KEEPS = TURN / 2 + Math.PI / 18;

/** The letter carrier: where it is, and how it moves. */
export class Carrier {
  numbers: Numbers = { ...firstNumbers };
  readonly faults = new Set<Fault>();
  x = 0;
  y = 0;
  vx = 0;
  vy = 0;
  stamina = firstNumbers.stam_max;
  isDashing = false;
  isSpent = false;
  /** Eighths clockwise from east. */
  #facing = 2;
  #shown = 2;
  /** The walk speed that is in force. */
  #pace: number | null = null;
  #sinceDash = LONG_AGO;
  /** True after running empty, until the dash key is let go. */
  #isCancelled = false;
  #isBlocked = false;
  readonly #town: Town;

  constructor(town: Town) {
    this.#town = town;
    this.reset();
  }

  /** Back to the start, at rest, with all its strength. */
  reset(): void {
    this.put(this.#town.start.x, this.#town.start.y);
    this.stamina = this.numbers.stam_max;
    this.isDashing = false;
    this.isSpent = false;
    this.#facing = 0;
    this.#shown = 0;
    this.#pace = null;
    this.#sinceDash = LONG_AGO;
    this.#isCancelled = false;
    this.#isBlocked = false;
  }

  /** Puts it at a place, at rest. */
  put(x: number, y: number): void {
    [this.x, this.y, this.vx, this.vy] = [x, y, 0, 0];
  }

  get isMoving(): boolean {
    return Math.hypot(this.vx, this.vy) > 0.01;
  }

  /** Degrees clockwise from east, in (−180, 180]. */
  get facing(): number {
    const degrees = (this.faults.has('late-facing') ? this.#shown : this.#facing) * 45;
    return degrees > 180 ? degrees - 360 : degrees;
  }

  /** One step of `dt` seconds. */
  step({ x, y, dash, dashes }: Pad, dt: number): void {
    const isWalking = x !== 0 || y !== 0;
    const ground = footing(this.#town, this.x, this.y);
    if (!dash || dashes) this.#isCancelled = false;
    this.#tire(isWalking, dash, dt);
    const size = x !== 0 && y !== 0 ? DIAGONAL : 1;
    const walk = this.#pace ?? this.numbers.walk_speed;
    const speed = (this.isDashing ? this.numbers.dash_speed : walk) * ground;
    this.#speedUp(x * size * speed, y * size * speed, dt);
    this.#move(dt);
    this.#shown = this.#facing;
    this.#turn();
  }

  /** Begins and ends a dash, and spends or regains strength. */
  #tire(isWalking: boolean, wants: boolean, dt: number): void {
    const { stam_max, stam_drain, stam_regain, wait_s } = this.numbers;
    if (this.isSpent && this.stamina >= Math.min(RECOVERED, stam_max) - 1e-9) this.isSpent = false;
    const was = this.isDashing;
    const may = !this.isSpent && !this.#isCancelled && (was ? this.stamina > 0 : this.stamina >= Math.min(ENOUGH, stam_max) - 1e-9);
    this.isDashing = wants && isWalking && may;
    if (this.isDashing && !this.#isBlocked) {
      const drain = stam_drain * (this.faults.has('double-drain') ? 2 : 1) * dt;
      this.#sinceDash = 0;
      this.stamina -= drain;
      if (this.stamina <= 1e-9) {
        this.#sinceDash = (-this.stamina / drain) * dt;
        this.stamina = 0;
        this.isDashing = false;
        this.isSpent = true;
        this.#isCancelled = true;
      }
    } else {
      const waited = this.#sinceDash;
      this.#sinceDash += dt;
      if (this.isDashing) return;
      const time = Math.max(0, Math.min(dt, this.#sinceDash - Math.max(wait_s, waited)));
      this.stamina = Math.min(stam_max, this.stamina + stam_regain * (isWalking ? WALKING : 1) * time);
    }
    if (was && !this.isDashing && this.faults.has('stale-restore')) this.#pace = STALE;
    if (!this.faults.has('stale-restore')) this.#pace = null;
  }

  /** Takes the velocity towards the wanted one. */
  #speedUp(wantX: number, wantY: number, dt: number): void {
    const [leftX, leftY] = [wantX - this.vx, wantY - this.vy];
    const left = Math.hypot(leftX, leftY);
    if (left === 0) return;
    if (this.faults.has('frame-lerp')) {
      this.vx += leftX * LERP;
      this.vy += leftY * LERP;
      if (wantX === 0 && wantY === 0 && Math.hypot(this.vx, this.vy) < 0.5) [this.vx, this.vy] = [0, 0];
      return;
    }
    const { accel, friction, turn_brake, dash_ease } = this.numbers;
    const want = Math.hypot(wantX, wantY);
    const rate =
      want === 0
        ? friction
        : this.vx * wantX + this.vy * wantY < 0
          ? turn_brake
          : Math.hypot(this.vx, this.vy) > want * (1 + 1e-9)
            ? dash_ease
            : accel;
    const step = rate * dt;
    if (left <= step) [this.vx, this.vy] = [wantX, wantY];
    else {
      this.vx += (leftX / left) * step;
      this.vy += (leftY / left) * step;
    }
  }

  /** Moves on in short pieces, and slides along what is met. */
  #move(dt: number): void {
    const [startX, startY, wanted] = [this.x, this.y, Math.hypot(this.vx, this.vy) * dt];
    const pieces = Math.max(1, Math.ceil(wanted / PIECE));
    let isTouching = false;
    for (let i = 0; i < pieces; i++) {
      const [fromX, fromY] = [this.x, this.y];
      this.x += (this.vx * dt) / pieces;
      this.y += (this.vy * dt) / pieces;
      const isHit = this.#leaveWalls();
      isTouching = this.#leaveEdges() || isHit || isTouching;
      // Between two walls that leave no room it stays where it was.
      if (isHit && this.#isStuck()) [this.x, this.y, this.vx, this.vy] = [fromX, fromY, 0, 0];
    }
    this.#isBlocked = isTouching && Math.hypot(this.x - startX, this.y - startY) < 0.1 * wanted;
  }

  /** The wall that reaches deepest into the carrier: how deep, and its normal. */
  #deepest(): readonly [depth: number, nx: number, ny: number] {
    let [depth, nx, ny] = [0, 0, 0];
    for (const { ax, ay, bx, by } of this.#town.edges) {
      const [ex, ey] = [bx - ax, by - ay];
      const at = Math.max(0, Math.min(1, ((this.x - ax) * ex + (this.y - ay) * ey) / (ex * ex + ey * ey)));
      const [dx, dy] = [this.x - ax - at * ex, this.y - ay - at * ey];
      const away = Math.hypot(dx, dy);
      if (RADIUS + GAP - away <= depth + 1e-9 || away === 0) continue;
      [depth, nx, ny] = [RADIUS + GAP - away, dx / away, dy / away];
    }
    return [depth, nx, ny];
  }

  #isStuck(): boolean {
    return this.#deepest()[0] > 1e-3;
  }

  /** Pushes the carrier out of walls, the deepest first, and takes the speed into them away; returns true if there was one. */
  #leaveWalls(): boolean {
    let isTouching = false;
    for (let i = 0; i < 6; i++) {
      const [depth, nx, ny] = this.#deepest();
      if (depth === 0) break;
      isTouching = true;
      this.x += nx * depth;
      this.y += ny * depth;
      this.#drop(nx, ny);
    }
    return isTouching;
  }

  /** Takes away the speed against a normal. */
  #drop(nx: number, ny: number): void {
    const into = this.vx * nx + this.vy * ny;
    if (into >= 0) return;
    this.vx -= into * nx;
    this.vy -= into * ny;
  }

  /** Keeps the carrier in town; with the fault `centre-clamp` only its centre. */
  #leaveEdges(): boolean {
    const inset = this.faults.has('centre-clamp') ? 0 : RADIUS;
    const { width, height } = this.#town;
    const [x, y] = [Math.max(inset, Math.min(width - inset, this.x)), Math.max(inset, Math.min(height - inset, this.y))];
    const isTouching = x !== this.x || y !== this.y;
    if (x !== this.x) this.#drop(Math.sign(x - this.x), 0);
    if (y !== this.y) this.#drop(0, Math.sign(y - this.y));
    [this.x, this.y] = [x, y];
    return isTouching;
  }

  /** Faces the eighth that it moves in, a little reluctant to leave the last one. */
  #turn(): void {
    if (!this.isMoving) return;
    const angle = Math.atan2(this.vy, this.vx);
    const off = Math.abs(((angle - this.#facing * TURN + 3 * Math.PI) % (2 * Math.PI)) - Math.PI);
    if (off > KEEPS) this.#facing = (Math.round(angle / TURN) + 8) % 8;
  }
}
