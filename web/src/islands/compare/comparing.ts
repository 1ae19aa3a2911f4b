import {
  apartAt,
  type Ground,
  inOrder,
  type Metrics,
  outAndBack,
  type Parting,
  partings,
  Rerun,
  type Tape,
  type Target,
  traceMetrics,
} from '@zygopod/core';
import { atom, computed } from 'nanostores';
import type { Opening } from '../../server/data/openings.ts';
import type { Painter } from '../chart/frames.ts';
import { fetchChosen } from '../judging/targets.ts';
import { Newest } from '../work/newest.ts';
import { currentOf } from '../work/work.ts';
import { type Comparison, MOST_SIDES, type Ref, rates, readComparison, type SideRef } from './address.ts';
import type { KeptRound } from './blind/rounds.ts';
import { type BlindSide, BlindTrial, fetchRounds } from './blind/trial.ts';
import { fetchGround, fetchTape, fetchTuning, likeliestOther } from './fetching.ts';
import { shortNames } from './names.ts';
import { Playback } from './playback.ts';
import { atRate, type ComparedSide, type OpenedSide, openedSide, openedTuning } from './sides.ts';

/** Ticks that a side is driven at once, and how long (ms) the rest may take in a frame, a piece at a time. */
const AT_ONCE = 1000;
const SLICE = 9;
const PIECE = 250;
/** Ticks of a side at most: ten minutes at 144 Hz. */
const MOST = 86_400;

/** Tunings side by side on one tape and one ground: what they do with the same hands, and the moment that is shown of it. */
export class Comparing extends Playback {
  readonly opening: Opening;
  readonly painters = new Set<Painter>();
  readonly $sides = atom<readonly ComparedSide[]>([]);
  readonly $tape = atom<{ tape: Tape; ref: Ref | null }>({ tape: outAndBack, ref: null });
  readonly $ground: ReturnType<typeof atom<{ ground: Ground; ref: Ref }>>;
  /** Sides that are not drawn, by their places. */
  readonly $muted = atom<ReadonlySet<number>>(new Set());
  /** The targets that the first tuning is judged by. */
  readonly $targets = atom<readonly Target[]>([]);
  /** Fetch failures, in words. */
  readonly $troubles = atom<readonly string[]>([]);
  /** The running trial, shown instead of the comparison. */
  readonly $trial = atom<BlindTrial | null>(null);
  /** The rounds of trials between the tunings of the first two sides. */
  readonly $rounds = atom<readonly KeptRound[]>([]);
  /** Grows with everything that is driven. */
  readonly $version = atom(0);
  /** The sides that the rates replaced. */
  #before: readonly OpenedSide[] | null = null;
  readonly #newest = new Newest();

  constructor(opening: Opening) {
    super();
    this.opening = opening;
    const { ground } = opening;
    // A draft is in no revision that an address could name.
    const revision = ground.draft ? null : ground.head;
    this.$ground = atom({ ground: currentOf(ground), ref: { id: ground.id, revision } });
  }

  /** Fetches what an address names. */
  async open(search: string): Promise<void> {
    const { tuning, ground, tape } = this.opening;
    const first: SideRef = { id: tuning.id, revision: null, rate: null };
    const wanted = readComparison(search, {
      sides: [],
      ground: { id: ground.id, revision: null },
      tape: tape && { id: tape.id, revision: null },
      at: null,
    });
    const refs = wanted.sides.length > 0 ? wanted.sides : await this.#firstSides(first);
    const troubles: string[] = [];
    const [theGround, theTape, ...tunings] = await Promise.all([
      wanted.ground.revision === null ? null : fetchGround(wanted.ground),
      wanted.tape && fetchTape(wanted.tape),
      ...refs.map((ref) => this.#fetch(ref)),
    ]);
    if (theGround?.ok) this.$ground.set({ ground: theGround.fetched.value, ref: wanted.ground });
    else if (theGround) troubles.push(theGround.why);
    if (theTape?.ok)
      this.$tape.set({ tape: theTape.fetched.value, ref: { id: (wanted.tape as Ref).id, revision: theTape.fetched.revision } });
    else if (theTape) troubles.push(`${theTape.why} These are the hands of “${outAndBack.name}” instead.`);
    const sides: OpenedSide[] = [];
    for (const answer of tunings) {
      if ('why' in answer) troubles.push(answer.why);
      else sides.push(answer);
    }
    if (sides.length === 0) sides.push(openedTuning(this.opening, null));
    this.$troubles.set(troubles);
    this.now = wanted.at ?? 0;
    this.#lay(sides);
    if (wanted.at === null) this.$playing.set(true);
    const set = await fetchChosen(tuning.id);
    if (set) this.$targets.set(set.targets);
  }

  /** The first tuning to compare with: the last revision if it was changed, else the one before, else the most similar tuning. */
  async #firstSides(first: SideRef): Promise<SideRef[]> {
    const { tuning } = this.opening;
    if (tuning.draft) return [first, { ...first, revision: tuning.head }];
    if (tuning.head > 1) return [first, { ...first, revision: tuning.head - 1 }];
    const other = await likeliestOther(tuning.id, tuning.saved.name);
    return other ? [first, { id: other, revision: null, rate: null }] : [first];
  }

