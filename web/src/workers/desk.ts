import { type Remote, releaseProxy, wrap } from 'comlink';

/** A call that was given up: its worker was stopped, failed, or took too long. */
export class GivenUp extends Error {}

/**
 * A callable worker: started with the first call, called like a local function, restarted after a stop. A call may have a time limit (s). When it
 * ends, when the worker fails, or when the desk is stopped, the worker is terminated and the call rejects with `GivenUp`.
 */
export class Desk<Api> {
  readonly #open: () => Worker;
  #worker: Worker | null = null;
  #remote: Remote<Api> | null = null;
  readonly #waiting = new Set<(why: GivenUp) => void>();

  constructor(open: () => Worker) {
    this.#open = open;
  }

  /** Starts the worker before its first call. */
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

  /** Terminates the worker, and with it all pending calls. */
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
