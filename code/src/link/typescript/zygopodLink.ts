// Links a game to Zygopod: its rows and hands go there, and numbers that are dragged there come back. One file, nothing to install; MIT license.
// Needs WebSocket (browsers, Node 22). Nothing here waits: without a server the game goes on, and what it did meanwhile is sent later.

type Value = number | boolean | string;
type Ability = 'set' | 'restart' | 'place' | 'pause' | 'tape';
interface Parameter {
  get(): Value;
  set(value: Value): string | undefined;
  path?: string;
  min?: number;
  max?: number;
}
interface Request {
  type: string;
  id: number;
  values?: Record<string, Value>;
  x?: number;
  y?: number;
  hands?: HandsEvent[];
  ticks?: number;
}

/** A change of the player's hands in a tick: one of press, release, stick, point, swipe. */
export interface HandsEvent {
  at: number;
  press?: string;
  release?: string;
  stick?: [number, number];
  point?: [number, number];
  swipe?: string;
}

export interface LinkOptions {
  game: string;
  build?: string;
  /** Ticks per second. */
  hz: number;
  unit?: 'px' | 'm' | 'tiles';
  yUp?: boolean;
  /** Names of a row's numbers, the tick first: `['tick', 'x', 'y', 'vx', 'vy', 'facing']`. */
  columns: string[];
  address?: string;
  /** The server's access token, where it has one. */
  token?: string;
}

/** Rows that are kept to be sent again: ten minutes at a rate of 60. */
const KEPT = 36_000;
/** Rows of a message: a few, so that a backlog holds no frame up. Bytes that may wait in the socket; milliseconds between two attempts to connect. */
const MOST = 40;
const FULL = 256 * 1024;
const AGAIN = 500;
const LONGEST = 5000;

/** Index of the first of some sorted things whose tick is not before another. */
function firstFrom<T>(all: readonly T[], tickOf: (one: T) => number, tick: number): number {
  let [low, high] = [0, all.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (tickOf(all[middle] as T) < tick) low = middle + 1;
    else high = middle;
  }
  return low;
}

export class ZygopodLink {
  readonly #options: LinkOptions;
  readonly #parameters = new Map<string, Parameter>();
  readonly #handlers = new Map<string, (request: Request) => string | undefined>();
  #rows: number[][] = [];
  #hands: HandsEvent[] = [];
  /** The first tick that is to be sent; infinite before the welcome. */
  #next = Number.POSITIVE_INFINITY;
  #session: string | undefined;
  #socket: WebSocket | null = null;
  #timer: ReturnType<typeof setTimeout> | undefined;
  /** Set while more rows are to be sent soon. */
  #rest: ReturnType<typeof setTimeout> | undefined;
  #pause = AGAIN;
  #isOver = false;

  constructor(options: LinkOptions) {
    this.#options = options;
  }

  /** Registers a number of the game. `set` returns why a value is not taken, or nothing. */
  watch(name: string, parameter: Parameter): this {
    this.#parameters.set(name, parameter);
    return this;
  }

  /** Registers what the game can do: restart, place, pause (also run and step), tape. The handler returns why it isn't done, or nothing. */
  on(ability: Exclude<Ability, 'set'>, handler: (request: Request) => string | undefined): this {
    this.#handlers.set(ability, handler);
    return this;
  }

  /** Connects, and again whenever the connection is lost. */
  open(): this {
    this.#connect();
    return this;
  }

  get isLinked(): boolean {
    return this.#socket?.readyState === 1 && Number.isFinite(this.#next);
  }

  /** Records the row of a tick, and the changes of the hands in it. Call once a tick, with rising ticks. */
  row(values: readonly number[], hands: readonly Omit<HandsEvent, 'at'>[] = []): void {
    const at = values[0] as number;
    this.#rows.push([...values]);
    for (const event of hands) this.#hands.push({ at, ...event });
    if (this.#rows.length > KEPT * 1.25) {
      this.#rows = this.#rows.slice(-KEPT);
      const first = this.#rows[0]?.[0] ?? 0;
      this.#hands = this.#hands.filter((event) => event.at >= first);
    }
    this.#send();
  }

