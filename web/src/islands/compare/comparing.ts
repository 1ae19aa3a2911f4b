import {
  apartAt,
  type Ground,
  inOrder,
  type Metrics,
  outAndBack,
  type Parameters,
  type Parting,
  partings,
  Rerun,
  type Tape,
  type Target,
  traceMetrics,
  type World,
} from '@zygopod/core';
import { atom, computed } from 'nanostores';
import type { Opening } from '../../server/data/openings.ts';
import type { Painter } from '../chart/frames.ts';
import { fetchChosen } from '../judging/targets.ts';
import { type Comparison, type DrivenBy, MOST_SIDES, type PilotChoice, type Ref, rates, type SideRef } from '../work/comparison.ts';
import { fetchTape } from '../work/fetching.ts';
import { Newest } from '../work/newest.ts';
import { currentOf } from '../work/work.ts';
import { type StripAxis, timeAxis } from './axis.ts';
import { Trials } from './blind/trials.ts';
import { LapHands, lapsDesk, noHands } from './laps/lapHands.ts';
import { shortNames } from './names.ts';
import { fetchComparison, fetchSide } from './opened.ts';
import { Playback } from './playback.ts';
import { atRate, type ComparedSide, type OpenedSide, type SideHands } from './sides.ts';

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
  readonly trials = new Trials(() => this.$sides.get());
  /** Grows with everything that is driven. */
  readonly $version = atom(0);
  /** The sides that the rates replaced. */
  #before: readonly OpenedSide[] | null = null;
  readonly #newest = new Newest();
  /** Each side's own hands round the course of the ground. */
  readonly laps: LapHands;

  constructor(opening: Opening, desk = lapsDesk()) {
    super();
    this.opening = opening;
    const compared = {
      sides: () => this.$sides.get(),
      ground: () => this.$ground.get(),
      changed: () => this.#takeHands(),
    };
    this.laps = new LapHands(compared, desk);
    const { ground } = opening;
    // A draft is in no revision that an address could name.
    const revision = ground.draft ? null : ground.head;
    this.$ground = atom({ ground: currentOf(ground), ref: { id: ground.id, revision } });
  }

  /** Fetches what an address names. */
  async open(search: string): Promise<void> {
    const { comparison, ground, tape, sides, troubles } = await fetchComparison(this.opening, search);
    if (ground) this.$ground.set(ground);
    if (tape) this.$tape.set(tape);
    this.$troubles.set(troubles);
    this.laps.$pilot.set(comparison.pilot);
    if (this.laps.hasCourse) this.laps.$by.set(comparison.by);
    this.now = comparison.at ?? 0;
    this.#lay(sides);
    if (comparison.at === null) this.$playing.set(true);
    const set = await fetchChosen(this.opening.tuning.id);
    if (set) this.$targets.set(set.targets);
  }

  /** Changes the sides as they are now, also while the rates are shown in their place. */
  #change(change: (sides: readonly OpenedSide[]) => readonly OpenedSide[]): void {
    if (this.#before) {
      this.#before = change(this.#before);
      this.#layRates();
    } else this.#lay(change(this.$sides.get()));
  }

  /** Begins to drive a tuning by its own hands, or by the tape. */
  #drive(parameters: Parameters, hands: SideHands | null, known: World | undefined): Rerun {
    const { tape } = this.$tape.get();
    // Laps are of even ticks: so they are driven again.
    const frames = hands ? undefined : 'uneven';
    const again = new Rerun(hands ? (hands.tape ?? noHands) : tape, parameters, this.$ground.get().ground, { known, most: MOST, frames });
    again.run(AT_ONCE);
    return again;
  }

  /** Drives the sides whose hands have come; the others stay as they are. */
  #takeHands(): void {
    const sides = this.$sides.get().map((side) => {
      const hands = this.laps.$by.get() === 'pilot' ? this.laps.of(side, side.parameters) : side.hands;
      return hands === side.hands ? side : { ...side, hands, again: this.#drive(side.parameters, hands, side.again.world) };
    });
    this.$sides.set(sides);
    this.#emit();
  }

  /** Puts these sides on the tape, or each on its own lap. */
  #lay(sides: readonly OpenedSide[]): void {
    const short = shortNames(sides);
    let known = this.$sides.get()[0]?.again.world;
    const laid = sides.map((side, i): ComparedSide => {
      const parameters = atRate(side.tuning, side.ref.rate);
      const hands = this.laps.isOn ? this.laps.of(side, parameters) : null;
      const again = this.#drive(parameters, hands, known);
      known ??= again.world;
      return { ...side, short: short[i] as string, parameters, again, hands };
    });
    this.$muted.set(new Set());
    this.$sides.set(laid);
    // While laps are driven, nobody knows how long they are.
    if (this.length > 0) this.now = Math.min(this.now, this.length);
    this.#emit();
    void this.trials.fetch();
  }

  beginTrial(): void {
    if (this.trials.begin(this.$ground.get())) this.$playing.set(false);
  }

  /** Drives the sides by one tape, or each by its own hands. */
  driveBy(by: DrivenBy): void {
    this.laps.$by.set(by);
    this.#relay();
  }

  choosePilot(choice: PilotChoice): void {
    this.laps.$pilot.set(choice);
    this.#relay();
  }

  /** Other hands: all sides from their beginning. */
  #relay(): void {
    this.$span.set(null);
    this.$calipers.set(null);
    this.now = 0;
    if (this.#before) this.#layRates();
    else this.#lay(this.$sides.get());
  }

  #emit(): void {
    this.$version.set(this.$version.get() + 1);
  }

  async add(ref: SideRef): Promise<void> {
    const side = await fetchSide(this.opening, ref);
    if ('why' in side) this.$troubles.set([side.why]);
    else this.#change((sides) => (sides.length < MOST_SIDES ? [...sides, side] : sides));
  }

  /** Replaces a side's revision; the one requested last is shown. */
  async change({ key }: Pick<ComparedSide, 'key'>, ref: SideRef): Promise<void> {
    const isNewest = this.#newest.ask(`side ${key}`);
    const side = await fetchSide(this.opening, ref);
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
    const even = this.laps.isOn ? rates.filter((rate) => rate !== 'uneven') : rates;
    if (first) this.#lay(even.map((rate) => ({ ...first, ref: { ...first.ref, rate } })));
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

  /** Length of the tape, or of the longest lap, s. */
  override get length(): number {
    if (!this.laps.isOn) return super.length;
    const laps = this.$sides.get().map((side) => this.laps.lapOf(side)?.lap.time ?? 0);
    return Math.max(...laps, 0);
  }

  /** Time of a side's trace at the tape's beginning, or as it left the start, s. */
  begins(side: ComparedSide): number {
    return this.laps.lapOf(side)?.along.began ?? side.again.world.trace.at('time', 0);
  }

  get isWhole(): boolean {
    return this.$sides.get().every(({ again }) => again.done === again.ticks);
  }

  /** True while frames would show nothing new: all is driven, nothing plays, and a trial's body is at rest. */
  get isStill(): boolean {
    const trial = this.trials.$trial.get();
    return this.isWhole && !this.$playing.get() && !(trial?.drive.$running.get() ?? false);
  }

  /** Reads the devices of a trial that send no events. */
  poll(): void {
    this.trials.$trial.get()?.poll();
  }

  /** A frame: what is left is driven on, and time goes by. */
  advance(elapsed: number): void {
    this.trials.$trial.get()?.advance(elapsed);
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

  /** The strip's axis: the time, or the first side's distance along the course. */
  get axis(): StripAxis {
    const [first] = this.shown;
    return (first && this.laps.axisOf(first.side)) ?? timeAxis(this.length);
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
      by: this.laps.$by.get(),
      pilot: this.laps.$pilot.get(),
      at: this.now,
    };
  }

  /** Metrics of each side's trace, and where the others diverge from the first; empty until all are simulated. */
  readonly $found = computed([this.$version], (): { metrics: Metrics[]; moments: Parting[] } => {
    const sides = this.$sides.get();
    if (!this.isWhole || this.laps.isOn) return { metrics: [], moments: [] };
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
