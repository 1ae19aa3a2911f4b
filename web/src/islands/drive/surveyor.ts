import type { Ground, Parameters, SurveyPart, WallBuckets } from '@zygopod/core';
import { atom } from 'nanostores';
import type { SurveyAnswer, SurveyOrder } from '../../workers/survey.ts';

/** A survey, or what is known of it yet, with the ground that it is of. */
interface Surveyed {
  ground: Ground;
  survey: SurveyPart;
  isWhole: boolean;
  milliseconds: number;
}

/** What of a tuning a survey depends on. */
const relevant = ({ body, contact, bounds }: Parameters) => JSON.stringify([body, contact.skin, contact.response, bounds]);

/** Has grounds surveyed in a worker: one at a time, the newest order next, so that a drag never piles up work. */
export class Surveyor {
  readonly $survey = atom<Surveyed | null>(null);
  /** Why the last survey could not be made. */
  readonly $trouble = atom<string | null>(null);
  /** Told as soon as the walls of an ordered ground are sorted. */
  onWalls: ((ground: Ground, walls: WallBuckets) => void) | null = null;
  #worker: Worker | null = null;
  #number = 0;
  #underWay: Ground | null = null;
  #next: { ground: Ground; parameters: Parameters } | null = null;
  #last: { ground: Ground; key: string } | null = null;

  /** Asks for a survey, unless the newest one is of the same. */
  ask(ground: Ground, parameters: Parameters): void {
    const key = relevant(parameters);
    if (this.#last?.ground === ground && this.#last.key === key) return;
    this.#last = { ground, key };
    this.#next = { ground, parameters };
    this.#send();
  }

  stop(): void {
    this.#worker?.terminate();
    this.#worker = null;
    this.#underWay = null;
    this.#last = null;
  }

  #send(): void {
    if (this.#underWay || !this.#next) return;
    this.#worker ??= this.#start();
    const { ground, parameters } = this.#next;
    this.#next = null;
    this.#underWay = ground;
    this.#worker.postMessage({ number: ++this.#number, ground, parameters } satisfies SurveyOrder);
  }

  #start(): Worker {
    const worker = new Worker(new URL('../../workers/survey.ts', import.meta.url), { type: 'module' });
    worker.addEventListener('message', ({ data }: MessageEvent<SurveyAnswer>) => {
      const ground = this.#underWay;
      if (!ground) return;
      if (data.kind === 'walls') {
        this.onWalls?.(ground, data.walls);
        return;
      }
      if (data.kind === 'survey') this.$survey.set({ ground, survey: data.survey, isWhole: data.isWhole, milliseconds: data.milliseconds });
      if (data.kind === 'survey' && !data.isWhole) return;
      this.#underWay = null;
      this.$trouble.set(data.kind === 'trouble' ? data.words : null);
      this.#send();
    });
    return worker;
  }
}
