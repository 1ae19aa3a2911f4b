import { turnTo } from '../math/angles.ts';
import { BY_HANDS, SPRINTING } from '../motion/codes.ts';
import { inDegrees } from '../motion/facing.ts';
import type { World } from '../motion/world.ts';
import type { Hands } from '../tape/hands.ts';
import { bodyRadius } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import type { GameRow } from './gameRows.ts';

/** The stages of a tick whose results are compared, in their order. */
export const stages = ['stamina', 'velocity', 'place', 'facing'] as const;
export type Stage = (typeof stages)[number];

/** Phases of a ramp. */
export const phases = ['accelerate', 'decelerate', 'brake', 'ease'] as const;
export type Phase = (typeof phases)[number];

/** A change of velocity that the game made in a tick: its rate, unit/s², and its share of what was left to the velocity aimed at. */
export interface RampSample {
  row: number;
  phase: Phase;
  rate: number;
  share: number;
}

/** A steady speed of the game, unit/s, where the model aims at another or the same one. */
export interface SteadySample {
  row: number;
  kind: 'walk' | 'walkAfterSprint' | 'sprint';
  speed: number;
  aim: number;
}

/** The change of stamina in a tick, of both. */
export interface StaminaSample {
  row: number;
  game: number;
  model: number;
}

/** A tick in which the bodies end at different places. */
export interface PlaceSample {
  row: number;
  /** Distance between them, along the axis on which it is larger, unit. */
  by: number;
  /** True if the model was held by an edge, or by a wall. */
  atEdge: boolean;
  atWall: boolean;
  /** The fraction of the wanted displacement that each covered. */
  game: number;
  model: number;
  /** The game's displacement over the mean of its two velocities, and over the velocity before (×dt); 1: exactly that. */
  mean: number;
  before: number;
}

/** Differences up to these count as the same: of velocities, of the highest speed; of places, of the body’s width; of stamina, of a tick’s rate. */
const FREE_SPEED = 0.005;
const TOUCHING_SPEED = 0.1;
const FREE_PLACE = 0.002;
const TOUCHING_PLACE = 0.04;
const STAMINA = 0.1;
const DEGREES = 1;
/** Fraction of the highest speed by which a steady speed changes at most in a tick; ticks for which the hands rest before it counts. */
const STEADY = 1e-3;
const SETTLED = 3;
/** Fraction of the wanted displacement below which walls hold a body up, and difference of two fractions that are the same. */
const HELD = 0.3;
const ALIKE = 0.02;
/** Fraction of a number that is rounding. */
const ROUNDING = 1e-9;

/**
 * Compares single ticks: from the game's state after one tick the model drives the next, and what differs then is due to that tick alone. So one fault
 * doesn't hide the next, and no wall is met twice in different manners.
 */
export class TickByTick {
  readonly #side: World;
  readonly #dt: number;
  readonly #width: number;
  /** Rows in which a stage's result is off, and by how much at most. */
  readonly off: Record<Stage, number[]> = { stamina: [], velocity: [], place: [], facing: [] };
  readonly most: Record<Stage, number> = { stamina: 0, velocity: 0, place: 0, facing: 0 };
  readonly ramps: RampSample[] = [];
  readonly steady: SteadySample[] = [];
  readonly stamina: StaminaSample[] = [];
  readonly places: PlaceSample[] = [];
  /** Facings of both by row, degrees; NaN where they are not compared. */
  readonly facings: { game: number; model: number }[] = [{ game: Number.NaN, model: Number.NaN }];
  /** Rows in which the game sprints and the model doesn't, or the other way round. */
  readonly gaits: { row: number; isGame: boolean }[] = [];
  #wasTouching = false;
  #wasOff = false;
  /** True if walls held up one of both more than the other. */
  #wasHeldUp = false;
  /** The row from which both have waited equally long since the last drain, as far as is known. */
  #waitsKnown = 0;
  #hasSprinted = false;
  #quiet = 0;

  constructor(side: World, hz: number) {
    this.#side = side;
    this.#dt = 1 / hz;
    this.#width = 2 * bodyRadius(side.parameters.body);
  }

  setParameters(parameters: Parameters): void {
    this.#side.setParameters(parameters);
  }

