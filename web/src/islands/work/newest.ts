/** Counts questions by what they are about, so that an answer that a newer question has overtaken can be told. */
export class Newest {
  readonly #asked = new Map<string, number>();

  /** Asks about something; gives whether that is still the newest question about it. */
  ask(what: string): () => boolean {
    const turn = (this.#asked.get(what) ?? 0) + 1;
    this.#asked.set(what, turn);
    return () => this.#asked.get(what) === turn;
  }
}
