import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { Misuse } from './misuse.ts';
import { Output } from './output.ts';
import { bar } from './progress.ts';

const folder = mkdtempSync(join(tmpdir(), 'zygopod-output-'));

describe('output to a file', () => {
  it('is all that was written, in order, however it was cut', async () => {
    const path = join(folder, 'all.txt');
    const output = new Output(path);
    const parts = Array.from({ length: 5000 }, (_, i) => `${i} `.repeat(1 + (i % 40)));
    for (const part of parts) await output.write(part);
    await output.end();
    expect(readFileSync(path, 'utf8')).toBe(parts.join(''));
  });

  it.each([
    ['a folder that is none', join(folder, 'none', 'trace.csv'), 'ENOENT'],
    ['a folder itself', folder, 'EISDIR'],
    ['a disk that is full', '/dev/full', 'ENOSPC'],
  ])('that fails is reported in one line: %s', async (_, path, code) => {
    const output = new Output(path);
    const writing = (async () => {
      for (let i = 0; i < 100; i++) await output.write('x'.repeat(10_000));
      await output.end();
    })();
    await expect(writing).rejects.toThrow(new Misuse(`${path}: cannot be written (${code})`));
  });
});

describe('a bar', () => {
  it.each([
    [0, 0, '  0 %'],
    [0.5, 20, ' 50 %'],
    [0.999, 40, ' 99 %'],
    [1, 40, '100 %'],
    [7, 40, '100 %'],
    [-1, 0, '  0 %'],
  ])('at %d', (share, full, words) => {
    const drawn = bar(share);
    expect([drawn.split('█').length - 1, drawn.slice(-5), drawn.length]).toEqual([full, words, 46]);
  });
});
