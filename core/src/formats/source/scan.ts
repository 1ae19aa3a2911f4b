import {
  bracedName,
  dotted,
  functions,
  isAccessor,
  isBlock,
  isConstructor,
  isMark,
  isName,
  isPair,
  isSetter,
  keyIn,
  listOf,
  nameKeys,
  opensUnder,
  plainWords,
  sectionOf,
  setterAfter,
  statements,
  types,
} from './cells.ts';
import { expressionAt, quotedNumber, soleCell } from './expression.ts';
import type { Scope } from './found.ts';
import { Readings } from './readings.ts';
import type { Comment, Token } from './tokens.ts';
import type { Block, Node } from './tree.ts';

/** Reads what a tree sets: each number, flag and word under its names. */
export class Scan {
  readonly readings = new Readings();
  readonly #comments: readonly Comment[];
  /** Statements end with a `;` somewhere: brackets alone in a line are no sections. */
  readonly #isTyped: boolean;

  constructor(tree: Block, comments: readonly Comment[]) {
    this.#comments = comments;
    this.#isTyped = tree.statements.some(({ ended }) => ended === ';');
    this.#block(tree, []);
  }

  /** The content of a block: lines below an indented one, and those of a section, belong to it. */
  #block(block: Block, within: readonly Scope[]): void {
    const indents: { indent: number; scope: Scope }[] = [];
    const sections: Scope[] = [];
    // A remark about a thing holds for the whole of it.
    const own = within.at(-1);
    for (const statement of block.statements) {
      while ((indents.at(-1)?.indent ?? -1) >= statement.indent) indents.pop();
      const section = block.open === '' && !this.#isTyped ? sectionOf(statement) : null;
      if (section !== null) {
        sections.splice(0, sections.length, ...section.split('.').map((name) => ({ name })));
        indents.length = 0;
        continue;
      }
      let [cells, indent] = [statement.cells, statement.indent];
      const [first] = cells[0] ?? [];
      // `- name: hero`: a thing of a list, with what is indented under its first key.
      if (block.open === '' && isMark(first, '-') && cells[0]?.[1] && first.end < cells[0][1].at) {
        const scope = { name: '' };
        indents.push({ indent, scope });
        cells = [(cells[0] as Node[]).slice(1), ...cells.slice(1)];
        indent = cells[0]?.[0] && 'indent' in cells[0][0] ? indent + (cells[0][0].at - first.at) : indent;
      }
      const scopes = [...within, ...sections, ...indents.map(({ scope }) => scope)];
      this.#statement(cells, scopes, scopes.at(-1) ?? own, block);
      const opened = opensUnder(cells);
      if (opened) indents.push({ indent, scope: opened });
    }
  }

  #statement(cells: readonly Node[][], scopes: readonly Scope[], owner: Scope | undefined, block: Block): void {
    const [first] = cells[0] ?? [];
    const word = first?.kind === 'name' ? first.text.toLowerCase() : '';
    if (statements.has(word)) {
      for (const node of cells.flat()) if (isBlock(node, '{')) this.#block(node, scopes);
      return;
    }
    if (this.#severalAtOnce(cells, scopes) || this.#inserted(cells, scopes)) return;
    if (isPair(cells, block)) {
      const [[name], value] = cells as [[Token], Node[]];
      this.#value(name.text, value, 0, scopes);
      return;
    }
    for (const cell of cells) this.#cell(cell, scopes, owner);
  }

  /** `a, b, c = 1, 2, 3`, `let (a, b) = (1, 2)`: values by their order. */
  #severalAtOnce(cells: readonly Node[][], scopes: readonly Scope[]): boolean {
    const at = cells.findIndex((cell) => cell.some(isSetter));
    const cell = cells[at];
    if (!cell) return false;
    const setter = cell.findIndex(isSetter);
    const right = cell.slice(setter + 1);
    const [left, value] = [cell[setter - 1], right[0]];
    if (at === 0 && isBlock(left, '(') && isBlock(value, '(') && right.length === 1) {
      const [names, values] = [left.statements[0]?.cells ?? [], value.statements[0]?.cells ?? []];
      if (names.length !== values.length || !names.every((one) => isName(one.at(-1)))) return false;
      for (const [i, name] of names.entries()) this.#value((name.at(-1) as Token).text, values[i] as Node[], 0, scopes);
      return true;
    }
    const before = cells.slice(0, at);
    if (at === 0 || !before.every((one) => one.length > 0 && one.every((node) => node.kind === 'name'))) return false;
    const after = cells.slice(at + 1);
    if (after.length < before.length || after.slice(0, before.length).some((one) => one.some(isSetter))) return false;
    const names = [...before.map((one) => one.at(-1) as Token), left as Token];
    const values = [right, ...after];
    names.forEach((name, i) => {
      if (name && isName(name)) this.#value(name.text, values[i] as Node[], 0, scopes);
    });
    return true;
  }

  /** `(a, b) VALUES (1, 2)`: a row under the names of its columns. */
  #inserted(cells: readonly Node[][], scopes: readonly Scope[]): boolean {
    const nodes = cells.flat();
    const at = nodes.findIndex((node) => node.kind === 'name' && /^values$/i.test(node.text));
    const [names, values] = [nodes[at - 1], nodes[at + 1]];
    if (!isBlock(names, '(') || !isBlock(values, '(')) return false;
    const [heads, row] = [names.statements[0]?.cells ?? [], values.statements[0]?.cells ?? []];
    heads.forEach(([head], i) => {
      if (isName(head) && row[i]) this.#value(head.text, row[i], 0, scopes);
    });
    return true;
  }

  /** The parts between two commas, from left to right. */
  #cell(cell: readonly Node[], scopes: readonly Scope[], owner: Scope | undefined): void {
    let index = 0;
    while (index < cell.length) {
      const node = cell[index] as Node;
      if (isBlock(node)) {
        this.#inner(node, scopes, null);
        index++;
      } else if (isName(node)) index = this.#named(cell, index, scopes, owner);
      else {
        if (node.kind === 'number') this.#byRemark(cell, index, scopes);
        index++;
      }
    }
  }

  /** A name and what follows it; the index after that. */
  #named(cell: readonly Node[], index: number, scopes: readonly Scope[], owner: Scope | undefined): number {
    const node = cell[index] as Token;
    const next = cell[index + 1];
    // `Delay { get; set; } = 0.8`: what stands between is passed over.
    const isAccess = isBlock(next, '{') && next.statements.flatMap(({ cells }) => cells.flat()).every(isAccessor);
    const setter = setterAfter(cell, isAccess ? index + 1 : index);
    if (setter > 0) {
      const value = cell[setter + 1];
      if (nameKeys.has(node.text.toLowerCase()) && owner && isName(value) && !quotedNumber(value)) {
        owner.label = value.text;
        return setter + 2;
      }
      return this.#value(keyIn(cell[index + 1]) ?? this.#target(cell, index), cell, setter + 1, scopes);
    }
    if (isMark(next, '+=', '-=', '*=', '/=')) return cell.length;
    if (isBlock(next, '(')) {
      this.#call(node, next, cell.slice(0, index), scopes);
      return index + 2;
    }
    if (isBlock(next, '{')) {
      const sole = soleCell(next);
      const number = sole && expressionAt(sole, 0);
      if (sole && number && number.next === sole.length) this.readings.number(node.text, number, sole, scopes);
      else if (!this.#vector(node.text, next, scopes)) this.#inner(next, scopes, bracedName(cell, index));
      return index + 2;
    }
    const isMuffed = isMark(next, '*') && isMark(cell[index - 1], '*');
    const from = isMuffed ? index + 2 : index + 1;
    const value = cell[from];
    // `#define START -90`: the sign stands with the number, and apart from the name.
    const signed = cell[from + 1];
    const isSigned =
      isMark(value, '-', '+') && signed?.kind === 'number' && signed.at === value.end && node.end < value.at && cell.length === from + 2;
    const isDirect =
      value?.kind === 'number' || isSigned || (node.kind === 'text' && value?.kind === 'text') || (isBlock(value, '(') && isMuffed);
    if (!isDirect || plainWords.has(node.text.toLowerCase())) return index + 1;
    return this.#value(node.text, cell, from, scopes);
  }

  /** The name that is set: with the words before it where that is a sentence. */
  #target(cell: readonly Node[], index: number): string {
    const before = cell[index - 1];
    // Go: `Radius float64 = 4`.
    if (types.test((cell[index] as Token).text) && before?.kind === 'name' && !plainWords.has(before.text.toLowerCase()))
      return before.text;
    const words: string[] = [(cell[index] as Token).text];
    for (let i = index - 1; i >= 0 && !this.#isTyped; i--) {
      const node = cell[i] as Node;
      if (node.kind !== 'name' || plainWords.has(node.text.toLowerCase()) || /[.:]/.test(node.text)) {
        if (node.kind === 'name' || node.kind === 'mark') return words.at(-1) as string;
        break;
      }
      words.unshift(node.text);
    }
    return words.join(' ');
  }

  /** `f(5)`, `put("name", 5)`, `Mover(walk=5)`, and what a function is given and does. */
  #call(node: Token, block: Block, before: readonly Node[], scopes: readonly Scope[]): void {
    const sole = soleCell(block);
    const number = sole && expressionAt(sole, 0);
    if (sole && number && number.next === sole.length) {
      const isSet = !statements.has(node.text.toLowerCase());
      if (isSet) this.readings.number(node.text, number, sole, scopes);
      return;
    }
    const [defined, value] = block.statements[0]?.cells ?? [];
    if (/(?:^|[-.])define$/i.test(node.text) && defined?.length === 1 && isName(defined[0]) && value) {
      this.#value(defined[0].text, value, 0, scopes);
      return;
    }
    const isFunction = before.some((one) => one.kind === 'name' && functions.has(one.text.toLowerCase()));
    this.#inner(block, scopes, { name: node.text, ...(isFunction ? { isFunction: true } : {}) });
  }

  /** A block that stands for itself, or under a name. */
  #inner(block: Block, scopes: readonly Scope[], scope: Scope | null): void {
    this.#block(block, [...scopes, scope ?? { name: '' }]);
  }

  /** The value assigned to a name; the index after it. */
  #value(name: string, cell: readonly Node[], from: number, scopes: readonly Scope[]): number {
    let index = from;
    // `opts.walk or 115`, `?? 117`: what holds without another.
    const other = cell.findIndex(
      (node, i) => i >= from && (isMark(node, '??', '||') || (node.kind === 'name' && /^or(?:else)?$/i.test(node.text))),
    );
    if (other > from && cell.slice(from, other).every((node) => node.kind === 'name' || isBlock(node, '['))) index = other + 1;
    const number = expressionAt(cell, index);
    if (number) {
      this.readings.number(name, number, cell, scopes);
      return number.next;
    }
    const node = cell[index];
    if (isName(node) && node.kind === 'text') {
      const inside = quotedNumber(node);
      if (inside) this.readings.quoted(name, node, inside, scopes);
      else this.readings.word(name, node, scopes);
      return index + 1;
    }
    while (isMark(cell[index], '&', '*') || (cell[index]?.kind === 'name' && cell[index + 1] && !isMark(cell[index + 1]))) {
      if (isBlock(cell[index + 1], '(') && !isConstructor(cell[index] as Token, cell[index + 1] as Block)) return index + 2;
      index++;
    }
    // `string[] { … }`
    while (isBlock(cell[index], '[') && isBlock(cell[index + 1])) index++;
    const block = cell[index];
    if (isBlock(block)) {
      if (this.#vector(name, block, scopes)) return index + 1;
      const list = listOf(block);
      if (list) this.readings.list(name, list, block, scopes);
      this.#inner(block, scopes, { name: dotted(name) });
      return index + 1;
    }
    if (block?.kind === 'name') {
      this.readings.word(name, block, scopes);
      return index + 1;
    }
    return index;
  }

  /** Two to four numbers in brackets: x, y and so on. */
  #vector(name: string, block: Block, scopes: readonly Scope[]): boolean {
    const [statement, more] = block.statements;
    if (!statement || more || statement.cells.length < 2 || statement.cells.length > 4) return false;
    const numbers = statement.cells.map((cell) => ({ cell, number: expressionAt(cell, 0) }));
    if (!numbers.every(({ cell, number }) => number && number.next === cell.length)) return false;
    numbers.forEach(({ cell, number }, i) => {
      if (number) this.readings.number(`${name}.${'xyzw'[i]}`, number, cell, scopes);
    });
    return true;
  }

  /** A number in the order of a list, named by the remark before it. */
  #byRemark(cell: readonly Node[], index: number, scopes: readonly Scope[]): void {
    const number = index === 0 ? expressionAt(cell, 0) : null;
    const remark = number && this.#comments.find(({ end }) => end <= number.at && end > number.at - 3);
    const name = remark && /^\.?([\p{L}_][\p{L}\p{N}_]*)\s*[=:]?$/u.exec(remark.text)?.[1];
    if (number && name) this.readings.number(name, number, cell, scopes);
  }
}
