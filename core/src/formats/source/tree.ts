import type { Token } from './tokens.ts';

/** The content of brackets, or the whole text: statements, each of cells with commas between them. */
export interface Block {
  kind: 'block';
  /** `{`, `[` or `(`; empty for the whole text. */
  open: string;
  at: number;
  end: number;
  line: number;
  indent: number;
  statements: Statement[];
}

export type Node = Token | Block;

export interface Statement {
  cells: Node[][];
  indent: number;
  line: number;
  /** The sign that ended it, but for the end of its line. */
  ended: string;
}

const closing: Readonly<Record<string, string>> = { '{': '}', '[': ']', '(': ')' };
/** Brackets within brackets that are read. */
const DEEPEST = 200;

/** Puts tokens into the brackets that they stand in. What is closed without being open, or never closed, is passed over. */
export function treeOf(tokens: readonly Token[]): Block {
  let index = 0;
  const read = (open: Token | null, depth: number): Block => {
    const statements: Statement[] = [];
    let cells: Node[][] = [[]];
    const finish = (ended: string) => {
      const all = cells.filter((cell, i) => cell.length > 0 || i < cells.length - 1);
      const first = all.flat()[0];
      if (first) statements.push({ cells: all, indent: first.indent, line: first.line, ended });
      cells = [[]];
    };
    for (; index < tokens.length; index++) {
      const token = tokens[index] as Token;
      const { kind, text } = token;
      if (kind === 'end') {
        // A list goes on over its lines; what ends with an operator does, too.
        const last = cells.at(-1)?.at(-1);
        const goesOn =
          open && open.text !== '{' ? true : last?.kind === 'mark' && ['=', ':=', '=>', '+', '*', '||', '??', '('].includes(last.text);
        if (!goesOn) finish('');
      } else if (kind !== 'mark') cells.at(-1)?.push(token);
      else if (text === ',') cells.push([]);
      else if (text === ';') finish(';');
      else if (closing[text] && depth < DEEPEST) {
        index++;
        cells.at(-1)?.push(read(token, depth + 1));
      } else if (text === '}' || text === ']' || text === ')') {
        if (open && closing[open.text] === text) break;
        if (!open) continue;
        // Of brackets that don't go together the inner ends.
        index--;
        break;
      } else cells.at(-1)?.push(token);
    }
    finish('');
    const close = tokens[Math.min(index, tokens.length - 1)];
    return {
      kind: 'block',
      open: open?.text ?? '',
      at: open?.at ?? 0,
      end: close?.end ?? 0,
      line: open?.line ?? 1,
      indent: open?.indent ?? 0,
      statements,
    };
  };
  return read(null, 0);
}
