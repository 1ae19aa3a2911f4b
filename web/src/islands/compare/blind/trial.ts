import type { Ground, Parameters } from '@zygopod/core';
import { atom } from 'nanostores';
import { Drive } from '../../drive/drive.ts';
import { DeviceHub, devices } from '../../drive/hub.ts';
import { listenToKeyboard } from '../../drive/keyboard.ts';
import { Mesher } from '../../drive/mesher.ts';
import { pollPads } from '../../drive/pad.ts';
import { askServer } from '../../work/server.ts';
import type { Choice, KeptRound, Round, TrialSide } from './rounds.ts';

/** A side of a trial: what is kept of it, and what is driven. */
export interface BlindSide {
  side: TrialSide;
  short: string;
  parameters: Parameters;
}

/** Asks the server for the rounds between two tunings; null if it does not answer. */
export async function fetchRounds(a: string, b: string): Promise<KeptRound[] | null> {
  const got = await askServer<{ items: KeptRound[] }>('GET', `/api/v1/trials?a=${a}&b=${b}`);
  return 'why' in got ? null : got.body.items;
}

/**
 * Two tunings, driven without their names, in an order drawn at random each round. Each keeps its own world, so that going from
 * one to the other is at once.
 */
export class BlindTrial {
  readonly a: BlindSide;
  readonly b: BlindSide;
  readonly hub: DeviceHub;
  /** Which of the two is called One in this round. */
  #first: 'a' | 'b' = 'a';
  readonly #ground: Ground;
  readonly #groundId: string;
  #drives: readonly [Drive, Drive];
  #meshers: readonly [Mesher, Mesher];
  /** Which one is driven: 0 is One, 1 is Two. */
  readonly $driven = atom<0 | 1>(0);
  readonly $round = atom(1);
  /** The round that was answered last, until the next one begins; with what One and Two were. */
  readonly $answered = atom<KeptRound | null>(null);
  readonly $rounds = atom<readonly KeptRound[]>([]);
  readonly $why = atom<string | null>(null);

  constructor(a: BlindSide, b: BlindSide, ground: Ground, groundId: string) {
    this.a = a;
    this.b = b;
    this.#ground = ground;
    this.#groundId = groundId;
    this.#drives = this.#shuffle();
    this.#meshers = this.#mesh();
    this.hub = new DeviceHub((event) => this.drive.say(event));
  }

  #shuffle(): readonly [Drive, Drive] {
    this.#first = (crypto.getRandomValues(new Uint8Array(1))[0] as number) > 127 ? 'a' : 'b';
    const order = this.#first === 'a' ? [this.a, this.b] : [this.b, this.a];
    return order.map(({ parameters }) => new Drive(parameters, this.#ground)) as [Drive, Drive];
  }

  #mesh(): readonly [Mesher, Mesher] {
    return this.#drives.map((drive) => new Mesher(drive)) as [Mesher, Mesher];
  }

  /** The one that is driven. */
  get drive(): Drive {
    return this.#drives[this.$driven.get()];
  }

  /** Goes to one of the two, from its start. */
  choose(which: 0 | 1): void {
    for (const device of devices) this.hub.letGo(device);
    this.$driven.set(which);
    this.drive.restart();
  }

  /** Records a vote for One, Two or no difference, and reveals it if wanted; false if it can't be saved. */
  async answer(which: 0 | 1 | null, who: string, why: string): Promise<boolean> {
    // A second click is no second vote.
    if (this.$answered.get()) return false;
    const named = ['a', 'b'] as const;
    const choice: Choice = which === null ? 'none' : which === 0 ? this.#first : named[this.#first === 'a' ? 1 : 0];
    const round: Round = {
      who: who.trim(),
      choice,
      why: why.trim(),
      first: this.#first,
      a: this.a.side,
      b: this.b.side,
      ground: this.#groundId,
    };
    const answer = await askServer<KeptRound>('POST', '/api/v1/trials', { body: round });
    if ('why' in answer) {
      this.$why.set(`${answer.why} The round is not kept; answer again.`);
      return false;
    }
    const kept = answer.body;
    this.$why.set(null);
    if (!this.$rounds.get().some(({ id }) => id === kept.id)) this.$rounds.set([kept, ...this.$rounds.get()]);
    this.$answered.set(kept);
    return true;
  }

  /** The next round, in an order of its own. */
  next(): void {
    for (const mesher of this.#meshers) mesher.stop();
    this.#drives = this.#shuffle();
    this.#meshers = this.#mesh();
    this.$driven.set(0);
    this.$answered.set(null);
    this.$round.set(this.$round.get() + 1);
  }

  /** Listens to the devices until the answer is called. */
  start(): () => void {
    const stop = listenToKeyboard(window, this.hub);
    return () => {
      stop();
      for (const mesher of this.#meshers) mesher.stop();
    };
  }

  /** A frame. */
  poll(): void {
    pollPads(this.hub);
  }

  advance(elapsed: number): void {
    this.poll();
    this.drive.advance(elapsed);
    this.#meshers[this.$driven.get()].look();
  }
}
