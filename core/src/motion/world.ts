import { unsettle } from '../collision/calm.ts';
import { freePlace } from '../collision/freePlace.ts';
import type { Ground } from '../ground/ground.ts';
import { bucketWalls, type WallBuckets, WallIndex } from '../ground/wallIndex.ts';
import type { Mesh } from '../route/mesh.ts';
import { Navigator, navigatorKey } from '../route/navigator.ts';
import type { Hands } from '../tape/hands.ts';
import type { HeldHands } from '../tape/held.ts';
import type { TapeSnapshot } from '../tape/tape.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { type Body, createBody, hashBody, hashText, loadBody, loadNamed, nameBody, saveBody } from './body.ts';
import { settleCamera } from './camera.ts';
import { beginEpoch, setFrame } from './clock.ts';
import { START_MOVED } from './events.ts';
import { faceAtStart, forgetDirection } from './facing.ts';
import { setStamina, startGait, takeOverGait } from './gait.ts';
import { type Plan, preparePlan } from './plan.ts';
import { planAgain } from './routePlanning.ts';
import { placeAtStart } from './start.ts';
import { tick } from './tick.ts';
import { Trace, type TraceRooms } from './trace.ts';

/** A key of a tuning: equal for tunings with the same motion. */
function tuningKey(parameters: Parameters): string {
  const known = keys.get(parameters) ?? hashText(JSON.stringify(parameters));
  keys.set(parameters, known);
  return known;
}
const keys = new WeakMap<Parameters, string>();

/** The numbers of a state that show outside. */
export type Observed = Pick<Body, 'x' | 'y' | 'vx' | 'vy'> & {
  stamina: number;
  /** Radians. */
  facing: number;
};

/** The state at the start of every run. */
const START = /* @__PURE__ */ saveBody(/* @__PURE__ */ createBody());

/** A body with a tuning on a ground, and the trace of what it did. */
export class World {
  readonly #body: Body = createBody();
  readonly trace: Trace;
  #parameters: Parameters;
  #ground: Ground;
  #walls: WallIndex;
  #navigator: Navigator;
  #plan: Plan;
  /** True if the hands must be read again: the tuning or the state was changed from outside. */
  #strange = true;

  /**
   * @param capacity ticks that the trace holds
   * @param walls the ground's walls, if they were sorted or indexed before; an index can serve many worlds
   * @param rooms where the trace finds room, if it is to take none of its own
   */
  constructor(
    parameters: Parameters,
    ground: Ground,
    capacity = 60 * 60,
    walls: WallBuckets | WallIndex = bucketWalls(ground, parameters.contact.seams),
    rooms: TraceRooms | null = null,
  ) {
    this.#parameters = parameters;
    this.#ground = ground;
    this.#walls = walls instanceof WallIndex ? walls : new WallIndex(walls);
    this.#navigator = new Navigator(parameters, ground, this.#walls);
    this.#plan = preparePlan(parameters, ground, this.#walls, this.#navigator);
    this.trace = new Trace(capacity + 1, rooms?.take(capacity + 1));
    this.#start();
  }

  /** The present state, read-only. */
  get body(): Readonly<Body> {
    return this.#body;
  }

  get parameters(): Parameters {
    return this.#parameters;
  }

  get ground(): Ground {
    return this.#ground;
  }

  /** Length of a tick at the tuning's rate, s. */
  get dt(): number {
    return this.#plan.clock.dt;
  }

