import { describe, expect, it } from 'vitest';
import { surveyCourse } from '../course/courseNotes.ts';
import { sequence } from '../testing/sequence.ts';
import { tuningWith } from '../testing/soundTuning.ts';
import { addGate, changeGate, gateNear, removeGate, reorderGate, setLaps } from './courseEdit.ts';
import { type Gate, type Ground, groundWith } from './ground.ts';
import { bucketWalls, WallIndex } from './wallIndex.ts';

const empty = groundWith({ name: 'Yard', size: { width: 600, height: 400 }, start: { x: 60, y: 200 } });
const gate = (x: number, y0 = 100, y1 = 300): Gate => ({ from: [x, y0], to: [x, y1] });

describe('a course', () => {
  it('is edited gate by gate as a list is: 300 random edits', () => {
    const next = sequence(3);
    let ground: Ground = empty;
    const list: Gate[] = [];
    for (let i = 0; i < 300; i++) {
      const at = Math.floor(next() * list.length);
      const to = Math.floor(next() * list.length);
      const what = next();
      if (what < 0.4 || list.length === 0) {
        ground = addGate(ground, gate(i));
        list.push(gate(i));
      } else if (what < 0.6) {
        ground = removeGate(ground, at);
        list.splice(at, 1);
      } else if (what < 0.8) {
        ground = changeGate(ground, at, gate(-i));
        list[at] = gate(-i);
      } else {
        ground = reorderGate(ground, at, to);
        list.splice(to, 0, ...list.splice(at, 1));
      }
      expect(ground.course?.gates ?? []).toEqual(list);
    }
    expect(setLaps(addGate(empty, gate(1)), 400).course?.laps).toBe(100);
    expect(removeGate(addGate(empty, gate(1)), 0)).toEqual(empty);
  });

  it('has a gate near a place: its ends before its line, the last drawn first', () => {
    const ground = [gate(100), gate(104)].reduce(addGate, empty);
    expect(gateNear(ground, 102, 102, 5)).toEqual({ gate: 1, part: 'from' });
    expect(gateNear(ground, 99, 299, 3)).toEqual({ gate: 0, part: 'to' });
    expect(gateNear(ground, 101, 200, 5)).toEqual({ gate: 1, part: 'line' });
    expect(gateNear(ground, 120, 200, 5)).toBeNull();
  });
});

describe('findings about a course', () => {
  const { parameters } = tuningWith({ 'body.radius': 12 });
  const notesOf = (gates: Gate[], over: Partial<Ground> = {}) => {
    const ground = groundWith({ ...empty, ...over, course: { gates, laps: 1 } });
    return surveyCourse(parameters, ground, new WallIndex(bucketWalls(ground)));
  };

  it('name what is odd about a gate, and where', () => {
    const words = (gates: Gate[], over = {}) => notesOf(gates, over)?.notes.map((note) => note.words);
    expect(words([gate(300)])).toEqual([]);
    expect(words([gate(300, 200, 200)])).toEqual(['Gate 1 has no length', 'Gate 1 can’t be reached: it has no length']);
    expect(words([gate(300), gate(700)])).toEqual([
      'Gate 2 lies outside of the ground',
      'Gate 2 can’t be reached: the body does not fit on it anywhere',
    ]);
    expect(words([gate(300), gate(300)])).toEqual(['Gate 2 is the same as the one before']);
    expect(words([gate(300, 195, 205)])).toEqual(['Gate 1 is narrower than the body (10 px)']);
    const block = {
      points: [
        [200, 50],
        [400, 50],
        [400, 350],
        [200, 350],
      ] as [number, number][],
      closed: true,
    };
    expect(words([gate(300)], { walls: [block] })).toEqual([
      'Gate 1 lies in a wall',
      'Gate 1 can’t be reached: the body does not fit on it anywhere',
    ]);
    expect(notesOf([gate(300), gate(500, 195, 205)])?.notes[0]).toMatchObject({ x: 500, y: 200 });
  });

  it('of 200 gates come in a moment', () => {
    const gates = Array.from({ length: 200 }, (_, i) => gate(80 + (i % 20) * 25, 60 + 5 * (i % 3), 340));
    const begun = performance.now();
    expect(notesOf(gates)?.path.blocked).toBeNull();
    expect(performance.now() - begun).toBeLessThan(5000);
  });
});