  async #fetch(ref: SideRef): Promise<OpenedSide | { why: string }> {
    if (ref.id === this.opening.tuning.id && ref.revision === null) return openedTuning(this.opening, ref.rate);
    const answer = await fetchTuning(ref);
    return answer.ok ? openedSide(ref, answer.fetched) : { why: answer.why };
  }

  /** Changes the sides as they are now, also while the rates are shown in their place. */
  #change(change: (sides: readonly OpenedSide[]) => readonly OpenedSide[]): void {
    if (this.#before) {
      this.#before = change(this.#before);
      this.#layRates();
    } else this.#lay(change(this.$sides.get()));
  }

  /** Puts these sides on the tape. */
  #lay(sides: readonly OpenedSide[]): void {
    const short = shortNames(sides);
    const { ground } = this.$ground.get();
    const { tape } = this.$tape.get();
    let known = this.$sides.get()[0]?.again.world;
    const laid = sides.map((side, i): ComparedSide => {
      const parameters = atRate(side.tuning, side.ref.rate);
      const again = new Rerun(tape, parameters, ground, { known, most: MOST, frames: 'uneven' });
      again.run(AT_ONCE);
      known ??= again.world;
      return { ...side, short: short[i] as string, parameters, again };
    });
    this.$muted.set(new Set());
    this.$sides.set(laid);
    this.now = Math.min(this.now, this.length);
    this.#emit();
    void this.#fetchRounds();
  }

  async #fetchRounds(): Promise<void> {
    const isNewest = this.#newest.ask('rounds');
    const [a, b] = this.blindSides;
    const rounds = a && b ? await fetchRounds(a.side.id, b.side.id) : null;
    if (isNewest()) this.$rounds.set(rounds ?? []);
  }

  /** The first two sides as a trial takes them: revisions, at their own rates. Fewer where they are none. */
  get blindSides(): BlindSide[] {
    return this.$sides
      .get()
      .slice(0, 2)
      .flatMap(({ ref: { id, revision, rate }, name, short, parameters }) =>
        revision === null || rate !== null ? [] : [{ side: { id, revision, name }, short, parameters }],
      );
  }

  beginTrial(): void {
    const [a, b] = this.blindSides;
    if (!a || !b) return;
    this.$playing.set(false);
    const { ground, ref } = this.$ground.get();
    const trial = new BlindTrial(a, b, ground, ref.id);
    trial.$rounds.set(this.$rounds.get());
    this.$trial.set(trial);
  }

  leaveTrial(): void {
    this.$rounds.set(this.$trial.get()?.$rounds.get() ?? []);
    this.$trial.set(null);
  }

  #emit(): void {
    this.$version.set(this.$version.get() + 1);
  }

  async add(ref: SideRef): Promise<void> {
    const side = await this.#fetch(ref);
    if ('why' in side) this.$troubles.set([side.why]);
    else this.#change((sides) => (sides.length < MOST_SIDES ? [...sides, side] : sides));
  }

  /** Replaces a side's revision; the one requested last is shown. */
  async change({ key }: Pick<ComparedSide, 'key'>, ref: SideRef): Promise<void> {
    const isNewest = this.#newest.ask(`side ${key}`);
    const side = await this.#fetch(ref);
    if (!isNewest()) return;
    if ('why' in side) this.$troubles.set([side.why]);
    else this.#change((sides) => sides.map((old) => (old.key === key ? { ...side, key } : old)));
  }

  remove(index: number): void {
    this.#lay(this.$sides.get().filter((_, i) => i !== index));
  }

  swap(): void {
    const [first, second, ...rest] = this.$sides.get();
    if (first && second) this.#lay([second, first, ...rest]);
  }

  /** The first side at all rates, in place of all sides; and back. */
  toggleRates(): void {
    const sides = this.#before;
    this.#before = sides ? null : this.$sides.get();
    if (sides) this.#lay(sides);
    else this.#layRates();
  }

  #layRates(): void {
    const [first] = this.#before ?? [];
    if (first) this.#lay(rates.map((rate) => ({ ...first, ref: { ...first.ref, rate } })));
  }

  async takeTape(ref: Ref): Promise<void> {
    const isNewest = this.#newest.ask('tape');
    const answer = await fetchTape(ref);
    if (!isNewest()) return;
    if (!answer.ok) {
      this.$troubles.set([answer.why]);
      return;
    }
    this.$tape.set({ tape: answer.fetched.value, ref: { id: ref.id, revision: answer.fetched.revision } });
    this.$span.set(null);
    this.$calipers.set(null);
    this.now = 0;
    this.#lay(this.$sides.get());
  }

  mute(index: number): void {
    const muted = new Set(this.$muted.get());
    if (!muted.delete(index)) muted.add(index);
    this.$muted.set(muted);
  }

  /** Show only this side; all of them where it is alone already. */
  alone(index: number): void {
    const others = this.$sides.get().flatMap((_, i) => (i === index ? [] : [i]));
    const isAlone = others.length > 0 && others.every((i) => this.$muted.get().has(i)) && !this.$muted.get().has(index);
    this.$muted.set(new Set(isAlone ? [] : others));
  }

  /** The sides that are drawn, with their places. */
  get shown(): { side: ComparedSide; index: number }[] {
    const muted = this.$muted.get();
    return this.$sides.get().flatMap((side, index) => (muted.has(index) ? [] : [{ side, index }]));
  }

  get hands(): Tape {
    return this.$tape.get().tape;
  }

  /** Time of a side's trace at the tape's beginning, s. */
  begins({ again }: ComparedSide): number {
    return again.world.trace.at('time', 0);
  }

  get isWhole(): boolean {
    return this.$sides.get().every(({ again }) => again.done === again.ticks);
  }

  /** True while frames would show nothing new: all is driven, nothing plays, and a trial's body is at rest. */
  get isStill(): boolean {
    const trial = this.$trial.get();
    return this.isWhole && !this.$playing.get() && !(trial?.drive.$running.get() ?? false);
  }

  /** Reads the devices of a trial that send no events. */
  poll(): void {
    this.$trial.get()?.poll();
  }

  /** A frame: what is left is driven on, and time goes by. */
  advance(elapsed: number): void {
    this.$trial.get()?.advance(elapsed);
    this.#goOn();
    this.play(elapsed);
  }

  #goOn(): void {
    const left = () => this.$sides.get().find(({ again }) => again.done < again.ticks)?.again;
    if (!left()) return;
    const begun = performance.now();
    for (let one = left(); one && performance.now() - begun < SLICE; one = left()) one.run(PIECE);
    this.#emit();
  }

  /** How far a side is from the first one that is shown, at a time since the tape's beginning. */
  apart(first: ComparedSide, other: ComparedSide, time: number): number {
    return apartAt(first.again.world.trace, other.again.world.trace, this.begins(first) + time);
  }

  /** This comparison as an address. */
  get comparison(): Comparison {
    return {
      sides: this.$sides.get().map(({ ref }) => ref),
      ground: this.$ground.get().ref,
      tape: this.$tape.get().ref,
      at: this.now,
    };
  }

  /** Metrics of each side's trace, and where the others diverge from the first; empty until all are simulated. */
  readonly $found = computed([this.$version], (): { metrics: Metrics[]; moments: Parting[] } => {
    const sides = this.$sides.get();
    if (!this.isWhole) return { metrics: [], moments: [] };
    const [first, ...others] = sides;
    const described = ({ short, again, parameters }: ComparedSide) => ({ name: short, trace: again.world.trace, parameters });
    const { unit } = this.$ground.get().ground;
    const moments = first ? others.flatMap((other) => partings(described(first), described(other), unit)) : [];
    return {
      metrics: sides.map(({ again }) => traceMetrics(again.world.trace, again.world.parameters)),
      moments: inOrder(moments),
    };
  });
}
