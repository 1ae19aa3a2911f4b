import { canonicalText, type Ground, hashText, type Lap, readTape, readTuning, type Tape, type TuningFile } from '@zygopod/core';
import { remember, rememberedJson } from '../controls/remember.ts';

/** A finished lap driven by hand. */
export interface HandLap {
  id: string;
  /** When it was finished, ms since 1970. */
  at: number;
  lap: Lap;
  /** Time of the tape (s) at which the body left the start. */
  began: number;
  tape: Tape;
  tuning: { id: string; revision: number; isDraft: boolean; file: TuningFile };
  /** A mark of the ground with its course: laps on another one are not compared. */
  ground: string;
  /** True if the tuning was changed during the lap. */
  isChanged: boolean;
}

export const touchWords = (touches: number): string => (touches === 1 ? '1 touch' : `${touches} touches`);

/** Laps of one ground at most: the slowest are deleted first. */
const MOST = 40;

export const lapKey = (ground: string) => `zygopod-laps:${ground}`;

/** Marks that are known: a large ground takes a while. */
const marks = new WeakMap<Ground, string>();

/** The mark of a ground: equal for grounds that differ in nothing but their names. */
export function groundMark(ground: Ground): string {
  const { name: _, ...rest } = ground;
  const mark = marks.get(ground) ?? hashText(canonicalText(rest));
  marks.set(ground, mark);
  return mark;
}

/** The mark of a lap's ground. Earlier versions kept the whole ground as JSON. */
function markOf(ground: string): string {
  if (!ground.startsWith('{')) return ground;
  try {
    return hashText(canonicalText(JSON.parse(ground)));
  } catch {
    return ground;
  }
}

/** Laps as they are kept, sorted by time; what can't be read as a lap is left out. */
function readLaps(kept: unknown): HandLap[] {
  const isLap = (one: HandLap | null) =>
    typeof one?.id === 'string' &&
    Number.isFinite(one.at) &&
    Number.isFinite(one.began) &&
    typeof one.ground === 'string' &&
    Number.isFinite(one.lap?.time) &&
    Array.isArray(one.lap.gates) &&
    one.lap.gates.every(Number.isFinite) &&
    readTape(one.tape).ok &&
    readTuning(one.tuning?.file).ok;
  const marked = (lap: HandLap): HandLap => ({ ...lap, ground: markOf(lap.ground) });
  return Array.isArray(kept) ? (kept as (HandLap | null)[]).filter(isLap).map((lap) => marked(lap as HandLap)) : [];
}

const fastestFirst = (laps: HandLap[]) => laps.sort((a, b) => a.lap.time - b.lap.time || a.at - b.at);

/** The laps driven by hand on a ground that this browser keeps, the fastest first. */
export function lapsOn(ground: string): HandLap[] {
  return fastestFirst(readLaps(rememberedJson(lapKey(ground))));
}

/** Changes the kept laps of a ground, those that other pages have kept included; returns what is kept. */
export function changeLaps(ground: string, change: (laps: HandLap[]) => HandLap[]): HandLap[] {
  const laps = fastestFirst(change(lapsOn(ground)));
  // The newest lap stays, however slow.
  const newest = laps.reduce<HandLap | null>((last, lap) => (last && last.at > lap.at ? last : lap), null);
  while (laps.length > MOST) laps.splice(laps.at(-1) === newest ? -2 : -1, 1);
  remember(lapKey(ground), JSON.stringify(laps));
  return laps;
}
