import { describe, expect, it } from 'vitest';
import { type Change, LISTENERS, listenToChanges, passOn } from './changes.ts';

const change = (head: number): Change => ({ kind: 'tuning', id: 'T', head, is: 'saved' });

describe('changes', () => {
  it('are heard by all who listen, until they stop', () => {
    const heard: [string, number][] = [];
    const stops = ['a', 'b'].map((name) => listenToChanges((change) => heard.push([name, change?.head ?? 0])));
    passOn(change(1));
    stops[0]?.();
    passOn(change(2));
    stops[1]?.();
    passOn(change(3));
    expect(heard).toEqual([
      ['a', 1],
      ['b', 1],
      ['b', 2],
    ]);
  });

  it('reach everyone, past a closed client, which is tried once', () => {
    let polls = 0;
    const heard: number[] = [];
    listenToChanges(() => {
      polls++;
      throw new TypeError('closed');
    });
    const stop = listenToChanges((change) => heard.push(change?.head ?? 0));
    expect(() => passOn(change(1))).not.toThrow();
    passOn(change(2));
    stop?.();
    expect([polls, heard]).toEqual([1, [1, 2]]);
  });

  it('have a limit of listeners; one that leaves makes room', () => {
    const stops = Array.from({ length: LISTENERS }, () => listenToChanges(() => undefined));
    expect(listenToChanges(() => undefined)).toBeNull();
    stops[7]?.();
    const late = listenToChanges(() => undefined);
    expect(late).not.toBeNull();
    for (const stop of [...stops, late]) stop?.();
  });
});
