import { expressionAt, soleCell } from './expression.ts';
import type { ListValue, Scope } from './found.ts';
import type { Token } from './tokens.ts';
import type { Block, Node, Statement } from './tree.ts';

/** Words before a name that name nothing themselves. */
export const plainWords = new Set(
  (
    'var let const val def local static public private protected internal readonly final export import global mut pub auto constexpr inline extern ' +
    'float double int uint long short number num real decimal single byte bool boolean f32 f64 i32 u32 i64 u64 field property prop param set return new ' +
    'define defun defparameter defvar func function fn struct class object table type interface enum unsigned signed defp attr uniform immutable parameter ' +
    'constant override virtual abstract sealed lateinit my our the'
  ).split(' '),
);
/** Types of numbers that may stand behind a name. */
export const types = /^(?:float|double|u?int|f|i|u)(?:8|16|32|64|128)?$/i;
/** Words with which a statement begins that sets nothing. */
export const statements = new Set('if for while case else elif elseif switch import from using include package assert where'.split(' '));
/** Words before the name of a thing that has members. */
const kinds = new Set('class struct record enum object namespace module interface trait impl union protocol extension data'.split(' '));
export const functions = new Set('function fn def func fun sub proc defun void constructor'.split(' '));
const setters = new Set(['=', ':=', ':', '=>', '<-', '??=', '||=']);
/** Keys that say what the thing that they are in is called. */
export const nameKeys = new Set(['name', 'key', 'id', 'field', 'label', 'character', 'param', 'parameter']);
export const valueKeys = new Set(['value', 'val', 'default', 'amount', 'v']);
export const flags: Readonly<Record<string, boolean>> = { true: true, false: false, yes: true, no: false, on: true, off: false };

export const isMark = (node: Node | undefined, ...texts: string[]): node is Token & { kind: 'mark' } =>
  node?.kind === 'mark' && texts.includes(node.text);
export const isName = (node: Node | undefined): node is Token & { kind: 'name' | 'text' } => node?.kind === 'name' || node?.kind === 'text';
export const isBlock = (node: Node | undefined, open?: string): node is Block =>
  node?.kind === 'block' && (open === undefined || node.open === open);
export const isSetter = (node: Node | undefined): node is Token & { kind: 'mark' } => node?.kind === 'mark' && setters.has(node.text);

/** Joins `a::b->c.d` and `self.c` with points. */
export const dotted = (text: string) => text.replace(/(?:->|::)/g, '.').replace(/^(?:self|this|my)\./i, '');

/** `config['turn_rate']`: the key between the brackets. */
export const keyIn = (node: Node | undefined): string | null => {
  const [key, more] = (isBlock(node, '[') && soleCell(node)) || [];
  return key?.kind === 'text' && !more ? key.text : null;
};

export const isAccessor = (node: Node) =>
  node.kind === 'name' && ['get', 'set', 'init', 'private', 'protected', 'internal'].includes(node.text);

/** `[player]`, `[[player]]`, `[player.stamina]` alone in its line. */
export function sectionOf({ cells }: Statement): string | null {
  const [cell, more] = cells;
  const [block, rest] = cell ?? [];
  if (more || rest || !isBlock(block, '[')) return null;
  const inside = soleCell(block);
  const [only] = inside ?? [];
  if (inside?.length === 1 && isBlock(only, '[')) return sectionOf({ cells: [[only]], indent: 0, line: 0, ended: '' });
  return inside?.length && inside.every(isName) ? inside.map(({ text }) => text).join(' ') : null;
}

/** The scope of the lines below, if this one ends with a colon or begins a thing without brackets. */
export function opensUnder(cells: readonly Node[][]): Scope | null {
  const cell = cells.at(-1) ?? [];
  const last = cell.at(-1);
  const all = cells.flat();
  const isAnchored = cell.some((node) => isMark(node, '&')) && cell.some((node) => isMark(node, ':')) && last?.kind === 'name';
  if (!isMark(last, ':') && !isAnchored) return null;
  const names = all.filter((node): node is Token => isName(node));
  const [first] = names;
  if (!first || statements.has(first.text.toLowerCase()) || ['try', 'with'].includes(first.text.toLowerCase())) return null;
  const isFunction = functions.has(first.text.toLowerCase());
  const named = kinds.has(first.text.toLowerCase()) || isFunction ? names[1] : first;
  return { name: dotted(named?.text ?? first.text), ...(isFunction ? { isFunction } : {}) };
}

