import { Exact } from '../../math/exact.ts';
import type { Token } from './tokens.ts';
import type { Block, Node } from './tree.ts';

/** A number with plain arithmetic, as it was read. */
export interface Expression {
  decimal: string;
  /** The name that it is a ratio to. */
  of: string | null;
  literals: Token[];
  /** The index after it. */
  next: number;
  at: number;
  end: number;
}

/** A number in quotes, perhaps with a unit behind it. */
const quoted = /^\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?)\s*([\p{L}%°/²^0-9]*)\s*$/u;

/** The digits of a text that is a number, their place in it, and the unit behind them; null if it isn't one. */
export function quotedNumber({ text, at }: Token): { decimal: string; at: number; end: number; unit: string } | null {
  const match = quoted.exec(text);
  if (!match || (/^[\p{L}]/u.test(match[2] ?? '') === false && /\d/.test(match[2] ?? ''))) return null;
  const digits = match[1] as string;
  const from = at + 1 + text.indexOf(digits);
  return { decimal: digits, at: from, end: from + digits.length, unit: match[2] ?? '' };
}

/** Callees that only say a type, and such that turn degrees into radians. */
const wrappers = /^(?:f(?:32|64|loat)?|double|int|number|decimal|some|just|px|cgfloat|new|value|real|integer|u?int(?:8|16|32|64)?)$/i;
const toRadians = /(?:^|[._])(?:rad|radians|to_?radians|deg_?to_?rad|deg2rad)$/i;

/** The only cell of a block that holds one; null for others. */
export function soleCell(block: Block): Node[] | null {
  const [statement, more] = block.statements;
  return statement && !more && statement.cells.length === 1 ? (statement.cells[0] as Node[]) : null;
}

/** The number at an index: `-3`, `60 * 3.5`, `(2 + 3) * 4`, `walk * 1.75`, `f32(5)`. Null if there is none. */
export function expressionAt(nodes: readonly Node[], from: number): (Expression & { isDegrees?: boolean }) | null {
  const reader = new Reader(nodes, from);
  const value = reader.sum();
  if (!value || reader.literals.length === 0 || !value.isFinite()) return null;
  const [first, last] = [nodes[from] as Node, nodes[reader.index - 1] as Node];
  return {
    decimal: value.toString(),
    of: reader.of,
    literals: reader.literals,
    next: reader.index,
    at: first.at,
    end: last.end,
    ...(reader.isDegrees ? { isDegrees: true } : {}),
  };
}

const isMark = (node: Node | undefined, ...texts: string[]): node is Token & { kind: 'mark' } =>
  node?.kind === 'mark' && texts.includes(node.text);

class Reader {
  index: number;
  of: string | null = null;
  isDegrees = false;
  literals: Token[] = [];
  readonly #nodes: readonly Node[];

  constructor(nodes: readonly Node[], from: number) {
    this.#nodes = nodes;
    this.index = from;
  }

  sum(): Exact | null {
    let value = this.#product();
    while (value && this.of === null && isMark(this.#nodes[this.index], '+', '-')) {
      const before = this.index;
      const isLess = (this.#nodes[this.index++] as Token).text === '-';
      const next = this.#product();
      if (!next) {
        this.index = before;
        break;
      }
      value = isLess ? value.minus(next) : value.plus(next);
    }
    return value;
  }

  #product(): Exact | null {
    let value = this.#factor();
    while (value && isMark(this.#nodes[this.index], '*', '/')) {
      const before = this.index;
      const isBy = (this.#nodes[this.index++] as Token).text === '/';
      const next = this.#factor();
      // What follows is no factor: the number has ended before.
      if (!next || (isBy && next.isZero())) {
        this.index = before;
        break;
      }
      value = isBy ? value.div(next) : value.times(next);
    }
    return value;
  }

  #factor(): Exact | null {
    let sign = 1;
    while (isMark(this.#nodes[this.index], '-', '+')) if ((this.#nodes[this.index++] as Token).text === '-') sign = -sign;
    const node = this.#nodes[this.index];
    if (!node) return null;
    if (node.kind === 'block') return node.open === '(' ? this.#inside(node, sign) : null;
    if (node.kind === 'number' && node.literal) {
      this.index++;
      this.literals.push(node);
      return new Exact(node.literal.decimal).times(sign);
    }
    if (node.kind === 'text') {
      const number = quotedNumber(node);
      if (number?.unit !== '') return null;
      this.index++;
      this.literals.push({ ...node, kind: 'number', text: number.decimal, at: number.at, end: number.end });
      return new Exact(number.decimal).times(sign);
    }
    return node.kind === 'name' ? this.#name(node, sign) : null;
  }

  #inside(block: Block, sign: number): Exact | null {
    const cell = soleCell(block);
    const reader = cell && new Reader(cell, 0);
    const value = reader?.sum();
    if (!reader || !value || reader.index !== cell?.length) return null;
    this.index++;
    this.#takeFrom(reader);
    return value.times(sign);
  }

  #takeFrom(reader: Reader): void {
    this.literals.push(...reader.literals);
    this.of ??= reader.of;
    this.isDegrees ||= reader.isDegrees;
  }

  /** Another name may be a factor, once: the number is a ratio to it. A call of a type is its argument. */
  #name(node: Token, sign: number): Exact | null {
    const next = this.#nodes[this.index + 1];
    if (next?.kind === 'block' && next.open === '(' && (wrappers.test(node.text) || toRadians.test(node.text))) {
      this.index++;
      const value = this.#inside(next, sign);
      if (value && toRadians.test(node.text)) this.isDegrees = true;
      return value;
    }
    if (wrappers.test(node.text) && next) {
      this.index++;
      return this.#factor();
    }
    const isFactor = isMark(next, '*', '/');
    const wasFactor = isMark(this.#nodes[this.index - 1], '*');
    if (this.of !== null || (!isFactor && !wasFactor) || next?.kind === 'block') return null;
    this.of = node.text;
    this.index++;
    return new Exact(sign);
  }
}