  get parameters(): Parameters {
    return this.#side.parameters;
  }

  /** Takes a tick of the game: the rows before and after it. */
  take(before: GameRow, after: GameRow, hands: Hands, row: number): void {
    const side = this.#side;
    const { body } = side;
    this.#correct(before);
    const surface = body.contactSurface;
    const staminaBefore = body.gaitStamina;
    this.#quiet = hands.changed ? 0 : this.#quiet + 1;
    side.tick(hands);
    const isTouching = body.contactCount > 0 || body.boundsHeld === 1;
    const isFree = !isTouching && !this.#wasTouching;
    // Whether it was held up may differ then, too, and so whether it drains.
    const wasStray = this.#wasTouching && (this.#wasOff || this.#wasHeldUp);
    this.#wasTouching = isTouching;
    if (!Number.isNaN(after.stamina)) this.#compareStamina(row, after.stamina - staminaBefore, body.gaitStamina - staminaBefore, wasStray);
    const speedOff = Math.sqrt((after.vx - body.vx) ** 2 + (after.vy - body.vy) ** 2);
    const isPlaceOff = this.#comparePlace(before, after, row, isFree, speedOff);
    const isSpeedOff = speedOff > (isFree ? FREE_SPEED : TOUCHING_SPEED) * this.#fastest;
    // An edge that holds the model elsewhere gives it another velocity, too.
    if (isSpeedOff && !(isPlaceOff && body.boundsHeld === 1)) this.#note('velocity', row, speedOff);
    if (isFree && body.routeActive === BY_HANDS) this.#sampleRamp(before, after, row, surface);
    this.#compareFacing(after, row, isFree && !isSpeedOff);
    const [game, model] = [this.#headway(before, after), this.#headway(before, body)];
    this.#wasHeldUp = Math.min(game, model) < HELD && Math.abs(game - model) > ALIKE;
    this.#wasOff = isPlaceOff || speedOff > FREE_SPEED * this.#fastest;
    if (body.gaitSprinting === 1) this.#hasSprinted = true;
    // In the tick in which the game runs empty, it has ended the sprint already.
    if (!Number.isNaN(after.gait) && !(after.stamina <= 0) && (after.gait === SPRINTING) !== (body.gaitIndex === SPRINTING))
      this.gaits.push({ row, isGame: after.gait === SPRINTING });
  }

  /** Puts the model where the game is, unless it is there already. */
  #correct({ x, y, vx, vy, facing, stamina }: GameRow): void {
    const { body } = this.#side;
    const near = (a: number, b: number) => Math.abs(a - b) <= ROUNDING * Math.max(1, Math.abs(a));
    const own = { facing: body.facingAngle, stamina: body.gaitStamina };
    const goal = {
      facing: Number.isNaN(facing) || near(facing, own.facing) ? own.facing : facing,
      stamina: Number.isNaN(stamina) || near(stamina, own.stamina) ? own.stamina : stamina,
    };
    const isThere = near(x, body.x) && near(y, body.y) && near(vx, body.vx) && near(vy, body.vy);
    if (isThere && goal.facing === own.facing && goal.stamina === own.stamina) return;
    this.#side.correct(isThere ? { x: body.x, y: body.y, vx: body.vx, vy: body.vy, ...goal } : { x, y, vx, vy, ...goal });
  }

