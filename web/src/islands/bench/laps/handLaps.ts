import { type Ground, LapTimer, lapOf, readTuning, rerun, type Trace } from '@zygopod/core';
import { atom } from 'nanostores';
import type { Drive } from '../../drive/drive.ts';
import type { DriveListener } from '../../drive/listener.ts';
import { changeLaps, groundMark, type HandLap, lapKey, lapsOn } from '../../laps/lapStore.ts';

/** State of the present lap; none while the body did not begin at the start. */
export type LapState = 'none' | 'waiting' | 'driving' | 'finished';

/** Ticks of a lap that are shown as a ghost at most: ten minutes at a rate of 144 Hz. */
const MOST = 86_400;

/** The tuning that drives, as a lap records it. */
export type DrivenTuning = HandLap['tuning'];

/** Times laps that are driven by hand round the course of the ground, and keeps the finished ones in this browser. */
export class HandLaps implements DriveListener {
  readonly $laps = atom<readonly HandLap[]>([]);
  readonly $state = atom<LapState>('none');
  readonly timer: LapTimer;
  /** True if the finished lap is kept: one whose beginning is not recorded any more can't be. */
  isKept = false;
  /** True if the tuning was changed since the lap began. */
  isChanged = false;
  /** The best lap before the present one: what its splits are measured against. */
  rival: HandLap | null = null;
  #ghost: { lap: HandLap; trace: Trace; body: ReturnType<typeof bodyOf> } | null = null;
  readonly #drive: Drive;
  /** The ground's document. */
  readonly id: string;
  readonly #tuning: () => DrivenTuning;
  readonly ground: Ground;
  readonly #ground: string;

  /** `id` names the ground's document; `tuning` returns the tuning that drives. */
  constructor(drive: Drive, id: string, tuning: () => DrivenTuning) {
    this.#drive = drive;
    this.id = id;
    this.#tuning = tuning;
    const { ground } = drive.world;
    this.ground = ground;
    this.#ground = groundMark(ground);
    this.timer = new LapTimer(ground);
    if (this.hasCourse) this.$laps.set(lapsOn(id));
  }

  get hasCourse(): boolean {
    return this.timer.lines.length > 0;
  }

  /** Follows the drive and the laps of other pages until the returned function is called. */
  start(): () => void {
    if (!this.hasCourse) return () => {};
    this.#drive.listener = this;
    const { world } = this.#drive;
    if (world.trace.end - world.trace.first === 1 && !this.#drive.$start.get()) this.began();
    const others = ({ key }: StorageEvent) => {
      if (key === lapKey(this.id) || key === null) this.$laps.set(lapsOn(this.id));
    };
    window.addEventListener('storage', others);
    return () => {
      window.removeEventListener('storage', others);
      this.#drive.listener = null;
    };
  }

  /** True with a tick per frame: such a lap can't be driven again. */
  get #isPerFrame(): boolean {
    return this.#drive.live.parameters.clock.stepping === 'perFrame';
  }

  /** The fastest lap on this ground as it is now, driven with one tuning. */
  get best(): HandLap | null {
    return this.$laps.get().find((lap) => !lap.isChanged && this.isHere(lap)) ?? null;
  }

  /** True for a lap on the ground as it is now. */
  isHere(lap: HandLap): boolean {
    return lap.ground === this.#ground;
  }

  /** The best lap's path and body, driven again with its own tuning. */
  get ghost(): { lap: HandLap; trace: Trace; body: ReturnType<typeof bodyOf> } | null {
    const { rival } = this;
    if (!rival) return null;
    if (this.#ghost?.lap !== rival) {
      const read = readTuning(rival.tuning.file);
      if (!read.ok) return null;
      const { parameters } = read.value;
      const { trace } = rerun(rival.tape, parameters, this.#drive.live.ground, { known: this.#drive.live, most: MOST });
      this.#ghost = { lap: rival, trace, body: bodyOf(parameters) };
    }
    return this.#ghost;
  }

  /** Time of the ghost's trace (s) at a time of the present drive: both leave the start together. */
  rivalTime(time: number): number {
    const began = this.rival?.began ?? 0;
    return this.timer.began < 0 ? began : began + time - this.timer.began;
  }

  /** Seconds of the present lap: 0 before it began, its time once it is finished. */
  get time(): number {
    const { timer } = this;
    if (timer.isFinished) return timer.times.at(-1) as number;
    return timer.began < 0 ? 0 : timer.now - timer.began;
  }

  /** Seconds behind the best lap at a crossing (negative: ahead); null without one to compare with. */
  behindAt(crossing: number): number | null {
    const other = this.rival?.lap.gates[crossing];
    const own = this.timer.times[crossing];
    return other === undefined || own === undefined || crossing >= this.timer.crossed ? null : own - other;
  }

  remove(id: string): void {
    this.$laps.set(changeLaps(this.id, (laps) => laps.filter((lap) => lap.id !== id)));
    if (this.rival?.id === id) this.rival = this.best;
  }

  began(): void {
    if (this.#isPerFrame) {
      this.ended();
      return;
    }
    const { trace } = this.#drive.live;
    this.timer.begin(trace, trace.end - 1);
    this.isChanged = false;
    this.rival = this.best;
    this.$state.set('waiting');
  }

  ended(): void {
    this.$state.set('none');
  }

  retuned(): void {
    if (this.#isPerFrame) this.ended();
    if (this.timer.began >= 0) this.isChanged = true;
  }

  ticked(): void {
    const state = this.$state.get();
    if (state !== 'waiting' && state !== 'driving') return;
    const { trace } = this.#drive.live;
    this.timer.read(trace, trace.end - 1);
    if (this.timer.isFinished) this.#finish();
    else if (this.timer.began >= 0 && state === 'waiting') this.$state.set('driving');
  }

  #finish(): void {
    this.isKept = this.#keep();
    this.$state.set('finished');
  }

  /** Keeps the finished lap; false if its beginning is not recorded any more. */
  #keep(): boolean {
    const tape = this.#drive.beginning?.tick === 0 ? this.#drive.cut('Lap by hand', null) : null;
    if (!tape) return false;
    const lap: HandLap = {
      id: crypto.randomUUID(),
      at: Date.now(),
      lap: lapOf(this.timer, tape.events, tape.hz),
      // Without a minus before zero: as JSON gives it back.
      began: this.timer.began + 0,
      tape,
      tuning: this.#tuning(),
      ground: this.#ground,
      isChanged: this.isChanged,
    };
    this.$laps.set(changeLaps(this.id, (laps) => [...laps, lap]));
    return true;
  }
}

const bodyOf = ({ body }: Drive['world']['parameters']) => body;
