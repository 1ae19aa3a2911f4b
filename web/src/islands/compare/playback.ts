import type { Tape } from '@zygopod/core';
import { atom } from 'nanostores';
import type { Pace } from '../drive/loop.ts';

/** A stalled page does not catch up more than this (s). */
const LONGEST_FRAME = 0.1;

interface Span {
  from: number;
  to: number;
}

/** The moment of a tape that is shown: played at a pace, all of it or a span over and over, or held. */
export abstract class Playback {
  readonly $playing = atom(false);
  readonly $pace = atom<Pace>(1);
  /** The span that is measured, s since the tape's beginning. */
  readonly $calipers = atom<Span | null>(null);
  /** The span that plays over and over; null: all of it. */
  readonly $span = atom<Span | null>(null);
  /** Seconds since the tape's beginning. */
  now = 0;

  /** The tape that plays. */
  abstract get hands(): Tape;

  /** Length of the tape, s. */
  get length(): number {
    return this.hands.ticks / this.hands.hz;
  }

  /** Time goes by, s. */
  protected play(elapsed: number): void {
    if (!this.$playing.get()) return;
    const { from, to } = this.$span.get() ?? { from: 0, to: this.length };
    this.now += Math.min(LONGEST_FRAME, elapsed) * this.$pace.get();
    if (this.now > to || this.now < from) this.now = from;
  }

  /** Holds at a moment. */
  goTo(time: number): void {
    this.$playing.set(false);
    this.now = Math.min(this.length, Math.max(0, time));
  }

  step(ticks: number): void {
    this.goTo(this.now + ticks / this.hands.hz);
  }

  /** Plays the measured span over and over. */
  loopCalipers(): void {
    const span = this.$calipers.get();
    if (span) this.loop(span.from, span.to);
  }

  /** Plays the span between two moments over and over. */
  loop(one: number, other: number): void {
    this.$span.set({ from: Math.min(one, other), to: Math.max(one, other) });
    this.$playing.set(true);
  }
}
