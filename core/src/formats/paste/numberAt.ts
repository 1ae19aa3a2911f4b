import type { Token } from './tokens.ts';

/** Words before a name that name nothing themselves. */
export const plainWords = new Set(
  (
    'var let const val def local static public private protected internal readonly final export import global mut pub auto constexpr inline extern ' +
    'float double int uint long short number num real decimal single byte bool boolean f32 f64 i32 u32 i64 u64 field property prop param set return new ' +
    'define func function fn struct class object table type interface enum unsigned signed defp attr'
  ).split(' '),
);

/** Brackets within brackets that are read. */
const DEEPEST = 6;

/** A number in quotes. */
const quoted = /^\s*[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?\s*$/;

/** A number at a place, with a sign and plain arithmetic: `-3`, `60 * 3.5`, `1 / 60`, `walk * 1.75`. Null where there is none. */
export function numberAt(tokens: readonly Token[], at: number): { value: number; of: string | null; end: number } | null {
  let index = at;
  let of: string | null = null;
  let depth = 0;
  const factor = (): number | null => {
    let sign = 1;
    while (tokens[index]?.kind === 'mark' && ['-', '+'].includes(tokens[index]?.text ?? ''))
      if (tokens[index++]?.text === '-') sign = -sign;
    const token = tokens[index];
    if (!token) return null;
    if (token.kind === 'mark' && token.text === '(') {
      index++;
      if (++depth > DEEPEST) return null;
      const inside = sum();
      depth--;
      if (inside === null || tokens[index]?.text !== ')') return null;
      index++;
      return sign * inside;
    }
    if (token.kind === 'number') {
      index++;
      return sign * token.value;
    }
    // Data often holds numbers as texts.
    if (token.kind === 'text' && quoted.test(token.text)) {
      index++;
      return sign * Number.parseFloat(token.text);
    }
    // Another name may be a factor, once: the number is a ratio to it.
    if (token.kind === 'name' && of === null && !plainWords.has(token.text.toLowerCase())) {
      const next = tokens[index + 1];
      const isFactor = next?.kind === 'mark' && ['*', '/'].includes(next.text);
      const wasFactor = index > at && ['*'].includes(tokens[index - 1]?.text ?? '');
      if (!isFactor && !wasFactor) return null;
      of = token.text;
      index++;
      return sign;
    }
    return null;
  };
  const product = (): number | null => {
    let value = factor();
    while (value !== null && tokens[index]?.kind === 'mark' && ['*', '/'].includes(tokens[index]?.text ?? '')) {
      const [before, isBy] = [index, tokens[index++]?.text === '/'];
      const next = factor();
      if (next === null) {
        // What follows is no factor: the number has ended before (`value="3"/>`).
        index = before;
        break;
      }
      value = isBy ? value / next : value * next;
    }
    return value;
  };
  const sum = (): number | null => {
    let value = product();
    while (value !== null && of === null && tokens[index]?.kind === 'mark' && ['+', '-'].includes(tokens[index]?.text ?? '')) {
      const isLess = tokens[index++]?.text === '-';
      const next = product();
      if (next === null) return null;
      value += isLess ? -next : next;
    }
    return value;
  };
  const value = sum();
  if (value === null || !Number.isFinite(value) || !tokens.slice(at, index).some(({ kind }) => kind !== 'name' && kind !== 'mark'))
    return null;
  return { value, of, end: index };
}
