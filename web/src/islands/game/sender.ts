/** Sends values one request after the other: what changes while one is under way goes with the next, so that nothing queues up. */
export class Sender<V> {
  readonly #post: (values: Record<string, V>) => Promise<void>;
  readonly #every: number;
  readonly #now: () => number;
  readonly #wait: (ms: number) => Promise<void>;
  #waiting: Record<string, V> = {};
  #isBusy = false;

  /** `every`: milliseconds between two requests at least. */
  constructor(
    post: (values: Record<string, V>) => Promise<void>,
    every: number,
    { now = () => performance.now(), wait = (ms: number) => new Promise<void>((over) => setTimeout(over, ms)) } = {},
  ) {
    this.#post = post;
    this.#every = every;
    this.#now = now;
    this.#wait = wait;
  }

  /** Names whose values are not sent yet. */
  get waiting(): readonly string[] {
    return Object.keys(this.#waiting);
  }

  send(values: Record<string, V>): void {
    Object.assign(this.#waiting, values);
    if (!this.#isBusy) void this.#run();
  }

  async #run(): Promise<void> {
    this.#isBusy = true;
    while (Object.keys(this.#waiting).length > 0) {
      const values = this.#waiting;
      this.#waiting = {};
      const begun = this.#now();
      await this.#post(values);
      const left = this.#every - (this.#now() - begun);
      if (left > 0) await this.#wait(left);
    }
    this.#isBusy = false;
  }
}
