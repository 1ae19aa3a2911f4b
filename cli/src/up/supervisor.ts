import { Failure } from '../misuse.ts';

/** A server that runs. */
export interface RunningServer {
  address: string;
  pid: number;
  /** Settles when it has died. */
  died: Promise<void>;
  stop(): Promise<void>;
}

/** The database that the supervisor looks after. */
interface Watched {
  ensure(): Promise<void>;
  isRunning(): Promise<boolean>;
}

export interface Parts {
  /** Null for a database of the user's, which is theirs to look after. */
  database: Watched | null;
  /** Starts the server; throws when it does not become healthy in so many milliseconds. */
  startServer(patience: number): Promise<RunningServer>;
  say(line: string): void;
}

/** What a supervisor is at: everything runs; something has died and is being started again; told to stop; over. */
type State = 'running' | 'mending' | 'stopping' | 'ended';

/** Milliseconds within which what has died runs again, or all is ended. */
export const MENDED_IN = 10_000;
/** Milliseconds between two looks at the database, and between two tries. */
const LOOK = 150;
const RETRY = 100;
/** Milliseconds that one start of the server may take while something is mended. */
const START = 4000;

const pause = (milliseconds: number) => new Promise<void>((over) => setTimeout(over, milliseconds));

/**
 * Keeps a server and its database running: whatever dies, in any order, also while the other is being started, is started again within
 * ten seconds, or the supervisor ends with a failure in one line. One loop acts at a time, so that nothing is started twice.
 */
export class Supervisor {
  readonly #parts: Parts;
  #server: RunningServer;
  #state: State = 'running';
  #isServerDead = false;
  readonly #stop: Promise<void>;
  #tellStop!: () => void;

  constructor(parts: Parts, server: RunningServer) {
    this.#parts = parts;
    this.#server = server;
    this.#stop = new Promise((tell) => {
      this.#tellStop = tell;
    });
    this.#watch(server);
  }

  get state(): State {
    return this.#state;
  }

  /** Asks for the end; `run` stops the server and settles. */
  stop(): void {
    if (this.#state !== 'ended') this.#state = 'stopping';
    this.#tellStop();
  }

  /** Supervises until told to stop. Throws a failure when something that died could not be started again. */
  async run(): Promise<void> {
    try {
      while (this.#state !== 'stopping') {
        const dead = await this.#whatIsDead();
        if (this.#isStopping()) break;
        if (dead) await this.#mend(dead);
        else await Promise.race([this.#server.died, pause(LOOK), this.#stop]);
      }
    } finally {
      this.#state = 'ended';
      if (!this.#isServerDead) await this.#server.stop().catch(() => undefined);
    }
  }

  /** The state as it is now: a signal may have changed it while something was awaited. */
  #isStopping(): boolean {
    return this.#state === 'stopping';
  }

  #watch(server: RunningServer): void {
    this.#isServerDead = false;
    void server.died.then(() => {
      if (this.#server === server) this.#isServerDead = true;
    });
  }

  async #whatIsDead(): Promise<string | null> {
    if (this.#isServerDead) return 'The server';
    const runs = await this.#parts.database?.isRunning().catch(() => false);
    return runs === false ? 'The database' : this.#isServerDead ? 'The server' : null;
  }

  /** Tries to have the database run, until the time is over. */
  async #ensureDatabase(end: number): Promise<void> {
    for (;;)
      try {
        return await within(end - performance.now(), this.#parts.database?.ensure() ?? Promise.resolve());
      } catch (error) {
        if (performance.now() + RETRY > end || this.#isStopping()) throw error;
        await Promise.race([pause(RETRY), this.#stop]);
      }
  }

  async #startIfDead(patience: number): Promise<void> {
    if (!this.#isServerDead) return;
    this.#server = await this.#parts.startServer(patience);
    this.#watch(this.#server);
  }

  /** Tries until both run, or the time is over. */
  async #mend(dead: string): Promise<void> {
    const { say } = this.#parts;
    this.#state = 'mending';
    say(`${dead} has died; starting it again.`);
    const end = performance.now() + MENDED_IN;
    let why = '';
    while (this.#state === 'mending') {
      const left = end - performance.now();
      if (left <= 0) throw new Failure(`${dead} has died and could not be started again${why && `: ${why}`}`);
      try {
        // Both at once: the server waits for the database by itself.
        await both(this.#ensureDatabase(end), this.#startIfDead(Math.min(START, left)));
        if (this.#state === 'mending') this.#state = 'running';
        return;
      } catch (error) {
        why = error instanceof Error ? (error.message.split('\n')[0] as string) : String(error);
        await Promise.race([pause(RETRY), this.#stop]);
      }
    }
  }
}

/** Waits for both, whatever becomes of them; throws what the first of them has thrown. */
async function both(one: Promise<unknown>, other: Promise<unknown>): Promise<void> {
  for (const result of await Promise.allSettled([one, other])) if (result.status === 'rejected') throw result.reason;
}

/** Waits for work, but no longer. */
async function within<T>(milliseconds: number, work: Promise<T>): Promise<T> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, fail) => {
    timer = setTimeout(() => fail(new Error('it takes too long')), milliseconds);
  });
  work.catch(() => undefined);
  try {
    return await Promise.race([work, late]);
  } finally {
    clearTimeout(timer);
  }
}
