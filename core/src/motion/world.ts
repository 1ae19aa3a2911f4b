import { freePlace } from '../collision/overlap.ts';
import type { Ground } from '../ground/ground.ts';
import { bucketWalls, type WallBuckets, WallIndex } from '../ground/wallIndex.ts';
import { clamp, DEGREE } from '../math/functions.ts';
import type { Mesh } from '../route/mesh.ts';
import { Navigator, navigatorKey } from '../route/navigator.ts';
import type { Hands } from '../tape/hands.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { settleCamera } from './camera.ts';
import { START_MOVED } from './events.ts';
import { forgetDirection } from './facing.ts';
import { forgetHands } from './intent.ts';
import { planAgain } from './route.ts';
import { createState, hashState, loadState, type State, saveState } from './state.ts';
import { type Plan, preparePlan, tick } from './tick.ts';
import { Trace } from './trace.ts';

/** A body with a tuning on a ground, and the trace of what it did. */
export class World {
  readonly state: State = createState();
  readonly trace: Trace;
  #parameters: Parameters;
  #ground: Ground;
  #walls: WallIndex;
  #navigator: Navigator;
  #plan: Plan;
  /** The tick and time from which fixed ticks are counted: the start, or the last change of the tick rate. */
  #epoch = { tick: -1, time: 0 };

  /**
   * @param capacity ticks that the trace holds
   * @param walls the ground's walls, where they have been sorted before
   */
  constructor(
    parameters: Parameters,
    ground: Ground,
    capacity = 60 * 60,
    walls: WallBuckets = bucketWalls(ground, parameters.contact.seams),
  ) {
    this.#parameters = parameters;
    this.#ground = ground;
    this.#walls = new WallIndex(walls);
    this.#navigator = new Navigator(parameters, ground, this.#walls);
    this.#plan = preparePlan(parameters, ground, this.#walls, this.#navigator);
    this.trace = new Trace(capacity + 1);
    this.restart();
  }

  get parameters(): Parameters {
    return this.#parameters;
  }

  get ground(): Ground {
    return this.#ground;
  }

  /** Length of a tick at the tuning's rate, s. */
  get dt(): number {
    return 1 / this.#parameters.clock.hz;
  }

  /** Puts the body back to the ground's start; the trace begins again with the start as its row −1. */
  restart(): void {
    const { state } = this;
    loadState(state, saveState(createState()));
    this.#epoch = { tick: -1, time: 0 };
    const { start } = this.#ground;
    const place = freePlace(this.#plan.contact, start.x, start.y) ?? start;
    if (place !== start && (place.x !== start.x || place.y !== start.y)) state.contact.happened = START_MOVED;
    state.motion.x = place.x;
    state.motion.y = place.y;
    state.facing.angle = (start.facing ?? this.#parameters.facing.start) * DEGREE;
    state.facing.goal = state.facing.angle;
    state.velocity.heading = state.facing.angle;
    state.gait.stamina = this.#parameters.stamina.max;
    settleCamera(state.camera, this.#plan.camera, state.motion);
    this.trace.clear();
    this.trace.write(state);
  }

  /** Another tuning from the next tick on; the motion goes on. A full stamina bar stays full. */
  setParameters(parameters: Parameters): void {
    const { gait, clock } = this.state;
    this.#epoch = { tick: clock.tick, time: clock.time };
    const full = gait.stamina >= this.#parameters.stamina.max;
    const { seams } = parameters.contact;
    if (seams !== this.#parameters.contact.seams) this.#walls = new WallIndex(bucketWalls(this.#ground, seams));
    this.#parameters = parameters;
    this.#refit();
    forgetDirection(this.state.facing);
    forgetHands(this.state.intent);
    gait.stamina = full ? parameters.stamina.max : clamp(gait.stamina, 0, parameters.stamina.max);
  }

  /** Another ground; the body starts on it. */
  setGround(ground: Ground, walls: WallBuckets = bucketWalls(ground, this.#parameters.contact.seams)): void {
    this.changeGround(ground, walls);
    this.restart();
  }

  /** The ground is changed under the body, which stays where it is; a wall put over it pushes it out. */
  changeGround(ground: Ground, walls: WallBuckets = bucketWalls(ground, this.#parameters.contact.seams)): void {
    this.#ground = ground;
    this.#walls = new WallIndex(walls);
    this.#navigator = new Navigator(this.#parameters, ground, this.#walls);
    this.#refit();
    planAgain(this.state.route, this.#plan.route, this.state.motion);
  }

  /** Prepares the stages anew. A way under way is planned again when what it was planned for has changed. */
  #refit(): void {
    const known = this.#navigator.key === navigatorKey(this.#parameters, this.#ground);
    if (!known) this.#navigator = new Navigator(this.#parameters, this.#ground, this.#walls);
    this.#plan = preparePlan(this.#parameters, this.#ground, this.#walls, this.#navigator);
    if (!known) planAgain(this.state.route, this.#plan.route, this.state.motion);
  }

  /** Plans ways for the present tuning and ground. */
  get navigator(): Navigator {
    return this.#navigator;
  }

  /** Hands over a mesh that was made in a worker for a navigator; when that is not in use any more, it is not taken. */
  takeMesh(navigator: Navigator, mesh: Mesh): void {
    if (navigator === this.#navigator) navigator.take(mesh);
  }

  /** The walls by place, for whoever looks for some. */
  get walls(): WallIndex {
    return this.#walls;
  }

  /** One tick. `dt` differs from the tuning's only where the stepping is per frame. */
  tick(hands: Hands, dt = this.dt): void {
    this.state.clock.dt = dt;
    tick(this.state, this.#plan, hands);
    // At a fixed rate the time is a quotient, not a sum, so that it does not drift.
    const { clock } = this.state;
    if (this.#plan.fixed) clock.time = this.#epoch.time + (clock.tick - this.#epoch.tick) / this.#plan.hz;
    this.trace.write(this.state);
  }

  /** All numbers of the present state, for `restore`. */
  save(): Float64Array {
    return saveState(this.state);
  }

  restore(saved: Float64Array): void {
    loadState(this.state, saved);
    forgetHands(this.state.intent);
    this.#epoch = { tick: this.state.clock.tick, time: this.state.clock.time };
  }

  hash(): string {
    return hashState(this.state);
  }
}
