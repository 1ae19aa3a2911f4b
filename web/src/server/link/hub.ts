import { randomUUID } from 'node:crypto';
import { abilityFor, type GameMessage, type Hello, type LinkRequest, readGameMessage, type ServerMessage } from '@zygopod/core';
import { GameSession, type Transport } from './session.ts';
import type { LinkStore } from './store.ts';

/** Games that are linked at a time. */
export const MOST_LINKS = 20;

/** Milliseconds between two writes to the database, and batches that may wait for one before games are slowed down. */
const WRITES_EVERY = 300;
export const MOST_PENDING = 2000;

export const problem = (status: number, title: string, detail?: string): ServerMessage => ({
  type: 'problem',
  status,
  title,
  ...(detail ? { detail } : {}),
});

/** One side of a link: a connection that says hello, and then is a session's. */
export class Link {
  readonly #hub: LinkHub;
  readonly #transport: Transport;
  session: GameSession | null = null;
  /** Messages are taken one after the other: hello waits for the database. */
  #last: Promise<void> = Promise.resolve();

  constructor(hub: LinkHub, transport: Transport) {
    this.#hub = hub;
    this.#transport = transport;
  }

  /** Takes a message; resolves once it is taken. What is wrong with it is sent back, and the link goes on. */
  take(text: string): Promise<void> {
    this.#last = this.#last
      .then(async () => {
        const read = readGameMessage(text);
        if ('fault' in read) this.#transport.send(problem(400, 'The message can’t be read', read.fault));
        else await this.#act(read.message);
      })
      .catch(() => this.#transport.send(problem(503, 'The message can’t be taken now')));
    return this.#last;
  }

  async #act(message: GameMessage): Promise<void> {
    const { session } = this;
    if (message.type === 'hello') {
      if (session) return this.#transport.send(problem(409, 'hello was said before'));
      const found = await this.#hub.sessionFor(message);
      this.session = found;
      // Welcome first: a watcher may send something as soon as the game is there.
      this.#transport.send({ type: 'welcome', session: found.id, from: found.next });
      found.link(message, this.#transport);
      return;
    }
    if (!session) return this.#transport.send(problem(400, 'hello comes first'));
    if (message.type === 'rows') {
      const fault = session.take(message, Date.now());
      if (fault) this.#transport.send(problem(422, 'The rows can’t be taken', fault));
    } else if (message.type === 'bye') {
      this.leave();
      this.#transport.close('bye');
    } else session.answered(message);
  }

  /** The connection is over. */
  leave(): void {
    this.session?.unlink(this.#transport);
    this.session = null;
  }
}

/** All linked games, and those that were: their rows go to the database in batches, and to the pages that watch at once. */
export class LinkHub {
  readonly #sessions = new Map<string, GameSession>();
  readonly #store: LinkStore;
  readonly #watchers = new Set<() => void>();
  #links = 0;
  #writing: Promise<void> | null = null;
  #number = 0;

  constructor(store: LinkStore) {
    this.#store = store;
    setInterval(() => void this.write(), WRITES_EVERY).unref();
  }

  /** A link over a connection; null if there are too many. */
  open(transport: Transport): Link | null {
    if (this.#links >= MOST_LINKS) return null;
    this.#links++;
    return new Link(this, transport);
  }

  close(link: Link): void {
    this.#links--;
    link.leave();
    this.#changed();
  }

  /** The session that a hello goes on with, if it is of the same columns and rate, else a new one. */
  async sessionFor(hello: Hello): Promise<GameSession> {
    const known = hello.session ? (this.#sessions.get(hello.session) ?? (await this.#store.find(hello.session))) : null;
    const goesOn =
      known && known.hello.hz === hello.hz && known.hello.unit === hello.unit && known.hello.columns.join() === hello.columns.join();
    const id = goesOn ? known.id : randomUUID();
    await this.#store.keep({ id, hello, sets: goesOn ? known.sets : [], next: goesOn ? known.next : 0, seen: Date.now() });
    // Two connections may say the same at once: the session that is there first is both’s.
    const session = this.#sessions.get(id) ?? (goesOn ? known : new GameSession(id, hello, 0, Date.now()));
    this.#sessions.set(id, session);
    setImmediate(() => this.#changed());
    return session;
  }

  find(id: string): GameSession | null {
    return this.#sessions.get(id) ?? null;
  }

  /** Forgets a session that is deleted. */
  forget(id: string): void {
    this.#sessions.delete(id);
    this.#changed();
  }

  get sessions(): GameSession[] {
    return [...this.#sessions.values()];
  }

  /** Sends a request to a game; returns its number, or why it can't be sent. */
  send(session: GameSession, request: LinkRequest): { id: number } | { why: string } {
    const ability = abilityFor(request);
    if (!session.hello.can.includes(ability)) return { why: `the game can’t ${ability}` };
    const id = ++this.#number;
    const why = session.send({ ...request, id });
    return why ? { why } : { id };
  }

  /** Called whenever a game comes or goes. */
  watch(watcher: () => void): () => void {
    this.#watchers.add(watcher);
    return () => this.#watchers.delete(watcher);
  }

  #changed(): void {
    for (const watcher of this.#watchers) watcher();
  }

  /** Writes all that has come so far, also what came while a write was under way. */
  async flush(): Promise<void> {
    await this.#writing;
    await this.write();
  }

  /** Writes what has come to the database, unless a write is under way. What can't be written waits for the next time. */
  write(): Promise<void> {
    this.#writing ??= this.#write().finally(() => {
      this.#writing = null;
    });
    return this.#writing;
  }

  async #write(): Promise<void> {
    for (const session of this.#sessions.values()) {
      // More may come while these are written.
      const batches = [...session.pending];
      if (batches.length === 0) {
        // A game that is gone lives on in the database.
        if (!session.transport && session.watchers === 0) this.#sessions.delete(session.id);
        continue;
      }
      const isKept = await this.#store.add(session, batches).then(
        () => true,
        () => false,
      );
      if (isKept) session.pending = session.pending.slice(batches.length);
    }
  }
}
