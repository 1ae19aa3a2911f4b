import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Key, keys, LetterRun, type RunOptions } from './letterRun.ts';
import { type Town, townOf } from './town.ts';

/** The Boardwalk, as it ships with Zygopod. */
export const boardwalk = (): Town =>
  townOf(JSON.parse(readFileSync(join(import.meta.dirname, '../../demo/boardwalk.ground.json'), 'utf8')));

/** The game without a page. */
export const headless = (options: RunOptions = {}): LetterRun => new LetterRun(boardwalk(), options);

/**
 * A player who wanders: now and then a key goes down or up. `random` gives numbers in [0, 1).
 */
export class Wanderer {
  readonly #game: LetterRun;
  readonly #random: () => number;
  #until = 0;
  #held: Key[] = [];

  constructor(game: LetterRun, random: () => number = Math.random) {
    this.#game = game;
    this.#random = random;
  }

  /** Call before each tick. */
  play(): void {
    const game = this.#game;
    if (game.tick < this.#until) return;
    this.#until = game.tick + Math.round((0.15 + this.#random()) * game.hz);
    for (const key of this.#held) game.release(key);
    this.#held = keys.filter((key) => this.#random() < (key === 'sprint' ? 0.5 : 0.35));
    for (const key of this.#held) game.press(key);
  }
}
