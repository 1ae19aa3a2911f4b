import { Failure } from '../misuse.ts';

/** A server that runs. */
export interface RunningServer {
  address: string;
  pid: number;
  /** Settles when it has died. */
  died: Promise<void>;
  /** Resolves to true if it answers at all, with any status. */
  answers(): Promise<boolean>;
  /** Ends it by force. */
  kill(): void;
  stop(): Promise<void>;
}

/** A server was killed from outside while it started: no fault of its own. */
export class Killed extends Failure {}

/** The database that the supervisor looks after. */
interface Watched {
  ensure(): Promise<void>;
  isRunning(): Promise<boolean>;
  /** True if its disk has room to start it. */
  hasRoom(): boolean;
}

export interface Parts {
  /** Null for a database of the user's, which is theirs to look after. */
  database: Watched | null;
  /** Starts the server; throws when it does not become healthy in so many milliseconds after its first answer. */
  startServer(patience: number): Promise<RunningServer>;
  say(line: string): void;
}

/** States of a supervisor: everything runs; something died and is restarting; stopping; over. */
type State = 'running' | 'mending' | 'stopping' | 'ended';

/** Milliseconds for which failed starts of a dead process are repeated, before everything is ended. */
export const MENDED_IN = 10_000;
/** Milliseconds between two checks of the database, and between two retries. */
const LOOK = 150;
const RETRY = 100;
/** Milliseconds after its first answer in which a started server must become healthy. */
const START = 8000;
/** Milliseconds after which a server that is killed at every start is given up, and a database whose start goes on and on. */
const LONGEST = 60_000;

/** Milliseconds between two questions to the server, and how many may stay without an answer before it is ended as frozen. */
const ASK = 2000;
const UNANSWERED = 3;

const pause = (milliseconds: number) => new Promise<void>((over) => setTimeout(over, milliseconds));

/** A pause that keeps no process from ending. */
const rest = (milliseconds: number) => new Promise<void>((over) => setTimeout(over, milliseconds).unref());

/**
 * Keeps a server and its database running. A dead process, in any order, also while the other is being started, is restarted within ten seconds of
 * the last kill, or the supervisor ends with a failure in one line. It waits for room on a full disk, for a server that is slow to give its first
 * answer, and for a database that is recovering: only failed starts use up the ten seconds. One loop acts at a time, so that nothing is started twice.
 */
export class Supervisor {
  readonly #parts: Parts;
  #server: RunningServer;
  #state: State = 'running';
  #isServerDead = false;
  /** Time at which the database was last started, ms. */
  #databaseSince = Number.NEGATIVE_INFINITY;
  readonly #stop: Promise<void>;
  #resolveStop!: () => void;

  constructor(parts: Parts, server: RunningServer) {
    this.#parts = parts;
    this.#server = server;
    this.#stop = new Promise((resolve) => {
      this.#resolveStop = resolve;
    });
    this.#watch(server);
  }

  get state(): State {
    return this.#state;
  }

  /** Asks for the end; `run` stops the server and settles. */
  stop(): void {
    if (this.#state !== 'ended') this.#state = 'stopping';
    this.#resolveStop();
  }

  /** Supervises until stopped. Throws if something that died could not be started again. */
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
    const died = server.died.then(() => {
      if (this.#server === server) this.#isServerDead = true;
      return 'died' as const;
    });
    void this.#askOften(server, died);
  }

  /** Ends a server that doesn't answer any more: it is started again as one that has died. */
  async #askOften(server: RunningServer, died: Promise<'died'>): Promise<void> {
    for (let unanswered = 0; unanswered < UNANSWERED; ) {
      if ((await Promise.race([died, this.#stop, rest(ASK)])) === 'died' || this.#state === 'stopping' || this.#state === 'ended') return;
      unanswered = (await server.answers()) ? 0 : unanswered + 1;
    }
    if (this.#server !== server || this.#isServerDead) return;
    this.#parts.say('The server does not answer; stopping it.');
    server.kill();
  }

  async #whatIsDead(): Promise<string | null> {
    if (this.#isServerDead) return 'The server';
    const runs = await this.#parts.database?.isRunning().catch(() => false);
    return runs === false ? 'The database' : this.#isServerDead ? 'The server' : null;
  }

  /**
   * Starts the database if it doesn't run. Each death has its own ten seconds, whatever else took time before it; a start that neither succeeds nor
   * fails is waited for until `last`: recovery beside busy processes can take longer.
   */
  async #ensureDatabase(last: number): Promise<void> {
    const { database } = this.#parts;
    if (!database || (await database.isRunning().catch(() => false))) return;
    for (const end = Math.min(last, performance.now() + MENDED_IN); ; )
      try {
        await Promise.race([within(Math.max(MENDED_IN, last - performance.now()), database.ensure()), this.#stop]);
        this.#databaseSince = performance.now();
        return;
      } catch (error) {
        if (performance.now() + RETRY > end || this.#isStopping()) throw error;
        await Promise.race([pause(RETRY), this.#stop]);
      }
  }

  /** Has the database run for as long as the server is being started: it may be killed meanwhile. */
  async #ensureUntil(started: Promise<void>, last: number): Promise<void> {
    let isStarting = true;
    const over = started.then(
      () => undefined,
      () => undefined,
    );
    void over.then(() => {
      isStarting = false;
    });
    do {
      await this.#ensureDatabase(last);
      await Promise.race([over, pause(LOOK)]);
    } while (isStarting && !this.#isStopping());
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
    say(`${dead} has died; restarting it.`);
    const last = performance.now() + LONGEST;
    let end = performance.now() + MENDED_IN;
    let why = '';
    let isFullSaid = false;
    while (this.#state === 'mending') {
      const left = end - performance.now();
      if (left <= 0) throw new Failure(`${dead} has died and could not be started again${why && `: ${why}`}`);
      try {
        // Both at once: the server waits for the database by itself.
        const started = this.#startIfDead(Math.min(START, left));
        await both(this.#ensureUntil(started, last), started);
        if (this.#state === 'mending') this.#state = 'running';
        return;
      } catch (error) {
        if (error instanceof Killed) end = Math.min(last, performance.now() + MENDED_IN);
        // The server couldn't become healthy without its database: its time begins with it.
        end = Math.max(end, Math.min(last, this.#databaseSince + MENDED_IN));
        // Only free disk space can help: wait for it.
        if (this.#parts.database?.hasRoom() === false) {
          if (!isFullSaid) say('The disk is full: the database restarts as soon as there is room.');
          isFullSaid = true;
          end = performance.now() + MENDED_IN;
        }
        why = error instanceof Error ? (error.message.split('\n')[0] as string) : String(error);
        await Promise.race([pause(RETRY), this.#stop]);
      }
    }
  }
}

/** Waits for both in any case; throws the first error. */
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