  /** Says goodbye and connects no more. */
  close(): void {
    this.#isOver = true;
    clearTimeout(this.#timer);
    clearTimeout(this.#rest);
    if (this.isLinked) {
      while (this.#send());
      this.#say({ type: 'bye' });
    }
    this.#socket?.close();
  }

  #connect(): void {
    const { address = 'ws://127.0.0.1:4380/api/v1/link', token } = this.#options;
    let socket: WebSocket;
    try {
      socket = new WebSocket(token ? `${address}?token=${encodeURIComponent(token)}` : address, 'zygopod.link.v1');
    } catch {
      this.#later();
      return;
    }
    this.#socket = socket;
    socket.onopen = () => this.#hello();
    socket.onmessage = ({ data }) => this.#hear(JSON.parse(String(data)));
    socket.onclose = () => {
      this.#next = Number.POSITIVE_INFINITY;
      this.#later();
    };
    socket.onerror = () => undefined;
  }

  #later(): void {
    if (this.#isOver) return;
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => this.#connect(), this.#pause);
    this.#pause = Math.min(LONGEST, this.#pause * 1.5);
  }

  #hello(): void {
    const { game, build = '', hz, unit = 'px', yUp = false, columns } = this.#options;
    const parameters = [...this.#parameters].map(([name, { get, path, min, max }]) => ({
      name,
      value: get(),
      ...(path === undefined ? {} : { path }),
      ...(min === undefined ? {} : { min }),
      ...(max === undefined ? {} : { max }),
    }));
    const can = [...(this.#parameters.size > 0 ? ['set'] : []), ...this.#handlers.keys()];
    const session = this.#session === undefined ? {} : { session: this.#session };
    this.#say({ type: 'hello', protocol: 1, ...session, game, build, hz, unit, yUp, parameters, columns, can });
  }

  #hear(message: Request & { session?: string; from?: number }): void {
    if (message.type === 'welcome') {
      this.#session = message.session;
      this.#next = message.from ?? 0;
      this.#pause = AGAIN;
      this.#send();
      return;
    }
    if (message.type === 'problem') return;
    const refused = message.type === 'set' ? this.#set(message) : this.#do(message);
    if (refused) this.#say({ type: 'refused', id: message.id, ...refused });
    else this.#say({ type: 'done', id: message.id, tick: (this.#rows.at(-1)?.[0] ?? -1) + 1 });
  }

  /** Takes all values of a request or none that comes after the first refused one. */
  #set({ values = {} }: Request): { name?: string; why: string } | null {
    for (const [name, value] of Object.entries(values)) {
      const why = this.#parameters.has(name) ? this.#parameters.get(name)?.set(value) : 'no such number';
      if (why) return { name, why };
    }
    return null;
  }

  #do(request: Request): { why: string } | null {
    const ability = request.type === 'run' || request.type === 'step' ? 'pause' : request.type;
    const handler = this.#handlers.get(ability);
    const why = handler ? handler(request) : 'the game can’t do that';
    return why ? { why } : null;
  }

  /** Sends some of the rows that are due, and the others a little later; false if none could be sent. */
  #send(): boolean {
    if (!this.isLinked || (this.#socket as WebSocket).bufferedAmount >= FULL) return false;
    const from = firstFrom(this.#rows, (row) => row[0] as number, this.#next);
    if (from === this.#rows.length) return false;
    const rows = this.#rows.slice(from, from + MOST);
    const [first, last] = [(rows[0] as number[])[0] as number, (rows.at(-1) as number[])[0] as number];
    const begin = firstFrom(this.#hands, ({ at }) => at, first);
    const hands = this.#hands.slice(
      begin,
      firstFrom(this.#hands, ({ at }) => at, last + 1),
    );
    this.#say({ type: 'rows', rows, hands });
    this.#next = last + 1;
    if (from + MOST < this.#rows.length)
      this.#rest ??= setTimeout(() => {
        this.#rest = undefined;
        this.#send();
      }, 1);
    return true;
  }

  #say(message: object): void {
    this.#socket?.send(JSON.stringify(message));
  }
}
