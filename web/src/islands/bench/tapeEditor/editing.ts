import { controls, type PartLane, type Tape, type TapePart, tapeOf, tapeParts, type World, withParts } from '@zygopod/core';
import { atom } from 'nanostores';
import { controlWords } from '../../drive/bindings.ts';
import { Steps } from '../../work/steps.ts';

/** An edited tape: its fixed content, and its parts. */
export interface TakenApart {
  base: Tape;
  parts: readonly TapePart[];
}

/** All lanes there can be, in their order. */
export const allLanes: readonly PartLane[] = [...controls, 'stick', 'point', 'swipe'];

export const laneWords = (lane: PartLane): string =>
  lane === 'stick' ? 'Stick' : lane === 'point' ? 'Points' : lane === 'swipe' ? 'Swipes' : controlWords[lane];

/** Describes a part with its value. */
export function partWords({ lane, at, direction }: TapePart): string {
  if (lane === 'stick' && at) {
    const angle = Math.round((Math.atan2(at[1], at[0]) * 180) / Math.PI);
    return `stick ${Math.hypot(at[0], at[1]).toFixed(2)} at ${angle}°`;
  }
  if (lane === 'point' && at) return `point ${at[0].toFixed(0)}, ${at[1].toFixed(0)}`;
  if (lane === 'swipe') return `swipe ${direction}`;
  return laneWords(lane);
}

/** A tape that is edited by hand: its parts with undo, and which of them is picked. */
export class TapeEditing {
  readonly steps: Steps<TakenApart>;
  /** The place of the picked part. */
  readonly $picked = atom<number | null>(null);
  /** Lanes that are shown although they hold nothing. */
  readonly $extra = atom<readonly PartLane[]>([]);

  /** The edited tape. */
  readonly source: Tape;

  constructor(tape: Tape, source = tape) {
    this.source = source;
    this.steps = new Steps({ base: tape, parts: tapeParts(tape) });
  }

  /** The tape as it is now. */
  get tape(): Tape {
    const { base, parts } = this.steps.$now.get();
    return withParts(base, parts);
  }

  put(parts: readonly TapePart[], what: string): void {
    this.steps.replace({ ...this.steps.$now.get(), parts }, what);
  }

  /** Another length, in ticks; parts beyond it are cut off. */
  setTicks(ticks: number): void {
    const { base, parts } = this.steps.$now.get();
    const kept = parts.filter(({ from }) => from < ticks).map((part) => (part.to > ticks ? { ...part, to: ticks } : part));
    this.$picked.set(null);
    this.steps.replace({ base: { ...base, ticks }, parts: kept }, 'length of the tape');
  }

  remove(index: number): void {
    const { parts } = this.steps.$now.get();
    const part = parts[index];
    if (!part) return;
    this.$picked.set(null);
    this.put(
      parts.filter((_, i) => i !== index),
      `remove ${partWords(part)}`,
    );
  }

  /** The lanes with parts, and the requested ones. */
  lanesOf({ parts }: TakenApart): PartLane[] {
    const extra = this.$extra.get();
    return allLanes.filter((lane) => extra.includes(lane) || parts.some((part) => part.lane === lane));
  }
}

/** Hands at rest for a while, to be written on, for the ground and the tuning of a world. */
export const emptyTape = ({ ground, parameters: { scheme, clock } }: Pick<World, 'ground' | 'parameters'>): Tape =>
  tapeOf({ name: 'Written by hand', ground: ground.name, scheme, hz: clock.hz, ticks: Math.round(4 * clock.hz), events: [] });
