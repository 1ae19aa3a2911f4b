import { describe, expect, it } from 'vitest';
import { gaits } from '../motion/codes.ts';
import { EMPTIED, SPRINT_BEGAN } from '../motion/events.ts';
import type { Trace } from '../motion/trace.ts';
import type { TapeEvent } from '../tape/tape.ts';
import { seeds } from '../testing/campaign.ts';
import { drive, openGround } from '../testing/drive.ts';
import { sequence } from '../testing/sequence.ts';
import type { FileValue } from '../tuning/schema.ts';
import { type Parting, partings, type Side } from './partings.ts';

/** Each sentence is checked against both traces, by a reading of its own. */

const HZ = 60;
const SECONDS = 8;
const RADIUS = 12;
type Segment = readonly [number, number, number, number];

const oneOf = <T>(next: () => number, ...values: T[]) => values[Math.floor(next() * values.length)] as T;

function anyTuning(next: () => number): Record<string, FileValue> {
  return {
    'pace.walkSpeed': 80 + next() * 150,
    'pace.sprintKey': oneOf(next, 'hold', 'both'),
    'ramp.model': oneOf(next, 'instant', 'linear', 'smooth'),
    'ramp.accelerate': 200 + next() * 1500,
    'ramp.decelerate': 200 + next() * 1500,
    'ramp.turning': oneOf(next, 'vector', 'heading'),
    'stamina.enabled': next() < 0.7,
    'stamina.drain': 10 + next() * 60,
    'stamina.afterEmpty': oneOf(next, 'cancel', 'resume'),
    'stamina.startAt': next() * 40,
    'contact.wallFriction': oneOf(next, 0, 0, 1),
    'facing.turn': oneOf(next, 'instant', 'rate'),
    'facing.rate': 60 + next() * 600,
  };
}

function anyHands(next: () => number): TapeEvent[] {
  const down = new Set<string>();
  const events: TapeEvent[] = [];
  for (let at = 5; at < HZ * SECONDS; at += Math.ceil(next() * 50)) {
    const control = oneOf(next, 'right', 'right', 'down', 'up', 'left', 'sprint', 'sprint');
    events.push({ at, [down.has(control) ? 'release' : 'press']: control } as TapeEvent);
    if (!down.delete(control)) down.add(control);
  }
  return events;
}

const rows = (trace: Trace) => Array.from({ length: trace.end }, (_, row) => row);
const timesOf = (trace: Trace, bit: number) => rows(trace).flatMap((row) => (trace.at('events', row) & bit ? [trace.at('time', row)] : []));
const rowAt = (time: number) => Math.round(time * HZ);

/** The point of a segment that is nearest to a place, and how far it is. */
function nearest([ax, ay, bx, by]: Segment, x: number, y: number): { x: number; y: number; away: number } {
  const [ex, ey] = [bx - ax, by - ay];
  const share = Math.max(0, Math.min(1, ((x - ax) * ex + (y - ay) * ey) / (ex * ex + ey * ey)));
  const [px, py] = [ax + ex * share, ay + ey * share];
  return { x: px, y: py, away: Math.hypot(px - x, py - y) };
}

/** Places at which a body touches walls in a row to within `slack`: one that is met may be gone on from in the same tick. */
const touches = (trace: Trace, row: number, walls: readonly Segment[], slack = 0.05) =>
  trace.at('contacts', row) === 0
    ? []
    : walls.map((wall) => nearest(wall, trace.at('x', row), trace.at('y', row))).filter(({ away }) => away < RADIUS + slack);

