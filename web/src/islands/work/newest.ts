/** Numbers requests by topic, to recognise responses overtaken by a newer request. */
export class Newest {
  readonly #turns = new Map<string, number>();

  /** Asks about something; gives whether that is still the newest question about it. */
  ask(what: string): () => boolean {
    const turn = (this.#turns.get(what) ?? 0) + 1;
    this.#turns.set(what, turn);
    return () => this.#turns.get(what) === turn;
  }
}
