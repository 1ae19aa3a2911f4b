import type { AddressInfo } from 'node:net';
import { connect, createServer, type Socket } from 'node:net';
import { setTimeout as pause } from 'node:timers/promises';
import { ZygopodLink } from '@zygopod/code/link';
import { memoryOf } from './clients.ts';
import { Dice } from './dice.ts';
import { atLeast, type Figure, none, quantile, unbounded, under } from './figures.ts';
import { type Stand, until } from './stand.ts';

const GAMES = 10;
const HZ = 144;
/** Milliseconds between two requests to set a number, and between two drops of connections, on average. */
const SET_EVERY = 100;
const DROP_EVERY = 250;

/** A proxy before the server that drops connections. */
class Dropper {
  readonly #open = new Set<Socket>();
  readonly #server;
  drops = 0;

  constructor(port: number) {
    this.#server = createServer((game) => {
      const server = connect(port, '127.0.0.1');
      this.#open.add(game);
      for (const [one, other] of [
        [game, server],
        [server, game],
      ] as const) {
        one.on('error', () => other.destroy());
        one.on('close', () => other.destroy());
        one.pipe(other);
      }
      game.on('close', () => this.#open.delete(game));
    });
  }

  async listen(): Promise<number> {
    await new Promise<void>((listens) => this.#server.listen(0, '127.0.0.1', listens));
    return (this.#server.address() as AddressInfo).port;
  }

  drop(dice: Dice): void {
    const all = [...this.#open];
    if (all.length === 0) return;
    const one = dice.one(all);
    this.drops++;
    one.resetAndDestroy();
  }

  close(): void {
    this.#server.close();
    for (const socket of this.#open) socket.destroy();
  }
}

/** A game that ticks, and a page that watches it. */
class Played {
  readonly name: string;
  readonly link: ZygopodLink;
  tick = 0;
  /** When each tick was reported, and each of its values taken, ms. */
  readonly reported: number[] = [];
  readonly taken = new Map<number, number>();
  readonly delays: number[] = [];
  readonly #over = new AbortController();

  constructor(name: string, port: number) {
    this.name = name;
    this.link = new ZygopodLink({
      game: name,
      hz: HZ,
      columns: ['tick', 'x', 'y', 'vx', 'vy', 'facing'],
      address: `ws://127.0.0.1:${port}/api/v1/link`,
    })
      .watch('walk_speed', {
        get: () => 140,
        set: (value) => {
          this.taken.set(Number(value), performance.now());
          return undefined;
        },
      })
      .open();
  }

  advance(): void {
    const at = this.tick++;
    this.reported[at] = performance.now();
    this.link.row([at, at * 0.5, -at, 1, 2, 45], at % 40 === 0 ? [{ press: 'up' }] : []);
  }

  /** Watches it as a page does. */
  async watch(address: string, id: string): Promise<void> {
    const response = await fetch(`${address}/api/v1/links/${id}/events`, { signal: this.#over.signal });
    let text = '';
    for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>) {
      const now = performance.now();
      text += Buffer.from(chunk).toString();
      const events = text.split('\n\n');
      text = events.pop() ?? '';
      for (const event of events) {
        if (!event.startsWith('event: rows')) continue;
        const { rows } = JSON.parse(event.slice(event.indexOf('data: ') + 6)) as { rows: number[][] };
        for (const [tick] of rows) this.delays.push(now - (this.reported[tick as number] ?? now));
      }
    }
  }

  close(): void {
    this.#over.abort();
    this.link.close();
  }
}

/** Ten games of 144 Hz that pages watch, half of them over connections that are dropped: how late pages hear, what is lost, whether memory grows. */
export async function games(stand: Stand, minutes: number, seed: number): Promise<Figure[]> {
  const dice = new Dice(seed);
  const dropper = new Dropper(stand.port);
  const through = await dropper.listen();
  const played = Array.from({ length: GAMES }, (_, i) => new Played(`Siege ${seed} ${i}`, i % 2 === 0 ? stand.port : through));
  const steady = played.filter((_, i) => i % 2 === 0);
  const listed = async () =>
    (
      (await (await fetch(`${stand.address}/api/v1/links`)).json()) as {
        items: { id: string; game: string; next: number; isLinked: boolean }[];
      }
    ).items;
  const sets: number[] = [];
  const memory: { share: number; megabytes: number }[] = [];
  try {
    await until(
      async () => (await listed()).filter(({ game, isLinked }) => isLinked && game.startsWith(`Siege ${seed} `)).length === GAMES,
      'the games',
    );
    const ids = new Map((await listed()).map(({ id, game }) => [game, id]));
    for (const one of played) void one.watch(stand.address, ids.get(one.name) as string).catch(() => undefined);
    const begun = performance.now();
    const length = minutes * 60_000;
    let [nextSet, nextDrop, nextLook, value] = [begun, begun, begun, 1];
    for (let now = begun; now - begun < length; now = performance.now()) {
      const due = Math.floor(((now - begun) / 1000) * HZ);
      for (const one of played) while (one.tick < due) one.advance();
      if (now >= nextSet) {
        nextSet = now + SET_EVERY;
        const one = dice.one(steady);
        const wanted = value++;
        void fetch(`${stand.address}/api/v1/links/${ids.get(one.name)}/requests`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ type: 'set', values: { walk_speed: wanted } }),
        }).then(async (answer) => {
          await answer.arrayBuffer();
          for (let tries = 0; !one.taken.has(wanted) && tries < 500; tries++) await pause(2);
          sets.push((one.taken.get(wanted) ?? Number.POSITIVE_INFINITY) - now);
        });
      }
      if (now >= nextDrop) {
        nextDrop = now + DROP_EVERY * 2 * dice.next();
        dropper.drop(dice);
      }
      if (now >= nextLook) {
        nextLook = now + 500;
        memory.push({ share: (now - begun) / length, megabytes: memoryOf(stand.serverPid) });
      }
      await pause(1);
    }
    // What was held back by drops comes once the links are there again.
    await until(
      async () => {
        const now = new Map((await listed()).map(({ game, next }) => [game, next]));
        return played.every(({ name, tick }) => now.get(name) === tick);
      },
      'the last rows',
      20_000,
    ).catch(() => undefined);
    let [lost, ticks] = [0, 0];
    for (const one of played) {
      const seen = new Set<number>();
      for (let from: number | null = 0; from !== null; ) {
        const page = (await (await fetch(`${stand.address}/api/v1/links/${ids.get(one.name)}/rows?from=${from}`)).json()) as {
          rows: number[][];
          next: number | null;
        };
        for (const [tick] of page.rows) {
          if (seen.has(tick as number)) lost++;
          seen.add(tick as number);
        }
        from = page.next;
      }
      ticks += one.tick;
      lost += one.tick - seen.size;
    }
    const delays = steady.flatMap((one) => one.delays);
    const most = (from: number, to: number) =>
      Math.max(0, ...memory.filter(({ share }) => share >= from && share < to).map(({ megabytes }) => megabytes));
    return [
      unbounded('games', 'ticks of ten games', String(ticks)),
      none('games', 'ticks lost or doubled', lost),
      atLeast('games', 'connections dropped', dropper.drops, minutes * 60),
      unbounded('games', 'from a tick to its page, median', `${quantile(delays, 0.5).toFixed(1)} ms`),
      under('games', 'from a tick to its page, p99', quantile(delays, 0.99), 20, 'ms'),
      under('games', 'a number in the game, p99', quantile(sets, 0.99), 50, 'ms'),
      under('games', 'memory that has grown', Math.max(0, most(0.65, 2) - most(0.3, 0.65)), 40, 'MB'),
    ];
  } finally {
    for (const one of played) one.close();
    dropper.close();
  }
}
