/** A piece of code in any language. */
export interface Token {
  kind: 'name' | 'number' | 'text' | 'mark' | 'end';
  text: string;
  /** The value of a number. */
  value: number;
  line: number;
  /** Letters before the line's first token. */
  indent: number;
}

/** Numbers as languages write them: 1_000.5, .5, 1e-3, 0x1F, with a suffix of a type (f, d, u, m, L …). */
const number = /^(?:0[xX][0-9a-fA-F](?:_?[0-9a-fA-F])*|(?:\d+(?:_\d+)*(?:\.(?:\d+(?:_\d+)*)?)?|\.\d+(?:_\d+)*)(?:[eE][+-]?\d+)?)/;
const suffix = /^(?:_?(?:f(?:32|64)|[iu](?:8|16|32|64|size))|[fFdDmMuUlL]{1,2})(?![A-Za-z0-9_])/;
const name = /^[\p{L}_$@][\p{L}\p{N}_$]*(?:[.-](?=[\p{L}_])[\p{L}\p{N}_$]+)*/u;
/** Signs of more than one letter that set a value. */
const signs = /^(?::=|=>|<-|->|\?\?=|\/\/|::)/;

/** Characters that are read at the most. */
export const LONGEST = 200_000;

interface Comment {
  line: number;
  text: string;
}

/** Where a comment begins and ends; `end` null: at the end of the line. */
const comments: readonly { begin: RegExp; end: string | null }[] = [
  { begin: /^\/\*/, end: '*/' },
  { begin: /^--\[\[/, end: ']]' },
  { begin: /^<!--/, end: '-->' },
  { begin: /^(?:\/\/|--|#(?!define\b|[0-9a-fA-F]{6}\b)|;)/, end: null },
];

/** Whether a `;` begins a comment (INI, Lisp): only where its line has nothing before it, or a blank, and it does not end a statement. */
const isEnd = (text: string, at: number) =>
  text[at] === ';' && /\S/.test(text.slice(text.lastIndexOf('\n', at - 1) + 1, at)) && !/\s/.test(text[at - 1] ?? '');

/** Tears code into its tokens and its comments, by the line. What no language knows is passed over. */
export function tokensOf(code: string): { tokens: Token[]; comments: Comment[] } {
  const text = code.slice(0, LONGEST).replace(/\r\n?/g, '\n');
  const tokens: Token[] = [];
  const told: Comment[] = [];
  let [at, line, begin, indent] = [0, 1, 0, 0];
  const push = (kind: Token['kind'], piece: string, value = Number.NaN) => {
    if (tokens.at(-1)?.line !== line) indent = at - begin;
    tokens.push({ kind, text: piece, value, line, indent });
  };
  while (at < text.length) {
    const rest = text.slice(at, at + 400);
    const letter = text[at] as string;
    if (letter === '\n') {
      push('end', '\n');
      line++;
      begin = ++at;
      continue;
    }
    if (/\s/.test(letter)) {
      at++;
      continue;
    }
    const comment = comments.find((one) => one.begin.test(rest));
    if (comment && !isEnd(text, at)) {
      const found = text.indexOf(comment.end ?? '\n', at + 2);
      const end = found < 0 ? text.length : found + (comment.end?.length ?? 0);
      const words = text.slice(at, end);
      told.push({ line, text: words.slice(0, 300) });
      // Lines within a comment count.
      for (const piece of words) if (piece === '\n') line++;
      if (words.includes('\n')) begin = at + words.lastIndexOf('\n') + 1;
      at = end;
      continue;
    }
    const digits = number.exec(rest)?.[0];
    if (digits) {
      const unit = suffix.exec(rest.slice(digits.length))?.[0] ?? '';
      push('number', digits, Number(digits.replaceAll('_', '')));
      at += digits.length + unit.length;
      continue;
    }
    if (letter === '"' || letter === "'" || letter === '`') {
      const end = text.slice(at + 1).search(new RegExp(`(?<!\\\\)${letter}|\\n`));
      const inside = end < 0 ? text.slice(at + 1) : text.slice(at + 1, at + 1 + end);
      push('text', inside.slice(0, 200));
      at += inside.length + (text[at + 1 + inside.length] === letter ? 2 : 1);
      continue;
    }
    const word = name.exec(rest)?.[0];
    if (word) {
      push('name', word);
      at += word.length;
      continue;
    }
    const sign = signs.exec(rest)?.[0] ?? letter;
    push('mark', sign);
    at += sign.length;
  }
  push('end', '\n');
  return { tokens, comments: told };
}
