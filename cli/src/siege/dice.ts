/** Chance that comes again for the same seed (mulberry32, Tommy Ettinger 2017). */
export class Dice {
  #state: number;

  constructor(seed: number) {
    this.#state = seed >>> 0;
  }

  /** A number in [0, 1). */
  next(): number {
    this.#state = (this.#state + 0x6d2b79f5) >>> 0;
    let t = this.#state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  }

  /** A whole number in [0, end). */
  below(end: number): number {
    return Math.floor(this.next() * end);
  }

  one<T>(list: readonly T[]): T {
    return list[this.below(list.length)] as T;
  }

  is(chance: number): boolean {
    return this.next() < chance;
  }
}