/** The name of what a brace opens: after `class` and the like, else the last before it. */
export function bracedName(cell: readonly Node[], index: number): Scope {
  const names = cell.slice(0, index + 1).filter((node): node is Token => node.kind === 'name' || node.kind === 'text');
  const kind = names.findIndex(({ text }) => kinds.has(text.toLowerCase()));
  const isFor = names.findIndex(({ text }) => text === 'for');
  const named = isFor > 0 && names[kind]?.text === 'impl' ? names[isFor + 1] : kind >= 0 ? names[kind + 1] : names.at(-1);
  const isFunction = kind < 0 && cell.slice(0, index + 1).some((node) => isBlock(node, '('));
  return { name: dotted(named?.text ?? ''), ...(isFunction ? { isFunction } : {}) };
}

/** The index of the sign that assigns to the name at an index; behind its type if it has one. 0: none. */
export function setterAfter(cell: readonly Node[], index: number): number {
  let at = index + 1;
  while (isBlock(cell[at], '[') || isMark(cell[at], '?')) at++;
  if (!isSetter(cell[at])) return 0;
  if ((cell[at] as Token).text !== ':') return isMark(cell[index - 1], '?') ? 0 : at;
  // `walk: f32 = 3.5`: what follows the colon is a type, where something is set after it.
  const later = cell.findIndex((node, i) => i > at && isMark(node, '=', ':='));
  const between = later > 0 ? cell.slice(at + 1, later) : [];
  const isType =
    later > 0 && between.length <= 12 && between.length > 0 && between.every((node) => node.kind !== 'number' && !isMark(node, ':'));
  return isType ? later : at;
}

/** A pair: `{"walk_speed", 140}`, `("walk_speed", 140)`, or a line of its own: `walk_speed,140`. */
export function isPair(cells: readonly Node[][], block: Block): boolean {
  const [name, value] = cells;
  if (cells.length < 2 || cells.length > 3 || name?.length !== 1) return false;
  const number = value && expressionAt(value, 0);
  if (!number) return false;
  return block.open === '' ? cells.length === 2 && isName(name[0]) && number.next === value.length : name[0]?.kind === 'text';
}

/** The numbers and texts of a list, and of the lists in it; null if it holds anything else. */
export function listOf(block: Block): ListValue | null {
  const list: (number | string | ListValue)[] = [];
  for (const { cells } of block.statements)
    for (const cell of cells) {
      // `new double[] { … }`, `&[ … ]`: what only says a type is passed over.
      const nodes = cell.filter((node, i) => !(isMark(node, '&') || node.kind === 'name' || (isBlock(node, '[') && i < cell.length - 1)));
      const [node, more] = nodes;
      if (cell.length === 0) continue;
      const number = expressionAt(cell, 0);
      if (number && number.next === cell.length && number.of === null && node?.kind !== 'text') list.push(Number(number.decimal));
      else if (isBlock(node) && !more) {
        const inner = listOf(node);
        if (!inner) return null;
        list.push(inner);
      } else if (node?.kind === 'text' && !more) list.push(node.text);
      else return null;
    }
  return list;
}

/** `Vec2(20, 28)`, `dict(max=5)`: what is called makes a thing of what it is given. */
export const isConstructor = (name: Token, block: Block): boolean => {
  const cells = block.statements.flatMap((statement) => statement.cells);
  return (
    cells.some((cell) => cell.some(isSetter)) ||
    (cells.length >= 2 && !/^(?:.*\.)?(?:clamp|min|max|lerp|mix|rand(?:om)?|range|smoothstep)$/i.test(name.text))
  );
};

/** The unit behind a number: `px / s`, `°`, `%`, `[px/s]`; empty if what follows is a name of its own. */
export function unitAfter(cell: readonly Node[], at: number): string {
  const first = cell[at];
  if (isBlock(first, '[')) return (soleCell(first) ?? []).map((node) => (node.kind === 'block' ? '' : node.text)).join('');
  let unit = '';
  for (let i = at; i < Math.min(cell.length, at + 5); i++) {
    const node = cell[i] as Node;
    if (node.kind === 'name' && isSetter(cell[i + 1])) return '';
    if (node.kind === 'name' || isMark(node, '/', '%', '°', '^', '²')) unit += node.text === '%' ? 'percent' : node.text;
    else break;
  }
  return unit;
}
