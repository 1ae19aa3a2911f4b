import { doubled } from './doubled.ts';

/** Share of the slots that may be taken before there are twice as many. */
const FULL = 0.6;

/**
 * Numbers for pairs of whole numbers (32 bits each, either sign), given from 0 in the order in which the pairs are met: a hash
 * table with open addressing in typed arrays, several times as fast as a `Map` once there are hundreds of thousands.
 */
export class PairIndex {
  #a = new Int32Array(64);
  #b = new Int32Array(64);
  /** Number of the pair in a slot, 1 more than it is; 0 for an empty slot. */
  #numbers = new Int32Array(128);
  size = 0;

  /** The number of a pair; a pair that is new gets the next one, and then `size` is one more than before. */
  number(a: number, b: number): number {
    let slot = this.#slot(a, b);
    for (; this.#numbers[slot] !== 0; slot = (slot + 1) & (this.#numbers.length - 1)) {
      const known = (this.#numbers[slot] as number) - 1;
      if (this.#a[known] === a && this.#b[known] === b) return known;
    }
    const next = this.size++;
    if (next === this.#a.length) {
      this.#a = doubled(this.#a);
      this.#b = doubled(this.#b);
    }
    this.#a[next] = a;
    this.#b[next] = b;
    this.#numbers[slot] = next + 1;
    if (this.size > this.#numbers.length * FULL) this.#spread();
    return next;
  }

  #slot(a: number, b: number): number {
    let hash = Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b);
    hash = Math.imul(hash ^ (hash >>> 15), 0xc2b2ae35);
    return (hash ^ (hash >>> 16)) & (this.#numbers.length - 1);
  }

  #spread(): void {
    this.#numbers = new Int32Array(this.#numbers.length * 2);
    for (let known = 0; known < this.size; known++) {
      let slot = this.#slot(this.#a[known] as number, this.#b[known] as number);
      while (this.#numbers[slot] !== 0) slot = (slot + 1) & (this.#numbers.length - 1);
      this.#numbers[slot] = known + 1;
    }
  }
}
