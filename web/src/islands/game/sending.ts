import { atom } from 'nanostores';
import { type GameValue, requestOf } from './link.ts';
import { Sender } from './sender.ts';

/** Values on their way to a game: what is sent, what the game has not answered yet, and what it refused. */
export class Sending {
  /** Numbers that the game refused, with its reasons. */
  readonly $refused = atom<Readonly<Record<string, string>>>({});
  #sender: Sender<GameValue> | null = null;
  /** Names of the values that are sent and not answered, by the numbers of their requests. */
  #sent = new Map<number, readonly string[]>();
  /** While a request is sent: the numbers that are answered before its own is known; else null. */
  #early: Set<number> | null = null;

  /** Sends to a game from now on, at its rate at most. */
  to({ id, hz }: { id: string; hz: number }): void {
    this.$refused.set({});
    this.#sent = new Map();
    const sent = this.#sent;
    this.#sender = new Sender((values) => this.#post(id, values, sent), 1000 / hz);
  }

  /** Names of values that the game has not answered. */
  get pending(): Set<string> {
    return new Set([...(this.#sender?.waiting ?? []), ...[...this.#sent.values()].flat()]);
  }

  send(values: Record<string, GameValue>): void {
    const names = Object.keys(values);
    if (names.length === 0) return;
    this.$refused.set(Object.fromEntries(Object.entries(this.$refused.get()).filter(([name]) => !names.includes(name))));
    this.#sender?.send(values);
  }

  async #post(id: string, values: Record<string, GameValue>, sent: Map<number, readonly string[]>): Promise<void> {
    const names = Object.keys(values);
    const early = new Set<number>();
    this.#early = early;
    const answer = await requestOf(id, { type: 'set', values });
    this.#early = null;
    // Another game may have been opened meanwhile.
    if (sent !== this.#sent) return;
    if ('why' in answer) this.#refuse(names, answer.why);
    else if (!early.has(answer.id)) sent.set(answer.id, names);
  }

  /** Takes the game's word that a request is done. */
  answered(id: number): void {
    if (!this.#sent.delete(id)) this.#early?.add(id);
  }

  /** Takes a refusal; returns false if it is of no value that was sent here. */
  refused(id: number, name: string | undefined, why: string): boolean {
    const names = name ? [name] : (this.#sent.get(id) ?? []);
    this.answered(id);
    this.#refuse(names, why);
    return names.length > 0;
  }

  #refuse(names: readonly string[], why: string): void {
    this.$refused.set({ ...this.$refused.get(), ...Object.fromEntries(names.map((one) => [one, why])) });
  }
}
