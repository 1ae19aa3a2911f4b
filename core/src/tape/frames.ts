/** Repeating lengths of frames in seconds, as from a display or a busy machine. */
export const framePatterns = {
  '30': [1 / 30],
  '60': [1 / 60],
  '144': [1 / 144],
  uneven: [0.016, 0.016, 0.033, 0.011, 0.05, 0.017, 0.008, 0.024],
} as const satisfies Record<string, readonly number[]>;
export type FramePattern = keyof typeof framePatterns;

/** Gives one frame length after another. */
export class FrameClock {
  readonly #lengths: readonly number[];
  #next = 0;

  constructor(pattern: FramePattern) {
    this.#lengths = framePatterns[pattern];
  }

  next(): number {
    const length = this.#lengths[this.#next % this.#lengths.length] as number;
    this.#next++;
    return length;
  }
}
