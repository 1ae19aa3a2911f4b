import { type Tape, tapeOf } from '@zygopod/core';
import { beforeEach, describe, expect, it } from 'vitest';
import { Playback } from './playback.ts';

class Played extends Playback {
  readonly hands: Tape = tapeOf({ name: 'Four seconds', hz: 50, ticks: 200, events: [] });
  frames(count: number): number[] {
    return Array.from({ length: count }, () => {
      this.play(1 / 60);
      return this.now;
    });
  }
}

let played: Played;
beforeEach(() => {
  played = new Played();
});

describe('what is played together', () => {
  it('goes on with the time, at its pace, and begins again at the end', () => {
    expect(played.length).toBe(4);
    expect(played.frames(10)).toEqual(Array.from({ length: 10 }, () => 0));
    played.$playing.set(true);
    expect(played.frames(60).at(-1)).toBeCloseTo(1, 9);
    played.$pace.set(0.25);
    expect(played.frames(60).at(-1)).toBeCloseTo(1.25, 9);
    played.$pace.set(1);
    const seen = played.frames(400);
    expect(Math.max(...seen)).toBeLessThanOrEqual(4);
    expect(seen.filter((now, i) => i > 0 && now < (seen[i - 1] as number))).toHaveLength(1);
  });

  it('stays within a span, whichever end of it was drawn first, wherever it was', () => {
    played.goTo(3.9);
    played.$calipers.set({ from: 2.5, to: 1.5 });
    played.loopCalipers();
    const seen = played.frames(300);
    expect(Math.min(...seen)).toBeGreaterThanOrEqual(1.5);
    expect(Math.max(...seen)).toBeLessThanOrEqual(2.5);
    played.$calipers.set(null);
    played.goTo(0.5);
    played.loopCalipers();
    expect(played.$playing.get()).toBe(false);
  });

  it('is held at a moment of the tape, and goes by its ticks', () => {
    played.goTo(99);
    expect(played.now).toBe(4);
    played.goTo(-1);
    played.step(3);
    expect(played.now).toBeCloseTo(0.06, 9);
    played.step(-9);
    expect(played.now).toBe(0);
  });

  it('does not jump when the page was asleep', () => {
    played.$playing.set(true);
    (played as unknown as { play(elapsed: number): void }).play(60);
    expect(played.now).toBeLessThanOrEqual(0.1);
  });
});
