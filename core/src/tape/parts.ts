import { type Control, controls, type Swipe } from './controls.ts';
import type { Tape, TapeEvent } from './tape.ts';

/** The content of a tape's lane: one control, the stick, points, or swipes. */
export type PartLane = Control | 'stick' | 'point' | 'swipe';

/**
 * A piece of a tape as a hand edits it: a control held, or the stick pushed, from one tick to another (that one not included; the tape's
 * last tick: to the end), or a point or a swipe at a tick.
 */
export interface TapePart {
  lane: PartLane;
  from: number;
  to: number;
  /** The stick's deflection, or the world point. */
  at?: readonly [number, number];
  direction?: Swipe;
  /** It was held as the tape began: its beginning cannot be moved. */
  held?: boolean;
  /** Places of its two events in the tape that it was read from: ties within a tick keep their order. */
  order: readonly [number, number];
}

/** Places of events that are new: after all that were there. */
const NEW = 2e6;

export const isInstant = (lane: PartLane): boolean => lane === 'point' || lane === 'swipe';

/** The parts of a tape, by their beginnings. Presses of held controls and releases of others do nothing, and are left out. */
export function tapeParts(tape: Tape): TapePart[] {
  const parts: TapePart[] = [];
  const open = new Map<PartLane, TapePart>();
  const begin = (part: TapePart) => {
    parts.push(part);
    open.set(part.lane, part);
  };
  const end = (lane: PartLane, tick: number, order: number) => {
    const part = open.get(lane);
    if (!part) return;
    part.to = tick;
    part.order = [part.order[0], order];
    open.delete(lane);
  };
  const hands = tape.snapshot?.hands;
  for (const control of hands?.held ?? []) begin({ lane: control, from: 0, to: tape.ticks, held: true, order: [-1, NEW] });
  if (hands?.stick) begin({ lane: 'stick', from: 0, to: tape.ticks, at: hands.stick, held: true, order: [-1, NEW] });
  for (const [order, event] of tape.events.entries()) {
    const { at: tick } = event;
    if (tick >= tape.ticks) continue;
    if ('press' in event && event.press) {
      if (!open.has(event.press)) begin({ lane: event.press, from: tick, to: tape.ticks, order: [order, NEW] });
    } else if ('release' in event && event.release) end(event.release, tick, order);
    else if ('stick' in event && event.stick) {
      const [x, y] = event.stick;
      end('stick', tick, order);
      if (x !== 0 || y !== 0) begin({ lane: 'stick', from: tick, to: tape.ticks, at: [x, y], order: [order, NEW] });
    } else if ('point' in event && event.point) parts.push({ lane: 'point', from: tick, to: tick, at: event.point, order: [order, order] });
    else if ('swipe' in event && event.swipe)
      parts.push({ lane: 'swipe', from: tick, to: tick, direction: event.swipe, order: [order, order] });
  }
  return parts;
}

/** The tape with these parts instead of its own. What was held as it began and is there no more is held no more. */
export function withParts(tape: Tape, parts: readonly TapePart[]): Tape {
  const events: { event: TapeEvent; order: number }[] = [];
  const stick = parts.filter(({ lane }) => lane === 'stick');
  for (const { lane, from, to, at, direction, held, order } of parts) {
    const push = (event: TapeEvent, place: number) => {
      if (event.at < tape.ticks) events.push({ event, order: place });
    };
    if (lane === 'point' && at) push({ at: from, point: [at[0], at[1]] }, order[0]);
    else if (lane === 'swipe' && direction) push({ at: from, swipe: direction }, order[0]);
    else if (lane === 'stick' && at) {
      if (!held) push({ at: from, stick: [at[0], at[1]] }, order[0]);
      // Where the next push begins there is nothing to let go.
      if (!stick.some((next) => next.from === to && !next.held)) push({ at: to, stick: [0, 0] }, order[1]);
    } else if (controls.includes(lane as Control)) {
      if (!held) push({ at: from, press: lane as Control }, order[0]);
      // Pressed again in the tick in which it is let go: that comes after.
      const next = parts.find((other) => other.lane === lane && other.from === to && other.from > from);
      push({ at: to, release: lane as Control }, next ? Math.min(order[1], next.order[0] - 0.5) : order[1]);
    }
  }
  events.sort((a, b) => a.event.at - b.event.at || a.order - b.order);
  return { ...tape, ...withHeld(tape, parts), events: events.map(({ event }) => event) };
}

/** The snapshot with just those held that a part still says. */
function withHeld({ snapshot }: Tape, parts: readonly TapePart[]): Pick<Tape, 'snapshot'> {
  if (!snapshot) return {};
  const { held, stick, ...rest } = snapshot.hands;
  const still = held?.filter((control) => parts.some((part) => part.held && part.lane === control));
  const isPushed = stick && parts.some((part) => part.held && part.lane === 'stick');
  return {
    snapshot: { ...snapshot, hands: { ...rest, ...(still?.length ? { held: still } : {}), ...(isPushed ? { stick } : {}) } },
  };
}

/** Ticks that a part of this lane can have: between its neighbours, which it may touch, but not overlap. */
function room(parts: readonly TapePart[], part: TapePart, ticks: number): [number, number] {
  if (isInstant(part.lane)) return [0, ticks - 1];
  let [low, high] = [0, ticks];
  for (const other of parts) {
    if (other === part || other.lane !== part.lane) continue;
    if (other.from >= part.to) high = Math.min(high, other.from);
    else low = Math.max(low, other.to);
  }
  return [low, high];
}

const clamp = (value: number, low: number, high: number) => Math.min(high, Math.max(low, Math.round(value)));

/** The parts with one of them moved so that it begins at a tick, or as near as its neighbours let it. What was held as the tape began stays. */
export function movePart(parts: readonly TapePart[], part: TapePart, from: number, ticks: number): TapePart[] {
  if (part.held) return [...parts];
  const [low, high] = room(parts, part, ticks);
  const length = part.to - part.from;
  const at = clamp(from, low, high - length);
  return parts.map((one) => (one === part ? { ...part, from: at, to: at + length } : one));
}

/** The parts with an end of one of them at another tick: at least one tick long, not over its neighbours. */
export function stretchPart(parts: readonly TapePart[], part: TapePart, end: 'from' | 'to', tick: number, ticks: number): TapePart[] {
  if (isInstant(part.lane) || (part.held && end === 'from')) return [...parts];
  const [low, high] = room(parts, part, ticks);
  const moved = end === 'from' ? { from: clamp(tick, low, part.to - 1) } : { to: clamp(tick, part.from + 1, high) };
  return parts.map((one) => (one === part ? { ...part, ...moved } : one));
}

/** The parts with a new one of a given length at a tick, shorter if a neighbour comes before; null if there is no room. */
export function addPart(
  parts: readonly TapePart[],
  what: Pick<TapePart, 'lane' | 'at' | 'direction'>,
  from: number,
  length: number,
  ticks: number,
): TapePart[] | null {
  const at = clamp(from, 0, ticks - 1);
  if (isInstant(what.lane)) return [...parts, { ...what, from: at, to: at, order: [NEW, NEW] }];
  const same = parts.filter(({ lane }) => lane === what.lane);
  if (same.some((other) => at >= other.from && at < other.to)) return null;
  const next = Math.min(ticks, ...same.filter((other) => other.from > at).map((other) => other.from));
  const to = Math.min(next, at + Math.max(1, Math.round(length)));
  return [...parts, { ...what, from: at, to, order: [NEW, NEW] }];
}