  /** Returns the body to the ground's start; the trace restarts with the start as its row −1. */
  restart(): void {
    loadBody(this.#body, START);
    this.trace.clear();
    this.#start();
  }

  /** Places a reset body at the start. */
  #start(): void {
    const body = this.#body;
    this.#strange = true;
    unsettle(this.#plan.contact.calm);
    const { start } = this.#ground;
    const place = freePlace(this.#plan.contact.body, start.x, start.y) ?? start;
    if (place.x !== start.x || place.y !== start.y) body.happened = START_MOVED;
    placeAtStart(body, place.x, place.y, start.facing ?? this.#parameters.facing.start);
    startGait(body, this.#plan.gait);
    settleCamera(body, this.#plan.camera);
    setFrame(body, this.dt);
    this.trace.write(body);
  }

  /** Applies another tuning from the next tick on; the motion continues. A full stamina bar stays full. */
  setParameters(parameters: Parameters): void {
    const body = this.#body;
    beginEpoch(body);
    const full = body.gaitStamina >= this.#parameters.stamina.max;
    const { seams } = parameters.contact;
    if (seams !== this.#parameters.contact.seams) this.#walls = new WallIndex(bucketWalls(this.#ground, seams));
    this.#parameters = parameters;
    this.#refit();
    this.#takeOver(full);
  }

  /** Adapts the motion to a tuning that it was not driven with. */
  #takeOver(full: boolean): void {
    const body = this.#body;
    setFrame(body, this.dt);
    forgetDirection(body);
    takeOverGait(body, this.#plan.gait, full);
  }

  /** Replaces the ground; the body starts on it. */
  setGround(ground: Ground, walls: WallBuckets = bucketWalls(ground, this.#parameters.contact.seams)): void {
    this.changeGround(ground, walls);
    this.restart();
  }

  /** Replaces the ground under the body, which stays in place; if a wall now covers it, it moves to the nearest free place. */
  changeGround(ground: Ground, walls: WallBuckets = bucketWalls(ground, this.#parameters.contact.seams)): void {
    this.#ground = ground;
    this.#walls = new WallIndex(walls);
    this.#navigator = new Navigator(this.#parameters, ground, this.#walls);
    this.#refit();
    planAgain(this.#body, this.#plan.route);
  }

  /** Prepares the stages again. A current path is planned again if its settings have changed. */
  #refit(): void {
    this.#strange = true;
    const known = this.#navigator.key === navigatorKey(this.#parameters);
    if (!known) this.#navigator = new Navigator(this.#parameters, this.#ground, this.#walls);
    this.#plan = preparePlan(this.#parameters, this.#ground, this.#walls, this.#navigator);
    if (!known) planAgain(this.#body, this.#plan.route);
  }

  /** Plans paths for the present tuning and ground. */
  get navigator(): Navigator {
    return this.#navigator;
  }

  /** Adopts a mesh built in a worker for a navigator; ignored if that is no longer in use. */
  takeMesh(navigator: Navigator, mesh: Mesh): void {
    if (navigator === this.#navigator) navigator.take(mesh);
  }

  /** Adopts the mesh of another world on the same ground, if it fits this tuning. */
  takeNavigator(other: Navigator): void {
    if (other.ready && other.key === this.#navigator.key) this.#navigator.take(other.mesh);
  }

  /** The index of walls, for searches by place. */
  get walls(): WallIndex {
    return this.#walls;
  }

  /** Advances one tick. */
  tick(hands: Hands): void {
    if (this.#strange) this.#meet(hands);
    tick(this.#body, this.#plan, hands);
    this.trace.write(this.#body);
  }

  /** Advances one tick of `dt` seconds if the stepping is per frame; else a normal tick. */
  tickFrame(hands: Hands, dt: number): void {
    setFrame(this.#body, dt);
    this.tick(hands);
  }

  /** Advances ticks at the tuning's rate with constant hands: their events count in the first one alone. */
  run(hands: Hands, ticks: number): void {
    if (ticks <= 0) return;
    this.tick(hands);
    hands.changed = false;
    hands.pressed = 0;
    hands.swipe = 0;
    const body = this.#body;
    const plan = this.#plan;
    const { trace } = this;
    for (let i = 1; i < ticks; i++) {
      tick(body, plan, hands);
      trace.write(body);
    }
  }

  /** Reads hands that the stages don't know yet, with or without events. */
  #meet(hands: Hands): void {
    hands.changed = true;
    this.#strange = false;
  }

  /** Overwrites what can be observed of the state, as where a game is and what it does: length in the ground's unit, angles in radians. */
  correct({ x, y, vx, vy, stamina, facing }: Observed): void {
    const body = this.#body;
    this.#strange = true;
    unsettle(this.#plan.contact.calm);
    body.x = x;
    body.y = y;
    body.vx = vx;
    body.vy = vy;
    if (stamina !== body.gaitStamina) setStamina(body, this.#plan.gait, stamina);
    if (facing !== body.facingAngle) faceAtStart(body, facing);
  }

  /** Begins the trace with the state as it is. */
  beginTrace(): void {
    this.trace.clear();
    this.trace.write(this.#body);
  }

  /** All numbers of the present state, for `restore`. */
  save(): Float64Array {
    return saveBody(this.#body);
  }

  /** Restores a `save` result; from there everything continues as before. */
  restore(saved: ArrayLike<number>): void {
    loadBody(this.#body, saved);
    this.#strange = true;
    unsettle(this.#plan.contact.calm);
  }

  /** The present state for a tape that starts here. */
  snapshot(hands: HeldHands): TapeSnapshot {
    const full = this.#body.gaitStamina >= this.#parameters.stamina.max;
    return { hands, body: nameBody(this.#body), tuning: tuningKey(this.#parameters), ...(full ? { full } : {}) };
  }

  /**
   * Resumes from a tape's start, where the trace starts, too: bit for bit with the tape's tuning; any other one takes over the motion as in
   * `setParameters`. A tape without a body starts at the ground's start. Returns the numbers unknown to this core: a tape of another one then starts
   * only approximately.
   */
  resume({ body: named, tuning, full = false }: TapeSnapshot): string[] {
    if (!named) {
      this.restart();
      return [];
    }
    const body = this.#body;
    const unknown = loadNamed(body, named);
    this.#strange = true;
    unsettle(this.#plan.contact.calm);
    if (tuning !== tuningKey(this.#parameters)) {
      planAgain(body, this.#plan.route);
      this.#takeOver(full);
    }
    this.trace.clear();
    this.trace.write(body);
    return unknown;
  }

  hash(): string {
    return hashBody(this.#body);
  }
}
