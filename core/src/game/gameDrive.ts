import type { Ground } from '../ground/ground.ts';
import { Body } from '../motion/body.ts';
import { STAND, WALK } from '../motion/codes.ts';
import { Trace } from '../motion/trace.ts';
import { World } from '../motion/world.ts';
import { applyEvent, beginTick, type Hands, newHands } from '../tape/hands.ts';
import { holdingOf } from '../tape/held.ts';
import { type Tape, type TapeEvent, tapeOf } from '../tape/tape.ts';
import { bodyRadius } from '../tuning/body.ts';
import type { Parameters } from '../tuning/catalogue/catalogue.ts';
import { type GameRow, type GameScale, type GameTerms, rowReader } from './gameRows.ts';
import { TickByTick } from './tickByTick.ts';

/** A tuning that is in force from a tick on. */
export interface InForce {
  from: number;
  parameters: Parameters;
}

/** Seconds of a drive that are compared: the last ten minutes. */
const LONGEST = 600;

/** A tick in which a body moves further than this multiple of its highest speed, and than its own width, was no motion: the game has put it there. */
const JUMP = 4;

interface Setting {
  ground: Ground;
  /** Tunings by the ticks from which they are in force, the earliest first. */
  tunings: readonly InForce[];
  scale: GameScale;
}

/**
 * A game's drive beside the model's on the same hands and ground. A drive begins with the first row, where the game puts its body elsewhere, and where
 * ticks are missing; there the model takes the game's state, and from then on only its hands. The traces of both have the same rows.
 */
export class GameDrive {
  readonly #terms: GameTerms;
  readonly #ground: Ground;
  #tunings: readonly InForce[];
  readonly #read: (row: readonly number[]) => GameRow;
  /** Rows of the drive, and events of the hands that are still to be applied. */
  #rows: GameRow[] = [];
  #events: TapeEvent[] = [];
  /** Hands before the drive's first tick. */
  #hands: Hands = newHands();
  /** Hands of the next tick that the model drives. */
  #next: Hands = newHands();
  #event = 0;
  #done = 0;
  #world: World | null = null;
  #walls: World | null = null;
  #game: Trace;
  #body = new Body();
  #tickByTick: TickByTick | null = null;
  /** Grows with each new drive. */
  drives = 0;

  constructor(terms: GameTerms, { ground, tunings, scale }: Setting) {
    this.#terms = terms;
    this.#ground = ground;
    this.#tunings = tunings;
    this.#read = rowReader(terms, scale);
    this.#game = new Trace(1);
  }

  /** Takes rows with rising ticks, and the events of the hands in them. */
  add(rows: readonly (readonly number[])[], hands: readonly TapeEvent[]): void {
    let event = 0;
    for (const values of rows) {
      const row = this.#read(values);
      const last = this.#rows.at(-1);
      const events: TapeEvent[] = [];
      for (; event < hands.length && (hands[event] as TapeEvent).at <= row.tick; event++) events.push(hands[event] as TapeEvent);
      if (!last || row.tick !== last.tick + 1 || this.#hasJumped(last, row) || this.#rows.length > LONGEST * this.#terms.hz)
        this.#begin(row, events);
      else {
        this.#rows.push(row);
        this.#events.push(...events);
      }
    }
  }

  #hasJumped(from: GameRow, to: GameRow): boolean {
    const { pace, body, bounds } = this.#parametersAt(to.tick);
    if (bounds.policy === 'wrap' || bounds.policy === 'sendTo') return false;
    const fastest = Math.max(pace.walkSpeed, pace.sprintSpeed, Math.sqrt(to.vx ** 2 + to.vy ** 2));
    const width = 2 * bodyRadius(body);
    return Math.sqrt((to.x - from.x) ** 2 + (to.y - from.y) ** 2) > (JUMP * fastest) / this.#terms.hz + width;
  }

