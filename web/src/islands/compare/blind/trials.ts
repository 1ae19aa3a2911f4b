import type { Ground } from '@zygopod/core';
import { atom } from 'nanostores';
import type { Ref } from '../../work/comparison.ts';
import { Newest } from '../../work/newest.ts';
import type { ComparedSide } from '../sides.ts';
import type { KeptRound } from './rounds.ts';
import { type BlindSide, BlindTrial, fetchRounds } from './trial.ts';

/** The trials between the tunings of the first two sides of a comparison: the rounds so far, and the running one. */
export class Trials {
  /** The running trial, shown instead of the comparison. */
  readonly $trial = atom<BlindTrial | null>(null);
  readonly $rounds = atom<readonly KeptRound[]>([]);
  readonly #newest = new Newest();
  readonly #sides: () => readonly ComparedSide[];

  constructor(sides: () => readonly ComparedSide[]) {
    this.#sides = sides;
  }

  /** Fetches the rounds of the first two sides. */
  async fetch(): Promise<void> {
    const isNewest = this.#newest.ask('rounds');
    const [a, b] = this.sides;
    const rounds = a && b ? await fetchRounds(a.side.id, b.side.id) : null;
    if (isNewest()) this.$rounds.set(rounds ?? []);
  }

  /** The first two sides as a trial takes them: revisions, at their own rates. Fewer where they are none. */
  get sides(): BlindSide[] {
    return this.#sides()
      .slice(0, 2)
      .flatMap(({ ref: { id, revision, rate }, name, short, parameters }) =>
        revision === null || rate !== null ? [] : [{ side: { id, revision, name }, short, parameters }],
      );
  }

  /** Begins a trial; false without two sides for it. */
  begin({ ground, ref }: { ground: Ground; ref: Ref }): boolean {
    const [a, b] = this.sides;
    if (!a || !b) return false;
    const trial = new BlindTrial(a, b, ground, ref.id);
    trial.$rounds.set(this.$rounds.get());
    this.$trial.set(trial);
    return true;
  }

  leave(): void {
    this.$rounds.set(this.$trial.get()?.$rounds.get() ?? []);
    this.$trial.set(null);
  }
}
