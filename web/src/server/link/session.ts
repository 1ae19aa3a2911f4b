import type { Hello, RowsMessage, ServerMessage } from '@zygopod/core';

/** A connection to a game. */
export interface Transport {
  send(message: ServerMessage): void;
  /** Ends the connection. */
  close(why: string): void;
}

/** Rows as they came from a game, and the server's time of their arrival (ms since 1970). */
export interface Batch {
  rows: number[][];
  hands: RowsMessage['hands'];
  arrived: number;
}

/** Values of parameters that are in force from a tick on, by the game's names and in its units. */
export interface InForce {
  tick: number;
  values: Record<string, Value>;
}
type Value = Hello['parameters'][number]['value'];

/** Changes of parameters that are kept; of more, the earliest become one. */
const MOST_SETS = 1000;

/** News of a session for those who watch it. */
export type LinkEvent =
  | { type: 'rows'; batch: Batch }
  | { type: 'state' }
  | { type: 'done'; id: number; tick: number; values?: Record<string, Value> | undefined }
  | { type: 'refused'; id: number; name?: string | undefined; why: string };

type Watcher = (event: LinkEvent) => void;

/** Milliseconds of round trips that a latency is taken over: the least of the last few. */
const ROUND_TRIPS = 8;

/** A game that is or was linked: its description, the ticks that came, and the connection to it. Every tick counts once, however often it comes. */
export class GameSession {
  readonly id: string;
  hello: Hello;
  /** The first tick that isn't kept yet. */
  next: number;
  /** When something came last, ms since 1970. */
  seen: number;
  transport: Transport | null = null;
  /** Batches that aren't in the database yet. */
  pending: Batch[] = [];
  /** Values of the parameters, the earliest first. */
  sets: InForce[];
  /** Values that were sent and are not answered yet, by the numbers of their requests. */
  readonly #sent = new Map<number, Record<string, Value>>();
  readonly #roundTrips: number[] = [];
  readonly #watchers = new Set<Watcher>();

  constructor(id: string, hello: Hello, next: number, seen: number, sets: InForce[] = []) {
    this.id = id;
    this.hello = hello;
    this.next = next;
    this.seen = seen;
    this.sets = sets;
  }

  /** Notes values that are in force from a tick on, as far as they are other ones. */
  #putInForce(tick: number, values: Record<string, Value>): void {
    const now: Record<string, Value> = Object.assign({}, ...this.sets.map((one) => one.values));
    const other = Object.fromEntries(Object.entries(values).filter(([name, value]) => now[name] !== value));
    if (Object.keys(other).length === 0) return;
    this.sets.push({ tick, values: other });
    if (this.sets.length <= MOST_SETS) return;
    const [first, second, ...rest] = this.sets as [InForce, InForce, ...InForce[]];
    this.sets = [{ tick: first.tick, values: { ...first.values, ...second.values } }, ...rest];
  }

  /** Takes a connection over; an older one, which may be half open, is closed. */
  link(hello: Hello, transport: Transport): void {
    const before = this.transport;
    this.transport = transport;
    this.hello = hello;
    this.#sent.clear();
    this.#putInForce(this.next, Object.fromEntries(hello.parameters.map(({ name, value }) => [name, value])));
    before?.close('the game has connected again');
    this.#announce({ type: 'state' });
  }

  /** Ends a connection, unless another one has taken its place. */
  unlink(transport: Transport): void {
    if (this.transport !== transport) return;
    this.transport = null;
    this.#announce({ type: 'state' });
  }

  /** Takes rows; returns what is wrong with them, in words. Ticks that were taken before are left out. */
  take({ rows, hands }: RowsMessage, now: number): string | null {
    const { columns } = this.hello;
    let last = -1;
    for (const [i, row] of rows.entries()) {
      if (row.length !== columns.length) return `rows.${i}: found ${row.length} numbers, expected ${columns.length}`;
      const tick = row[0] as number;
      if (!Number.isInteger(tick) || tick < 0) return `rows.${i}: found the tick ${tick}, expected a whole number from 0`;
      if (tick <= last) return `rows.${i}: found the tick ${tick} after ${last}, expected a later one`;
      last = tick;
    }
    for (const [i, { at }] of hands.entries()) {
      if (at > last) return `hands.${i}: found the tick ${at}, expected one of the rows’ ticks`;
      if (at < (hands[i - 1]?.at ?? 0)) return `hands.${i}: found the tick ${at} after a later one`;
    }
    this.seen = now;
    const from = this.next;
    const own = { rows: rows.filter((row) => (row[0] as number) >= from), hands: hands.filter(({ at }) => at >= from), arrived: now };
    if (own.rows.length === 0) return null;
    this.next = last + 1;
    this.pending.push(own);
    this.#announce({ type: 'rows', batch: own });
    return null;
  }

  /** Sends a request to the game; returns why it can't be sent. */
  send(request: ServerMessage): string | null {
    if (!this.transport) return 'the game is not connected';
    if (request.type === 'set') this.#sent.set(request.id, request.values);
    this.transport.send(request);
    return null;
  }

  /** Takes the game's answer to a request; values that were set are the game's from then on. */
  answered(event: Extract<LinkEvent, { id: number }>): void {
    const values = this.#sent.get(event.id);
    this.#sent.delete(event.id);
    if (event.type !== 'done' || !values) {
      this.#announce(event);
      return;
    }
    const parameters = this.hello.parameters.map((one) => ({ ...one, value: values[one.name] ?? one.value }));
    this.hello = { ...this.hello, parameters };
    this.#putInForce(event.tick, values);
    this.#announce({ ...event, values });
  }

  /** Notes the time of a round trip, ms. */
  roundTrip(milliseconds: number): void {
    this.#roundTrips.push(milliseconds);
    if (this.#roundTrips.length > ROUND_TRIPS) this.#roundTrips.shift();
  }

  /** Half of the shortest recent round trip, ms; null before the first one. */
  get latency(): number | null {
    return this.#roundTrips.length === 0 ? null : Math.min(...this.#roundTrips) / 2;
  }

  watch(watcher: Watcher): () => void {
    this.#watchers.add(watcher);
    return () => this.#watchers.delete(watcher);
  }

  get watchers(): number {
    return this.#watchers.size;
  }

  #announce(event: LinkEvent): void {
    for (const watcher of this.#watchers) watcher(event);
  }
}
