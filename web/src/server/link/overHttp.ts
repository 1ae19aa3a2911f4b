import type { ServerMessage } from '@zygopod/core';
import type { Link, LinkHub } from './hub.ts';
import type { Transport } from './session.ts';

/** Milliseconds without a request after which a game over HTTP is gone. */
const GONE = 15_000;

/** Messages that wait for a game at most; older ones are dropped. */
const MOST_WAITING = 200;

/** A game without sockets: it posts its messages, and gets the server's with the answers or as a stream of events. */
export class HttpGame {
  readonly link: Link;
  readonly #waiting: ServerMessage[];
  #listener: ((message: ServerMessage) => void) | null = null;
  #timer: NodeJS.Timeout | undefined;
  readonly #end: () => void;

  private constructor(link: Link, waiting: ServerMessage[], end: () => void) {
    this.link = link;
    this.#waiting = waiting;
    this.#end = end;
  }

  /** A game that has not said hello yet; null if there are too many links. `end` is called once it is gone. */
  static open(hub: LinkHub, end: (game: HttpGame) => void): HttpGame | null {
    const waiting: ServerMessage[] = [];
    let game: HttpGame | null = null;
    const transport: Transport = {
      send: (message) => {
        const listener = game ? game.#listener : null;
        if (listener) listener(message);
        else if (waiting.push(message) > MOST_WAITING) waiting.shift();
      },
      close: () => game?.end(),
    };
    const link = hub.open(transport);
    if (!link) return null;
    let isOver = false;
    game = new HttpGame(link, waiting, () => {
      if (isOver) return;
      isOver = true;
      hub.close(link);
      end(game as HttpGame);
    });
    game.heard();
    return game;
  }

  /** Takes messages; returns what waits for the game. */
  async take(messages: readonly unknown[]): Promise<ServerMessage[]> {
    this.heard();
    for (const message of messages) await this.link.take(JSON.stringify(message));
    return this.#waiting.splice(0);
  }

  /** Sends what waits, and then everything, to a listener until the returned function is called. */
  listen(listener: (message: ServerMessage) => void): () => void {
    for (const message of this.#waiting.splice(0)) listener(message);
    this.#listener = listener;
    clearTimeout(this.#timer);
    return () => {
      if (this.#listener !== listener) return;
      this.#listener = null;
      this.heard();
    };
  }

  /** The game has shown that it is there. */
  heard(): void {
    clearTimeout(this.#timer);
    if (!this.#listener) this.#timer = setTimeout(() => this.end(), GONE).unref();
  }

  end(): void {
    clearTimeout(this.#timer);
    this.#end();
  }
}
