/** Numbers requests by topic, to recognise responses overtaken by a newer request. */
export class Newest {
  readonly #asked = new Map<string, number>();

  /** Asks about something; gives whether that is still the newest question about it. */
  ask(what: string): () => boolean {
    const turn = (this.#asked.get(what) ?? 0) + 1;
    this.#asked.set(what, turn);
    return () => this.#asked.get(what) === turn;
  }
}
