import { quotedNumber } from './expression.ts';
import type { Reading, Scope } from './found.ts';
import type { Token } from './tokens.ts';

const tag = /<!--[\s\S]*?-->|<[?!][^>]*>|<(\/?)([\p{L}_][\w:.-]*)((?:[^>"']|"[^"]*"|'[^']*')*?)(\/?)>/gu;
const attribute = /([\p{L}_][\w:.-]*)\s*=\s*(["'])(.*?)\2/gsu;
const nameKeys = new Set(['name', 'key', 'id', 'field', 'label', 'type']);
const valueKeys = new Set(['value', 'val', 'default', 'amount', 'v']);

/** True if a text is elements in angle brackets. */
export const isXml = (text: string): boolean => /^\ufeff?\s*<[?!\p{L}]/u.test(text) && /<\/|\/>/.test(text);

/** The numbers of attributes and elements; a `name` beside a `value`, or a key before it, names it. */
export function readXml(text: string): Reading[] {
  const found: Reading[] = [];
  const open: Scope[] = [];
  const lines = new LineCount(text);
  let key = '';
  let from = 0;
  const keep = (own: string, raw: string, at: number, within: readonly Scope[]) => {
    const line = lines.at(at);
    const token: Token = { kind: 'text', text: raw, at: at - 1, end: at + raw.length + 1, line, indent: 0 };
    const number = quotedNumber(token);
    const flag = /^\s*(?:true|false|yes|no|on|off)\s*$/i.test(raw) ? /^\s*(?:true|yes|on)\s*$/i.test(raw) : null;
    if (number) {
      const { decimal, unit } = number;
      const literal: Token = { kind: 'number', text: decimal, at: number.at, end: number.end, line, indent: 0 };
      const stated = unit === '%' ? 'percent' : unit;
      const value = Number(decimal);
      found.push({ kind: 'number', own, value, decimal, line, unit: stated, at: number.at, end: number.end, literals: [literal], within });
    } else if (flag !== null || /^[\w -]{1,40}$/.test(raw)) {
      const end = at + raw.length;
      const kind = flag === null ? 'word' : 'flag';
      found.push({
        kind,
        own,
        value: flag ?? raw.trim(),
        decimal: '',
        line,
        unit: '',
        at,
        end,
        literals: [{ ...token, at, end }],
        within,
      });
    }
  };
  for (const match of text.matchAll(tag)) {
    const [whole, close, name, attributes = '', isEmpty] = match;
    const inside = text.slice(from, match.index);
    from = match.index + whole.length;
    if (name === undefined) continue;
    if (close === '/') {
      const scope = open.pop();
      if (scope?.name.toLowerCase() === 'key') key = inside.trim();
      else if (inside.trim() !== '') {
        const at = match.index - inside.length;
        // `<key>walkSpeed</key><real>121</real>`: the key before it names it.
        keep(key !== '' ? key : (scope?.name ?? ''), inside, at, [...open]);
        key = '';
      }
      continue;
    }
    const scope: Scope = { name };
    const begin = match.index + 1 + name.length;
    const own = [...attributes.matchAll(attribute)].map(([all, attributeName = '', , value = ''], _, __) => ({
      all,
      attributeName,
      value,
    }));
    const label = own.find(({ attributeName, value }) => nameKeys.has(attributeName.toLowerCase()) && !/^\s*[+-]?[\d.]+\s*$/.test(value));
    let at = begin;
    for (const { all, attributeName, value } of own) {
      const start = text.indexOf(all, at);
      at = start + all.length;
      if (label?.attributeName === attributeName) continue;
      const isValue = valueKeys.has(attributeName.toLowerCase());
      const within = isValue ? [...open] : [...open, scope];
      keep(isValue ? (label?.value ?? name) : attributeName, value, at - 1 - value.length, within);
    }
    if (label && !own.some(({ attributeName }) => valueKeys.has(attributeName.toLowerCase()))) scope.label = label.value;
    if (isEmpty !== '/') open.push(scope);
  }
  return found;
}

/** The line, from 1, in which a place of a text stands. */
class LineCount {
  readonly #ends: number[] = [];

  constructor(text: string) {
    for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) this.#ends.push(at);
  }

  at(place: number): number {
    let [low, high] = [0, this.#ends.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((this.#ends[middle] as number) < place) low = middle + 1;
      else high = middle;
    }
    return low + 1;
  }
}
