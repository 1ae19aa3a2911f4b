import { describe, expect, it } from 'vitest';
import { jsonOfFiles } from './generatedFiles.ts';

async function partsOf(files: readonly { path: string; text: string }[]): Promise<string[]> {
  const parts: string[] = [];
  for await (const part of jsonOfFiles([...files])) parts.push(part);
  return parts;
}

describe('generated files as JSON, piece by piece', () => {
  it.each([
    ['no files', []],
    ['an empty one', [{ path: 'a/b.txt', text: '' }]],
    [
      'quotes, controls, pairs and halves of pairs at every place of a slice',
      [
        { path: 'a "b"\n.c', text: `"\\\u0000\u2028${'🥾'.repeat(70_000)}` },
        { path: 'd', text: `x${'🥾'.repeat(70_000)}\ud83e` },
      ],
    ],
  ])('says the same as in one piece: %s', async (_, files) => {
    const parts = await partsOf(files);
    expect(JSON.parse(parts.join(''))).toEqual({ files });
    expect(Math.max(...parts.map(({ length }) => length))).toBeLessThan(1_000_000);
  });
});
