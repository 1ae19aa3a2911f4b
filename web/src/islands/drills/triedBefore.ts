import type { TuningFile } from '@zygopod/core';

/** Answers that are kept at most. */
const MOST = 200;

/** Results of variations by request, so a revision opened again isn't varied again. */
export class TriedBefore {
  readonly #answers = new Map<string, Promise<unknown>>();

  /** The cached answer for a tuning and a question, computed if unknown. A failed one is dropped. */
  of<T>(file: TuningFile, what: string, find: () => Promise<T>): Promise<T> {
    const key = JSON.stringify([file, what]);
    const known = this.#answers.get(key) as Promise<T> | undefined;
    if (known) return known;
    const answer = find();
    this.#answers.set(key, answer);
    answer.catch(() => this.#answers.delete(key));
    const [oldest] = this.#answers.keys();
    if (this.#answers.size > MOST && oldest !== undefined) this.#answers.delete(oldest);
    return answer;
  }
}
