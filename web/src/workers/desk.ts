import { type Remote, releaseProxy, wrap } from 'comlink';

/** A call that was given up: its worker was stopped, failed, or took too long. */
export class GivenUp extends Error {}

/**
 * A worker behind a desk: started with the first call, called as if it were here, started anew after it was stopped. A call may be given a
 * time (s); when that is over, when the worker fails, or when the desk is stopped, the worker is ended and the call rejects with `GivenUp`.
 */
export class Desk<Api> {
  readonly #open: () => Worker;
  #worker: Worker | null = null;
  #remote: Remote<Api> | null = null;
  readonly #waiting = new Set<(why: GivenUp) => void>();

  constructor(open: () => Worker) {
    this.#open = open;
  }

  /** Starts the worker before anything is asked of it. */
  start(): void {
    this.#reach();
  }

  call<T>(work: (remote: Remote<Api>) => Promise<T>, seconds = Infinity): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      const giveUp = (why: GivenUp) => end(() => reject(why));
      const timer = seconds < Infinity ? setTimeout(() => this.stop(`It took more than ${seconds} seconds.`), seconds * 1000) : undefined;
      const end = (settle: () => void) => {
        clearTimeout(timer);
        this.#waiting.delete(giveUp);
        settle();
      };
      this.#waiting.add(giveUp);
      work(this.#reach()).then(
        (value) => end(() => resolve(value)),
        (error) => end(() => reject(error)),
      );
    });
  }

  /** Ends the worker, and with it all calls under way. */
  stop(why = 'It was stopped.'): void {
    this.#remote?.[releaseProxy]();
    this.#worker?.terminate();
    this.#worker = null;
    this.#remote = null;
    for (const giveUp of [...this.#waiting]) giveUp(new GivenUp(why));
  }

  #reach(): Remote<Api> {
    if (!this.#worker || !this.#remote) {
      this.#worker = this.#open();
      this.#worker.addEventListener('error', (event) => this.stop(event.message || 'The worker failed.'));
      this.#remote = wrap<Api>(this.#worker);
    }
    return this.#remote;
  }
}
