import { describe, expect, it } from 'vitest';
import { sequence } from '../../testing/sequence.ts';
import { LONGEST, tokensOf } from './tokens.ts';

const pick = <T>(next: () => number, all: readonly T[]): T => all[Math.floor(next() * all.length)] as T;

/** A piece of code with what it has to be read as: its kind, its text, and the value of a number. */
type Piece = { code: string; kind: 'name' | 'number' | 'text' | 'mark'; text: string; value?: number };

/** A number as some language writes it, with its value. */
function numberPiece(next: () => number): Piece {
  const whole = Math.floor(next() * 5000);
  const part = Math.floor(next() * 900 + 100);
  const [text, value] = pick<[string, number]>(next, [
    [`${whole}`, whole],
    [`${whole}.${part}`, Number(`${whole}.${part}`)],
    [`.${part}`, Number(`0.${part}`)],
    [`${whole + 1000}`.replace(/(\d)(?=(\d{3})+$)/g, '$1_'), whole + 1000],
    [`${whole}.${part}e-2`, Number(`${whole}.${part}e-2`)],
    [`0x${whole.toString(16)}`, whole],
  ]);
  // A hexadecimal number may end in what would else be a suffix.
  const suffix = text.startsWith('0x') ? '' : pick(next, ['', 'f', 'd', 'F', '_f32', 'u']);
  return { code: text + suffix, kind: 'number', text: text + suffix, value };
}

function piece(next: () => number): Piece {
  const chance = next();
  if (chance < 0.35) return numberPiece(next);
  if (chance < 0.7) {
    const text = pick(next, ['walkSpeed', 'MAX_SPEED', '_acc', '$root', 'körper', 'player.walk', 'walk-speed', 'a1']);
    return { code: text, kind: 'name', text };
  }
  if (chance < 0.85) {
    const text = pick(next, ['walk speed', 'a // b', 'x = 5', '']);
    const quote = pick(next, ['"', "'", '`']);
    return { code: `${quote}${text}${quote}`, kind: 'text', text };
  }
  const text = pick(next, [':=', '=>', '::', '{', '}', '(', ',', '=', '*']);
  return { code: text, kind: 'mark', text };
}

const remarks = [
  (words: string) => `// ${words}\n`,
  (words: string) => `# ${words}\n`,
  (words: string) => `-- ${words}\n`,
  (words: string) => `/* ${words} */`,
  (words: string) => `/* ${words}\n${words} */`,
  (words: string) => `<!-- ${words} -->`,
  (words: string) => `--[[ ${words} ]]`,
];

describe('code in any language', () => {
  it('is torn into what it was put together from, on the lines on which that stands', () => {
    for (let seed = 1; seed <= 300; seed++) {
      const next = sequence(seed);
      const wanted: (Piece & { line: number })[] = [];
      let [code, line, count] = ['', 1, 0];
      for (let i = 0; i < 25; i++) {
        if (next() < 0.2) {
          const remark = pick(next, remarks)('speed 99 in "px"');
          code += remark;
          line += remark.split('\n').length - 1;
          count++;
        }
        const one = piece(next);
        wanted.push({ ...one, line });
        code += one.code;
        const gap = pick(next, [' ', '\t', '  ', ' \n', '\n\n', '\r\n ']);
        code += gap;
        line += gap.split('\n').length - 1;
      }
      const { tokens, comments } = tokensOf(code);
      const found = tokens.filter(({ kind }) => kind !== 'end');
      expect(
        found.map(({ kind, text, line: on }) => ({ kind, text, line: on })),
        code,
      ).toEqual(wanted.map(({ kind, text, line: on }) => ({ kind, text, line: on })));
      for (const [i, { value }] of wanted.entries()) if (value !== undefined) expect(found[i]?.literal?.value, code).toBe(value);
      expect(comments).toHaveLength(count);
      // Each stands where it says.
      for (const { kind, text, at, end } of found)
        expect(code.slice(at, end).includes(text) && (kind === 'text' || end - at === text.length)).toBe(true);
    }
  });

  it('reports a line’s indentation', () => {
    const { tokens } = tokensOf('a:\n  b: 1\n    c: 2\nd: 3\n');
    const firsts = tokens.filter(({ kind }, i) => kind !== 'end' && (i === 0 || tokens[i - 1]?.kind === 'end'));
    expect(firsts.map(({ text, indent }) => [text, indent])).toEqual([
      ['a', 0],
      ['b', 2],
      ['c', 4],
      ['d', 0],
    ]);
  });

  it.each([
    ['a colour is none', 'tint = #ff8800', ['tint', '=', '#', 'ff8800']],
    ['a definition is none', '#define WALK 140', ['#', 'define', 'WALK', '140']],
    ['the end of a statement begins none', 'walk = 140; run = 200;', ['walk', '=', '140', ';', 'run', '=', '200', ';']],
  ])('reads past what only looks like a comment: %s', (_, code, words) => {
    const { tokens, comments } = tokensOf(code);
    expect(comments).toEqual([]);
    expect(tokens.filter(({ kind }) => kind !== 'end').map(({ text }) => text)).toEqual(words);
  });

  it('comes to an end with what is never closed, and with what is very long', () => {
    for (const open of ['"never closed', '/* never closed', '<!-- never', '--[[ never', 'x = `'])
      expect(
        tokensOf(`walk = 1\n${open}`)
          .tokens.slice(0, 3)
          .map(({ text }) => text),
      ).toEqual(['walk', '=', '1']);
    const { tokens } = tokensOf('x = 1\n'.repeat(LONGEST));
    expect(tokens.length).toBeLessThanOrEqual((LONGEST / 6 + 1) * 4 + 1);
  });
});
