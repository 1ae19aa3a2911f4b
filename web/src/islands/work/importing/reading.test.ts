import { LARGEST_PROJECT } from '@zygopod/core';
import { describe, expect, it } from 'vitest';
import { forEach, kindOf, readFile } from './reading.ts';

const file = (name: string, content: unknown, size?: number) => {
  const text = typeof content === 'string' ? content : JSON.stringify(content);
  return { name, size: size ?? text.length, text: async () => text };
};
const tuning = { format: 'zygopod/tuning', version: 2, name: 'Boots' };

describe('a file that is dropped', () => {
  it('is one document, or all those of a project', async () => {
    expect(await readFile(file('a.json', tuning))).toMatchObject({
      project: null,
      members: [{ kind: 'tuning', name: 'Boots' }],
      faults: [],
    });
    const project = {
      format: 'zygopod/project',
      version: 1,
      name: 'Game',
      tunings: [tuning, { ...tuning, pace: { walkSpeed: 'fast' } }, 7],
    };
    const read = await readFile(file('b.json', project));
    expect(read).toMatchObject({ project: { name: 'Game' }, members: [{ name: 'Boots' }] });
    expect(read.faults).toEqual([
      expect.stringMatching(/^Boots: tunings\.1\.pace\.walkSpeed: found "fast"/),
      expect.stringMatching(/^tunings\.2/),
    ]);
  });

  it('is refused by what is wrong: no JSON, of a newer version, too large, gone meanwhile', async () => {
    expect((await readFile(file('a.json', 'PK\u0003\u0004'))).faults[0]).toContain('invalid JSON');
    expect((await readFile(file('a.json', { ...tuning, version: 9 }))).faults[0]).toContain('a newer Zygopod');
    const bomb = await readFile({ name: 'bomb.json', size: LARGEST_PROJECT + 1, text: () => Promise.reject(new Error('it was opened')) });
    expect(bomb.faults[0]).toMatch(/expected at most/);
    expect((await readFile({ name: 'a.json', size: 9, text: () => Promise.reject(new Error('gone')) })).faults[0]).toContain(
      'removed meanwhile',
    );
    expect((await readFile(file('a.svg', '<svg/>'))).faults[0]).toContain('Grounds screen');
    const many = await readFile(file('a.json', { format: 'zygopod/targets', version: 1, targets: Array(40).fill({ metric: 7 }) }));
    expect(many.faults).toHaveLength(9);
    expect(many.faults.at(-1)).toMatch(/^and \d+ more$/);
  });
});

describe('many', () => {
  it('are done a few at a time, each once', async () => {
    let [inside, most] = [0, 0];
    const seen: number[] = [];
    const counts: number[] = [];
    await forEach(
      Array.from({ length: 50 }, (_, i) => i),
      async (one) => {
        most = Math.max(most, ++inside);
        await new Promise((next) => setTimeout(next, 1));
        seen.push(one);
        inside--;
      },
      (count) => counts.push(count),
    );
    expect(seen.toSorted((a, b) => a - b)).toEqual(Array.from({ length: 50 }, (_, i) => i));
    expect([most, counts.at(-1)]).toEqual([4, 50]);
    await forEach(
      [],
      async () => undefined,
      (count) => counts.push(count),
    );
    expect(counts).toHaveLength(50);
  });
});

describe('the kind of a file', () => {
  it('is what it says itself, whatever it is called', async () => {
    for (const kind of ['tuning', 'ground', 'tape', 'targets', 'sweep', 'project'])
      expect(await kindOf(file('any.txt', `\uFEFF{ "name": "x", "format": "zygopod/${kind}" }`))).toBe(kind);
  });

  it('is none where it says none that is known, cannot be read, or is too large to be opened', async () => {
    for (const text of ['', 'null', '[]', '"zygopod/tuning"', '{"format":7}', '{"format":"zygopod/tunings"}', '<svg/>'])
      expect(await kindOf(file('a.tuning.json', text)), text).toBe(null);
    expect(await kindOf({ size: 9, text: () => Promise.reject(new Error('gone')) })).toBe(null);
    expect(await kindOf({ size: LARGEST_PROJECT + 1, text: () => Promise.reject(new Error('it was opened')) })).toBe(null);
  });
});
