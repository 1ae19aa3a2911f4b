import { once } from 'node:events';
import { resolve } from 'node:path';
import { type Transferable, Worker } from 'node:worker_threads';

/** A worker for one task after the other, outside of the thread that answers; terminated and restarted if a task exceeds its limits. */
export class OneByOne<Request, Answer> {
  readonly #file: string;
  readonly #time: number;
  readonly #heap: number;
  #worker: Worker | undefined;
  #last: Promise<unknown> = Promise.resolve();

  /** `file` from the folder that the server runs in; `time` (ms) for one thing, `heap` MB for all. */
  constructor(file: string, { time, heap }: { time: number; heap: number }) {
    this.#file = resolve(file);
    this.#time = time;
    this.#heap = heap;
  }

  /** Returns the worker's result, in turn; null if it exceeded its time or memory, or if `signal` aborted. */
  ask(request: Request, { transfer = [], signal }: { transfer?: Transferable[]; signal?: AbortSignal } = {}): Promise<Answer | null> {
    const done = this.#last.then(() => (signal?.aborted ? null : this.#ask(request, transfer, signal)));
    this.#last = done.catch(() => undefined);
    return done;
  }

  async #ask(request: Request, transfer: Transferable[], signal: AbortSignal | undefined): Promise<Answer | null> {
    this.#worker ??= this.#start();
    const own = this.#worker;
    const over = new AbortController();
    const late = setTimeout(() => over.abort(), this.#time);
    try {
      const answered = once(own, 'message', { signal: signal ? AbortSignal.any([over.signal, signal]) : over.signal });
      // A worker that runs out of memory ends with an error, which `once` throws.
      own.postMessage(request, transfer);
      const [answer] = (await answered) as [Answer];
      return answer;
    } catch {
      this.#worker = undefined;
      void own.terminate();
      return null;
    } finally {
      clearTimeout(late);
    }
  }

  #start(): Worker {
    const started = new Worker(this.#file, { resourceLimits: { maxOldGenerationSizeMb: this.#heap } });
    // Nobody has to wait for it when the server ends.
    started.unref();
    started.on('error', () => undefined);
    return started;
  }
}