  /** The fraction of the wanted displacement that was covered from one place to another. */
  #headway(from: { x: number; y: number }, to: { x: number; y: number }): number {
    const { velocityDx, velocityDy } = this.#side.body;
    const wanted = Math.max(ROUNDING, Math.sqrt(velocityDx ** 2 + velocityDy ** 2));
    return Math.sqrt((to.x - from.x) ** 2 + (to.y - from.y) ** 2) / wanted;
  }

  #note(stage: Stage, row: number, by: number): void {
    this.off[stage].push(row);
    this.most[stage] = Math.max(this.most[stage], by);
  }

  /** `isStray`: walls may have held up one of the two alone, which then doesn't drain. */
  #compareStamina(row: number, game: number, model: number, isStray: boolean): void {
    const { stamina } = this.parameters;
    if (!stamina.enabled) return;
    const least = STAMINA * Math.max(stamina.drain, stamina.regain) * this.#dt;
    const isOneStill = Math.abs(game) <= least !== Math.abs(model) <= least;
    if (isStray && isOneStill) this.#waitsKnown = row + Math.ceil(stamina.regainDelay / this.#dt) + 2;
    if (isStray || (isOneStill && row < this.#waitsKnown)) return;
    if (Math.abs(game) > least || Math.abs(model) > least) this.stamina.push({ row, game, model });
    const by = Math.abs(game - model);
    if (by > least) this.#note('stamina', row, by);
  }

  get #fastest(): number {
    const { walkSpeed, sprintSpeed } = this.parameters.pace;
    return Math.max(walkSpeed, sprintSpeed, 1e-6);
  }

  /** Notes how the game changed its velocity, or kept it. */
  #sampleRamp(before: GameRow, after: GameRow, row: number, surface: number): void {
    const { body } = this.#side;
    const fastest = this.#fastest;
    const target = body.gaitSpeed * surface;
    const [aimX, aimY] = [body.routeWishX * target, body.routeWishY * target];
    const [changeX, changeY] = [after.vx - before.vx, after.vy - before.vy];
    const change = Math.sqrt(changeX ** 2 + changeY ** 2);
    const [leftX, leftY] = [aimX - before.vx, aimY - before.vy];
    const left = Math.sqrt(leftX ** 2 + leftY ** 2);
    const aim = Math.sqrt(aimX ** 2 + aimY ** 2);
    if (change < STEADY * fastest) {
      const speed = Math.sqrt(after.vx ** 2 + after.vy ** 2);
      if (aim > 0 && speed > 0 && this.#quiet >= SETTLED) {
        const kind = body.gaitSprinting === 1 ? 'sprint' : this.#hasSprinted ? 'walkAfterSprint' : 'walk';
        // On another surface the steady speed is another one.
        this.steady.push({ row, kind, speed: speed / surface, aim: aim / surface });
      }
      return;
    }
    const hasArrived = Math.sqrt((after.vx - aimX) ** 2 + (after.vy - aimY) ** 2) < STEADY * fastest;
    if (hasArrived || changeX * leftX + changeY * leftY <= 0) return;
    const phase: Phase =
      aim === 0
        ? 'decelerate'
        : before.vx * aimX + before.vy * aimY < 0
          ? 'brake'
          : Math.sqrt(before.vx ** 2 + before.vy ** 2) > aim * (1 + ROUNDING)
            ? 'ease'
            : 'accelerate';
    this.ramps.push({ row, phase, rate: change / this.#dt, share: change / left });
  }

  #comparePlace(before: GameRow, after: GameRow, row: number, isFree: boolean, speedOff: number): boolean {
    const { body } = this.#side;
    const by = Math.sqrt((after.x - body.x) ** 2 + (after.y - body.y) ** 2);
    // A velocity that is off takes the place along; an edge holds the body whatever its velocity.
    const along = body.boundsHeld === 1 ? 0 : speedOff * this.#dt;
    if (by <= along + (isFree ? FREE_PLACE : TOUCHING_PLACE) * this.#width) return false;
    this.#note('place', row, by);
    const gone = Math.sqrt((after.x - before.x) ** 2 + (after.y - before.y) ** 2);
    const over = (vx: number, vy: number) => gone / Math.max(ROUNDING, Math.sqrt(vx ** 2 + vy ** 2) * this.#dt);
    this.places.push({
      row,
      by: Math.max(Math.abs(after.x - body.x), Math.abs(after.y - body.y)),
      atEdge: body.boundsHeld === 1,
      atWall: body.contactCount > 0,
      game: this.#headway(before, after),
      model: this.#headway(before, body),
      mean: over((before.vx + after.vx) / 2, (before.vy + after.vy) / 2),
      before: over(before.vx, before.vy),
    });
    return true;
  }

  #compareFacing(after: GameRow, row: number, isFree: boolean): void {
    const model = inDegrees(this.#side.body.facingAngle);
    const game = isFree && !Number.isNaN(after.facing) ? inDegrees(after.facing) : Number.NaN;
    this.facings.push({ game, model });
    const by = Math.abs(turnTo(model, game));
    if (by > DEGREES) this.#note('facing', row, by);
  }
}
