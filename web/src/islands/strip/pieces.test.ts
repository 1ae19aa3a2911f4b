import { type Column, type Trace, World } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { Recorder } from '../../../../core/src/tape/recorder.ts';
import { anyEvents } from '../../../../core/src/testing/anyHands.ts';
import { openGround, parametersWith } from '../../../../core/src/testing/drive.ts';
import { sequence } from '../../../../core/src/testing/sequence.ts';
import { eachPiece } from './pieces.ts';

const columns: readonly Column[] = ['speed', 'gait', 'stamina', 'facing', 'events'];

/** Holds pieces against the rows themselves. */
function check(trace: Trace, next: () => number, what: string): void {
  const column = columns[Math.floor(next() * columns.length)] as Column;
  const from = trace.first + Math.floor(next() * (trace.end - trace.first));
  const to = from + Math.floor(next() * (trace.end - from));
  const most = 2 ** (next() * 9);
  let row = from;
  eachPiece(trace, column, from, to, most, (first, last, low, high, value) => {
    expect(first, what).toBe(row);
    expect(last - first + 1, what).toBeLessThanOrEqual(Math.max(1, most));
    const values = Array.from({ length: last - first + 1 }, (_, i) => trace.at(column, first + i));
    expect([low, high, value], `${what}, ${column} ${first} to ${last}`).toEqual([Math.min(...values), Math.max(...values), values.at(-1)]);
    row = last + 1;
  });
  expect(row, what).toBe(to + 1);
}

describe('the pieces of a trace', () => {
  it('are its rows, whatever was written, overwritten and restarted', () => {
    for (let seed = 1; seed <= 25; seed++) {
      const next = sequence(seed * 13);
      const world = new World(parametersWith({ 'stamina.enabled': true }), openGround({}), 100 + Math.floor(next() * 900));
      const recorder = new Recorder(0);
      for (let stretch = 0; stretch < 12; stretch++) {
        if (next() < 0.15) world.restart();
        for (let tick = Math.floor(next() * 700); tick > 0; tick--) {
          if (tick % 7 === 0) for (const event of anyEvents(next)) recorder.push(event);
          world.tick(recorder.next());
        }
        for (let i = 0; i < 6; i++) check(world.trace, next, `seed ${seed}`);
      }
    }
  });

  it('of a long trace are few', () => {
    const world = new World(parametersWith({}), openGround({}), 36_000);
    const recorder = new Recorder(0);
    for (let tick = 0; tick < 36_000; tick++) world.tick(recorder.next());
    let pieces = 0;
    eachPiece(world.trace, 'speed', 0, 36_000, 31, () => pieces++);
    expect(pieces).toBeLessThan(2300);
  });
});
