import { type Ground, type Parameters, type SurveyPart, surveyKey, type WallBuckets } from '@zygopod/core';
import { proxy } from 'comlink';
import { atom } from 'nanostores';
import { Desk, GivenUp } from '../../workers/desk.ts';
import type { SurveyApi, SurveyListener } from '../../workers/survey.ts';

/** A survey, or what is known of it yet, with the ground that it is of. */
interface Surveyed {
  ground: Ground;
  survey: SurveyPart;
  isWhole: boolean;
  milliseconds: number;
}

/** Has grounds surveyed in a worker: one at a time, the newest order next, so that a drag never piles up work. */
export class Surveyor {
  readonly $survey = atom<Surveyed | null>(null);
  /** Why the last survey could not be made. */
  readonly $trouble = atom<string | null>(null);
  /** Called as soon as the walls of a requested ground are sorted. */
  onWalls: ((ground: Ground, walls: WallBuckets) => void) | null = null;
  readonly #desk = new Desk<SurveyApi>(() => new Worker(new URL('../../workers/survey.ts', import.meta.url), { type: 'module' }));
  #isBusy = false;
  #next: { ground: Ground; parameters: Parameters } | null = null;
  #last: { ground: Ground; key: string } | null = null;

  /** Asks for a survey, unless the newest one is of the same. */
  ask(ground: Ground, parameters: Parameters): void {
    const key = surveyKey(parameters);
    if (this.#last?.ground === ground && this.#last.key === key) return;
    this.#last = { ground, key };
    this.#next = { ground, parameters };
    if (!this.#isBusy) void this.#work();
  }

  stop(): void {
    this.#last = null;
    this.#next = null;
    this.#desk.stop();
  }

  async #work(): Promise<void> {
    this.#isBusy = true;
    for (let order = this.#next; order; order = this.#next) {
      const { ground, parameters } = order;
      this.#next = null;
      const listener: SurveyListener = {
        walls: (walls) => this.onWalls?.(ground, walls),
        part: (survey, isWhole, milliseconds) => this.$survey.set({ ground, survey, isWhole, milliseconds }),
      };
      try {
        await this.#desk.call((remote) => remote.survey(ground, parameters, proxy(listener)));
        this.$trouble.set(null);
      } catch (error) {
        if (!(error instanceof GivenUp)) this.$trouble.set(error instanceof Error ? error.message : String(error));
      }
    }
    this.#isBusy = false;
  }
}
