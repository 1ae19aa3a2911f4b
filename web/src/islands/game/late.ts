/** Rows of which the delay is kept. */
const KEPT = 600 * 144;

/**
 * How late rows come, ms: behind the earliest that any of them was, as measured by the game's own ticks. The clocks of the game and of the page need not
 * agree: the least delay counts as none beyond the link's own.
 */
export class Late {
  readonly #dt: number;
  #delays = new Float32Array(1024).fill(Number.NaN);
  #first: number | null = null;
  #least = Number.POSITIVE_INFINITY;
  #newest: number[] = [];

  constructor(hz: number) {
    this.#dt = 1000 / hz;
  }

  /** Takes rows that arrived at the server, and then here. */
  take(rows: readonly (readonly number[])[], arrived: number, here: number): void {
    // Of a batch only the last row is as new as its arrival.
    const tick = rows.at(-1)?.[0];
    if (tick === undefined) return;
    const delay = Math.max(arrived, here) - tick * this.#dt;
    this.#least = Math.min(this.#least, delay);
    this.#first ??= tick;
    const at = tick - this.#first;
    if (at < 0 || at >= KEPT) {
      // After a long time, or with a game that began again.
      this.#first = tick;
      this.#delays.fill(Number.NaN);
      this.#least = delay;
      return;
    }
    if (at >= this.#delays.length) {
      const more = new Float32Array(Math.min(KEPT, Math.max(at + 1, this.#delays.length * 2))).fill(Number.NaN);
      more.set(this.#delays);
      this.#delays = more;
    }
    this.#delays[at] = delay - this.#least;
    this.#newest.push(delay - this.#least);
    if (this.#newest.length > 1000) this.#newest.splice(0, 500);
  }

  /** The delay of a tick, ms; NaN if it is not known. */
  at(tick: number): number {
    return this.#first === null ? Number.NaN : (this.#delays[tick - this.#first] ?? Number.NaN);
  }

  /** The delay that 99 of 100 of the last rows kept, ms; null before there are some. */
  get p99(): number | null {
    if (this.#newest.length < 20) return null;
    const sorted = this.#newest.toSorted((a, b) => a - b);
    return sorted[Math.floor(sorted.length * 0.99)] ?? null;
  }
}
