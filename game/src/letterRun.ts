import { type HandsEvent, ZygopodLink } from '@zygopod/code/link';
import { Carrier, type Fault, firstNumbers, type Numbers } from './carrier.ts';
import type { Town } from './town.ts';

/** Keys by the names that tapes have for them. */
export const keys = ['up', 'down', 'left', 'right', 'sprint'] as const;
export type Key = (typeof keys)[number];

/** Ten letter boxes. */
export const boxes: readonly (readonly [number, number])[] = [
  [260, 170],
  [380, 160],
  [300, 290],
  [488, 310],
  [560, 60],
  [690, 70],
  [800, 240],
  [1010, 210],
  [680, 350],
  [560, 470],
];
const NEAR = 26;

/** The parameters of Zygopod's catalogue that the game knows by name. Others are matched there. */
const paths: Partial<Record<keyof Numbers, string>> = {
  walk_speed: 'pace.walkSpeed',
  dash_speed: 'pace.sprintSpeed',
  accel: 'ramp.accelerate',
  friction: 'ramp.decelerate',
  turn_brake: 'ramp.brake',
  dash_ease: 'ramp.ease',
  wait_s: 'stamina.regainDelay',
};

const columns = ['tick', 'x', 'y', 'vx', 'vy', 'facing', 'gait', 'stamina'];

export interface RunOptions {
  address?: string;
  token?: string;
  hz?: number;
  build?: string;
  faults?: readonly Fault[];
}

/** A tick as the link has it. */
export interface Reported {
  row: number[];
  hands: HandsEvent[];
}

/** The game: a carrier who brings ten letters, and its link to Zygopod. */
export class LetterRun {
  readonly town: Town;
  readonly carrier: Carrier;
  readonly link: ZygopodLink;
  readonly hz: number;
  tick = 0;
  /** Letters that are still to be delivered, by box. */
  readonly left = new Set(boxes.keys());
  isPaused = false;
  #steps = 0;
  /** Order of the presses of keys that are down. */
  readonly #down = new Map<Key, number>();
  #presses = 0;
  #changes: Omit<HandsEvent, 'at'>[] = [];
  /** Hands that are replayed, and the tick in which they began. */
  #tape: { hands: readonly HandsEvent[]; next: number; began: number; ticks: number } | null = null;

  constructor(town: Town, { address, token, hz = 60, build = '88', faults: on = [] }: RunOptions = {}) {
    this.town = town;
    this.hz = hz;
    this.carrier = new Carrier(town);
    for (const fault of on) this.carrier.faults.add(fault);
    this.link = new ZygopodLink({
      game: 'Letter run',
      build,
      hz,
      columns,
      ...(address === undefined ? {} : { address }),
      ...(token === undefined ? {} : { token }),
    });
    this.#register();
  }

  /** Tells the link which numbers there are, and what can be requested. */
  #register(): void {
    const { carrier, link } = this;
    for (const name of Object.keys(firstNumbers) as (keyof Numbers)[]) {
      const path = paths[name];
      link.watch(name, {
        ...(path === undefined ? {} : { path }),
        min: 0,
        get: () => carrier.numbers[name],
        set: (value) => {
          if (typeof value !== 'number' || !(value >= 0)) return `${name} takes a number from 0 on`;
          carrier.numbers[name] = value;
          return undefined;
        },
      });
    }
    link
      .on('restart', () => this.restart())
      .on('place', ({ x = 0, y = 0 }) => {
        if (x < 0 || y < 0 || x > this.town.width || y > this.town.height) return 'outside of the town';
        carrier.put(x, y);
        return undefined;
      })
      .on('pause', ({ type }) => {
        this.isPaused = type !== 'run';
        if (type === 'step') this.#steps++;
        return undefined;
      })
      .on('tape', ({ hands = [], ticks = 0 }) => {
        this.#letGo();
        this.#tape = { hands, next: 0, began: this.tick, ticks };
        return undefined;
      });
  }

  restart(): undefined {
    this.carrier.reset();
    for (const box of boxes.keys()) this.left.add(box);
    return undefined;
  }

  /** True while hands are replayed: the player's own don't count. */
  get isReplaying(): boolean {
    return this.#tape !== null;
  }

  press(key: Key): void {
    if (this.#tape === null) this.#change({ press: key });
  }

  release(key: Key): void {
    if (this.#tape === null) this.#change({ release: key });
  }

  #change(event: Omit<HandsEvent, 'at'>): void {
    const { press, release } = event;
    if (press !== undefined && (!keys.includes(press as Key) || this.#down.has(press as Key))) return;
    if (press !== undefined) this.#down.set(press as Key, ++this.#presses);
    if (release !== undefined && !this.#down.delete(release as Key)) return;
    this.#changes.push(event);
  }

  /** Lets go of all keys. */
  #letGo(): void {
    for (const key of [...this.#down.keys()]) this.#change({ release: key });
  }

  /** −1, 0 or 1: of two opposite keys the newest counts. */
  #axis(back: Key, on: Key): -1 | 0 | 1 {
    const [b, o] = [this.#down.get(back) ?? 0, this.#down.get(on) ?? 0];
    return b === o ? 0 : b > o ? -1 : 1;
  }

  /** One tick of `dt` seconds, fixed unless the game steps with its frames. Returns what it reports of it; null while it is paused. */
  advance(dt = 1 / this.hz): Reported | null {
    if (this.isPaused && this.#steps === 0) return null;
    if (this.#steps > 0) this.#steps--;
    this.#replay();
    const { carrier } = this;
    const pad = {
      x: this.#axis('left', 'right'),
      y: this.#axis('up', 'down'),
      dash: this.#down.has('sprint'),
      dashes: this.#changes.some(({ press }) => press === 'sprint'),
    };
    carrier.step(pad, dt);
    const isGoing = carrier.isMoving || pad.x !== 0 || pad.y !== 0;
    const gait = !isGoing ? 0 : carrier.isDashing ? 2 : carrier.isSpent ? 3 : 1;
    const { x, y, vx, vy, facing, stamina } = carrier;
    const row = [this.tick, x, y, vx, vy, facing, gait, stamina];
    const hands = this.#changes;
    this.link.row(row, hands);
    this.#changes = [];
    for (const [box, [bx, by]] of boxes.entries()) if (Math.hypot(bx - x, by - y) < NEAR) this.left.delete(box);
    const at = this.tick++;
    return { row, hands: hands.map((event) => ({ at, ...event })) };
  }

  #replay(): void {
    const tape = this.#tape;
    if (!tape) return;
    const at = this.tick - tape.began;
    for (let event = tape.hands[tape.next]; event && event.at <= at; event = tape.hands[tape.next]) {
      tape.next++;
      this.#change(event.press === undefined ? (event.release === undefined ? {} : { release: event.release }) : { press: event.press });
    }
    if (at < tape.ticks) return;
    this.#letGo();
    this.#tape = null;
  }
}
