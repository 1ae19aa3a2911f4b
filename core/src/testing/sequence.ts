/** Numbers in [0, 1) from a fixed sequence, so that a failure can be seen again by its seed (a linear congruential generator: Knuth and Lewis). */
export function sequence(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}