  /** Begins a drive with a row: the hands are as they are after its events. */
  #begin(row: GameRow, events: readonly TapeEvent[]): void {
    for (const event of [...this.#events, ...events]) applyEvent(this.#hands, event);
    this.#rows = [row];
    this.#events = [];
    this.drives++;
    this.restart();
  }

  /** Begins the comparison anew with the drive's newest row. */
  layAgain(): void {
    const last = this.#rows.at(-1);
    if (last) this.#begin(last, []);
  }

  /** Drives the model again from the drive's beginning. */
  restart(): void {
    const [first] = this.#rows;
    if (!first) return;
    const ground = this.#ground;
    const parameters = this.#parametersAt(first.tick);
    const capacity = LONGEST * this.#terms.hz + 2;
    const isKnown = this.#walls?.parameters.contact.seams === parameters.contact.seams;
    const known = isKnown ? (this.#walls as World) : null;
    const world = new World(parameters, ground, capacity, known?.walls);
    if (known) world.takeNavigator(known.navigator);
    const side = new World(parameters, ground, 1, world.walls);
    side.takeNavigator(world.navigator);
    this.#walls = world;
    for (const one of [world, side]) takeUp(one, first);
    this.#world = world;
    this.#tickByTick = new TickByTick(side, this.#terms.hz);
    this.#game = new Trace(capacity);
    this.#body = new Body();
    this.#next = { ...this.#hands, held: this.#hands.held.slice(), order: this.#hands.order.slice() };
    this.#event = 0;
    this.#done = 1;
    this.#write(first, world, 0);
  }

  /** Puts other tunings in force; the model drives again unless only later ticks are affected. */
  retune(tunings: readonly InForce[]): void {
    const driven = (all: readonly InForce[]) => all.filter(({ from }, i) => i === 0 || from < this.tickOf(this.#done));
    const [old, now] = [driven(this.#tunings), driven(tunings)];
    this.#tunings = tunings;
    const isSame =
      old.length === now.length && old.every(({ from, parameters }, i) => now[i]?.from === from && now[i]?.parameters === parameters);
    if (!isSame) this.restart();
  }

  #parametersAt(tick: number): Parameters {
    const tunings = this.#tunings;
    const found = tunings.findLast(({ from }) => from <= tick) ?? tunings[0];
    if (!found) throw new Error('no tuning is in force');
    const { parameters } = found;
    return parameters.clock.hz === this.#terms.hz ? parameters : this.#atRate(parameters);
  }

  readonly #rated = new Map<Parameters, Parameters>();
  #atRate(parameters: Parameters): Parameters {
    const known = this.#rated.get(parameters) ?? { ...parameters, clock: { ...parameters.clock, hz: this.#terms.hz } };
    this.#rated.set(parameters, known);
    return known;
  }

  /** Drives the model on, for so many ticks at most; returns true once it is where the game is. */
  run(most: number): boolean {
    const world = this.#world;
    if (!world) return true;
    const end = Math.min(this.#rows.length, this.#done + most);
    for (; this.#done < end; this.#done++) {
      const row = this.#rows[this.#done] as GameRow;
      const parameters = this.#parametersAt(row.tick);
      if (parameters !== world.parameters) {
        world.setParameters(parameters);
        this.#tickByTick?.setParameters(parameters);
      }
      beginTick(this.#next);
      for (; this.#event < this.#events.length && (this.#events[this.#event] as TapeEvent).at <= row.tick; this.#event++)
        applyEvent(this.#next, this.#events[this.#event] as TapeEvent);
      world.tick(this.#next);
      this.#tickByTick?.take(this.#rows[this.#done - 1] as GameRow, row, this.#next, this.#done);
      this.#write(row, world, this.#done);
    }
    return this.isWhole;
  }

  get isWhole(): boolean {
    return this.#done >= this.#rows.length;
  }

  /** Writes a row of the game's trace; what the hands ask for is the model's. */
  #write(row: GameRow, { trace, body: model }: World, at: number): void {
    const body = this.#body;
    Object.assign(body, model);
    body.clockTick = trace.at('tick', at);
    body.clockTime = trace.at('time', at);
    body.x = row.x;
    body.y = row.y;
    body.vx = row.vx;
    body.vy = row.vy;
    if (!Number.isNaN(row.facing)) body.facingAngle = row.facing;
    if (!Number.isNaN(row.stamina)) body.gaitStamina = row.stamina;
    if (!Number.isNaN(row.gait)) body.gaitIndex = row.gait;
    else if (body.gaitIndex === STAND && (row.vx !== 0 || row.vy !== 0)) body.gaitIndex = WALK;
    body.contactCount = 0;
    body.boundsHeld = 0;
    body.happened = 0;
    this.#game.write(body);
  }

  /** The trace of the game, row by row with the model's. */
  get game(): Trace {
    return this.#game;
  }

  /** The trace of the model; null before the first row. */
  get model(): Trace | null {
    return this.#world?.trace ?? null;
  }

  /** The tuning that is in force now, at the game's rate. */
  get parameters(): Parameters {
    return this.#parametersAt(Number.POSITIVE_INFINITY);
  }

  /** The comparison tick by tick; null before the first row. */
  get ticks(): TickByTick | null {
    return this.#tickByTick;
  }

  /** The game's tick of a row of the traces. */
  tickOf(row: number): number {
    return (this.#rows[0]?.tick ?? 0) + row;
  }

  /** The first and the newest tick of the drive. */
  get span(): { from: number; to: number } {
    return { from: this.tickOf(0), to: this.tickOf(Math.max(0, this.#rows.length - 1)) };
  }

  /** The drive as a tape that begins with the game's state; null if there is no tick. */
  tape(name: string): Tape | null {
    const [first] = this.#rows;
    const ticks = this.#rows.length - 1;
    if (!first || ticks < 1) return null;
    const parameters = this.#parametersAt(first.tick);
    const ground = this.#ground;
    const world = new World(parameters, ground, 1, this.#walls?.walls);
    takeUp(world, first);
    return tapeOf({
      name,
      ground: ground.name,
      scheme: parameters.scheme,
      hz: this.#terms.hz,
      ticks,
      snapshot: world.snapshot(holdingOf(this.#hands) ?? {}),
      events: this.#events.map((event) => ({ ...event, at: event.at - first.tick - 1 })),
    });
  }
}

/** Places the model where the game is. */
function takeUp(world: World, { x, y, vx, vy, facing, stamina }: GameRow): void {
  const { body } = world;
  world.correct({
    x,
    y,
    vx,
    vy,
    facing: Number.isNaN(facing) ? body.facingAngle : facing,
    stamina: Number.isNaN(stamina) ? body.gaitStamina : stamina,
  });
  world.beginTrace();
}