/** Why a sentence is not true of both traces; null if it is. */
function untrue({ words, time }: Parting, sides: Record<string, Side>, walls: readonly Segment[]): string | null {
  const [, name = ''] = /^(\w+) /.exec(words) ?? [];
  const one = sides[name]?.trace;
  const other = Object.entries(sides).find(([key]) => key !== name)?.[1].trace as Trace;
  const near = (times: number[], at: number) => times.some((t) => Math.abs(t - at) < 0.011);
  const said = (pattern: RegExp) => pattern.exec(words)?.slice(1).map(Number);
  if (/apart/.test(words) || !one) return null;
  const row = rowAt(time);
  const later = said(/ ([\d.]+) s later$/)?.[0];
  if (/begins to sprint, /.test(words)) {
    if (!near(timesOf(one, SPRINT_BEGAN), time)) return 'no sprint begins';
    return gaits[other.at('gait', row)] === 'sprint' ? 'the other one sprints' : null;
  }
  if (/begins to sprint/.test(words) && later !== undefined)
    return near(timesOf(other, SPRINT_BEGAN), time) && near(timesOf(one, SPRINT_BEGAN), time + later) ? null : 'no such sprints';
  if (/runs empty, /.test(words)) return near(timesOf(one, EMPTIED), time) && timesOf(other, EMPTIED).length === 0 ? null : 'not so';
  if (/runs empty/.test(words) && later !== undefined)
    return near(timesOf(other, EMPTIED), time) && near(timesOf(one, EMPTIED), time + later) ? null : 'not so';
  if (/meets a wall/.test(words)) {
    const [place] = touches(one, row, walls, 0.05 + one.at('speed', row) / HZ).sort((a, b) => a.away - b.away);
    if (!place) return 'meets none';
    const there = rows(other).some((k) => touches(other, k, walls).some((at) => Math.hypot(at.x - place.x, at.y - place.y) < RADIUS));
    return there ? 'the other one touches it too' : null;
  }
  if (/starts slower/.test(words)) {
    const rested = (trace: Trace) => {
      let k = row;
      for (; k > 0 && trace.at('amount', k) > 0; k--) if (trace.at('contacts', k) > 0) return Number.NaN;
      return trace.at('speed', k) <= 1e-3 ? k : Number.NaN;
    };
    if (!(Math.abs(rested(one) - rested(other)) <= 1)) return 'they do not both start from rest';
    if (one.at('gait', row) !== other.at('gait', row)) return 'one of them sprints';
    return one.at('speed', row) < other.at('speed', row) ? null : 'is not slower';
  }
  if (/face different directions/.test(words)) {
    const off = Math.abs(((((one.at('facing', row) - other.at('facing', row)) % 360) + 540) % 360) - 180);
    return off > 30 ? null : 'look the same way';
  }
  if (/comes to rest/.test(words) && later !== undefined) {
    const rests = (trace: Trace) => {
      let k = trace.end - 1;
      while (k > 0 && trace.at('speed', k - 1) <= 1e-3) k--;
      return trace.at('time', k);
    };
    return Math.abs(rests(one) - rests(other) - later) < 0.011 ? null : 'not so';
  }
  if (/rests at the end/.test(words))
    return one.at('speed', one.end - 1) <= 1e-3 && other.at('speed', other.end - 1) > 1e-3 ? null : 'not so';
  return 'an unknown sentence';
}

describe('what is said of two sides', () => {
  it('is true of both traces, and said once', () => {
    const kinds = new Map<string, number>();
    const pairs = seeds(150, 2000);
    for (const seed of pairs) {
      const next = sequence(seed * 6_700_417);
      const walls = Array.from({ length: 6 }, (): Segment => {
        const [x, y, angle, length] = [next() * 800, next() * 600, next() * 7, 60 + next() * 250];
        return [x, y, x + Math.cos(angle) * length, y + Math.sin(angle) * length];
      });
      const ground = openGround({
        size: { width: 1200, height: 900 },
        start: { x: 400, y: 300 },
        walls: walls.map(([ax, ay, bx, by]) => ({
          points: [[ax, ay] as [number, number], [bx, by] as [number, number]],
          closed: false,
          solid: true,
        })),
      });
      const events = anyHands(next);
      const base = anyTuning(next);
      const changed = Object.fromEntries(Object.entries(anyTuning(next)).filter(() => next() < 0.3));
      const side = (name: string, values: Record<string, FileValue>): Side => {
        const world = drive(values, HZ * SECONDS, events, ground);
        return { name, trace: world.trace, parameters: world.parameters };
      };
      const sides = { A: side('A', base), B: side('B', { ...base, ...changed }) };
      const found = partings(sides.A, sides.B, 'px');
      expect(new Set(found.map(({ words }) => words)).size).toBe(found.length);
      for (const parting of found) {
        kinds.set(parting.kind, (kinds.get(parting.kind) ?? 0) + 1);
        expect(untrue(parting, sides, walls), `seed ${seed}: ${parting.time.toFixed(3)} ${parting.words}`).toBeNull();
      }
    }
    // Each kind of sentence has been said.
    for (const kind of ['start', 'sprint', 'empty', 'wall', 'turn', 'rest', 'body', 'most'])
      expect(kinds.get(kind), kind).toBeGreaterThan(0);
  });
});
