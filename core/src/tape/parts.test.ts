import { describe, expect, it } from 'vitest';
import { anyEvents } from '../testing/anyHands.ts';
import { sequence } from '../testing/sequence.ts';
import { controls } from './controls.ts';
import { addPart, isInstant, movePart, stretchPart, type TapePart, tapeParts, withParts } from './parts.ts';
import { Replay } from './replay.ts';
import { readTape, type Tape, tapeOf } from './tape.ts';

function anyTape(next: () => number): Tape {
  const ticks = 20 + Math.floor(next() * 200);
  const events: Tape['events'] = [];
  for (let at = 0; at < ticks; at++) if (next() < 0.3) events.push(...anyEvents(next).map((event) => ({ at, ...event })));
  const held = controls.filter(() => next() < 0.15);
  const stick: [number, number] = [next() * 2 - 1, next() * 2 - 1];
  const hands = { ...(held.length > 0 ? { held } : {}), ...(next() < 0.3 ? { stick } : {}) };
  return tapeOf({ name: 'Any', hz: 60, ticks, ...(next() < 0.6 ? { snapshot: { hands } } : {}), events });
}

/** The held controls of every tick, however the hands came to hold them. */
function ticksOf(tape: Tape): string[] {
  const replay = new Replay(tape, tape.hz);
  return Array.from({ length: tape.ticks }, () => {
    const { held, stickX, stickY, pointX, pointY, swipe } = replay.next();
    const rank = [...held].filter((order) => order > 0).sort((a, b) => a - b);
    return JSON.stringify([[...held].map((order) => rank.indexOf(order)), stickX + 0, stickY + 0, pointX, pointY, swipe]);
  });
}

const isGood = (tape: Tape) => readTape(JSON.parse(JSON.stringify(tape))).ok;

/** Parts of one lane that overlap. */
const overlaps = (parts: readonly TapePart[]) =>
  parts.some((a) => parts.some((b) => a !== b && a.lane === b.lane && !isInstant(a.lane) && a.from < b.to && b.from < a.to));

describe('the parts of a tape', () => {
  it('make the same tape again', () => {
    for (let seed = 1; seed <= 300; seed++) {
      const tape = anyTape(sequence(seed * 31));
      const again = withParts(tape, tapeParts(tape));
      expect(ticksOf(again), `seed ${seed}`).toEqual(ticksOf(tape));
      expect(isGood(again), `seed ${seed}`).toBe(true);
      expect(withParts(again, tapeParts(again)).events, `seed ${seed}`).toEqual(again.events);
    }
  });

  it('never overlap, and stay a good tape, whatever is moved, stretched, added and taken away', () => {
    for (let seed = 1; seed <= 120; seed++) {
      const next = sequence(seed * 17);
      const tape = anyTape(next);
      let parts = tapeParts(tape);
      for (let deed = 0; deed < 25; deed++) {
        const part = parts[Math.floor(next() * parts.length)];
        const tick = (next() * 1.4 - 0.2) * tape.ticks;
        const kind = next();
        if (kind < 0.3 || !part) {
          const lane = [...controls, 'stick', 'point', 'swipe'][Math.floor(next() * 14)] as TapePart['lane'];
          parts = addPart(parts, { lane, at: [0.5, -0.5], direction: 'up' }, tick, next() * 60, tape.ticks) ?? parts;
        } else if (kind < 0.6) parts = movePart(parts, part, tick, tape.ticks);
        else if (kind < 0.9) parts = stretchPart(parts, part, next() < 0.5 ? 'from' : 'to', tick, tape.ticks);
        else parts = parts.filter((one) => one !== part);
        expect(overlaps(parts), `seed ${seed}`).toBe(false);
        for (const { from, to, lane } of parts) {
          expect(from, `seed ${seed}`).toBeGreaterThanOrEqual(0);
          expect(to, `seed ${seed}`).toBeLessThanOrEqual(tape.ticks);
          expect(to - from, `seed ${seed}, ${lane}`).toBeGreaterThanOrEqual(0);
        }
        expect(isGood(withParts(tape, parts)), `seed ${seed}`).toBe(true);
      }
    }
  });

  it('hold what they say: each control is down from its beginning to its end', () => {
    for (let seed = 1; seed <= 100; seed++) {
      const next = sequence(seed * 7);
      const tape = { ...anyTape(next), events: [], snapshot: undefined };
      let parts: TapePart[] = [];
      for (let i = 0; i < 12; i++)
        parts =
          addPart(
            parts,
            { lane: controls[Math.floor(next() * 4)] as TapePart['lane'] },
            next() * tape.ticks,
            1 + next() * 40,
            tape.ticks,
          ) ?? parts;
      const replay = new Replay(withParts(tape, parts), 60);
      for (let tick = 0; tick < tape.ticks; tick++) {
        const hands = replay.next();
        for (const [i, control] of controls.entries())
          expect(hands.held[i] !== 0, `seed ${seed}, ${control} in tick ${tick}`).toBe(
            parts.some(({ lane, from, to }) => lane === control && tick >= from && tick < to),
          );
      }
    }
  });

  it('that were held as the tape began keep their beginning, and can be let go', () => {
    const tape = tapeOf({ name: 'Held', hz: 60, ticks: 50, snapshot: { hands: { held: ['up'] } }, events: [] });
    const parts = tapeParts(tape);
    const [held] = parts as [TapePart];
    expect(movePart(parts, held, 9, 50)).toEqual(parts);
    expect(stretchPart(parts, held, 'from', 9, 50)).toEqual(parts);
    expect(withParts(tape, stretchPart(parts, held, 'to', 9, 50)).events).toEqual([{ at: 9, release: 'up' }]);
    expect(withParts(tape, []).snapshot?.hands).toEqual({});
  });
});
