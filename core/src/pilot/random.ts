/** Random numbers from a seed, the same in every engine (xorshift32: Marsaglia, Xorshift RNGs, 2003). */
export class Random {
  #state: number;

  constructor(seed: number) {
    this.#state = (Math.imul(seed | 0, 0x9e3779b1) ^ 0x5bd1e995) | 1;
    for (let i = 0; i < 8; i++) this.next();
  }

  /** In [0, 1). */
  next(): number {
    let s = this.#state;
    s ^= s << 13;
    s ^= s >>> 17;
    s ^= s << 5;
    this.#state = s;
    return (s >>> 0) / 2 ** 32;
  }

  /** About normal, mean 0, deviation 1: the sum of twelve uniform numbers, less 6. */
  normal(): number {
    let sum = -6;
    for (let i = 0; i < 12; i++) sum += this.next();
    return sum;
  }
}
