import { type Literal, literalAt } from './literals.ts';

/** A piece of code in any language. */
export interface Token {
  kind: 'name' | 'number' | 'text' | 'mark' | 'end';
  /** A text is without its quotes. */
  text: string;
  literal?: Literal;
  /** Where it begins and ends in the code; a text with its quotes. */
  at: number;
  end: number;
  line: number;
  /** Letters before the line's first token. */
  indent: number;
}

/** A remark; its text without the signs. */
export interface Comment {
  at: number;
  end: number;
  line: number;
  text: string;
  /** Nothing but blanks stands before it in its line. */
  isAlone: boolean;
}

/** Characters that are read at most. */
export const LONGEST = 200_000;

const name = /^[\p{L}_$@][\p{L}\p{N}_$]*(?:(?:[.-]|->|::)(?=[\p{L}_])[\p{L}\p{N}_$]+)*/u;
/** Signs of more than one letter. */
const signs = /^(?:\?\?=|\|\|=|<<=|>>=|===|!==|:=|=>|<-|->|::|\/\/|==|!=|<=|>=|\+=|-=|\*=|\/=|%=|<<|>>|\?\?|\|\||&&|\.\.\.|\.\.)/;

/** The lexical rules of a language, as the text shows them. */
interface Habits {
  /** `#` begins a remark; where `#` begins directives or private names, it doesn't. */
  hash: boolean;
  semicolon: boolean;
  dashes: boolean;
  /** Numbers that begin with 0 are octal. */
  octal: boolean;
  /** `'` is no quote: `'a`, `1'000`. */
  ticks: boolean;
}

function habitsOf(text: string): Habits {
  const hasStyles = /(?:^|[{;\n])\s*--[\w-]+\s*:\s/.test(text) && /[{}]/.test(text);
  return {
    hash: !/^\s*#\s*(?:define|include|if|ifdef|ifndef|endif|pragma|undef|region)\b/m.test(text) && !/^\s*#[\w$]+\s*=(?!=)/m.test(text),
    semicolon: !/;[ \t]*(?:$|\/\/|\/\*|#)/m.test(text) || /^\s*\(/m.test(text) || /^\s*\[[^\]\n]+\]\s*$/m.test(text),
    dashes: !hasStyles,
    octal: /[;{}]|^\s*#define/m.test(text) && !/^\s*[[{]\s*"/.test(text),
    ticks: /\blet\s+(?:mut\s)?|\bfn\b|\(def|^\s*'\(/m.test(text) && !/'[^'\n]{2,}'/.test(text),
  };
}

/** Tears code into its tokens and its remarks. What no language knows is passed over; places are those of the text as it came. */
export function tokensOf(code: string): { tokens: Token[]; comments: Comment[] } {
  const reader = new Tearing(code.slice(0, LONGEST));
  reader.run();
  return reader;
}

class Tearing {
  readonly tokens: Token[] = [];
  readonly comments: Comment[] = [];
  readonly #text: string;
  readonly #habits: Habits;
  #at = 0;
  #line = 1;
  #begin = 0;
  #indent = 0;

  constructor(text: string) {
    this.#text = text;
    this.#habits = habitsOf(text);
    if (text.startsWith('\ufeff')) this.#at = this.#begin = 1;
  }

  run(): void {
    const text = this.#text;
    while (this.#at < text.length) {
      const letter = text[this.#at] as string;
      if (letter === '\n') this.#lineEnd();
      else if (letter === ' ' || letter === '\t' || letter === '\r' || /\s/.test(letter)) this.#at++;
      else this.#next(letter);
    }
    this.#push('end', '\n', this.#at);
  }

  #push(kind: Token['kind'], text: string, end: number, literal?: Literal): void {
    if (this.tokens.at(-1)?.line !== this.#line || this.tokens.at(-1)?.kind === 'end') this.#indent = this.#at - this.#begin;
    this.tokens.push({ kind, text, at: this.#at, end, line: this.#line, indent: this.#indent, ...(literal ? { literal } : {}) });
    this.#at = end;
  }

  #lineEnd(): void {
    this.#push('end', '\n', this.#at + 1);
    this.#line++;
    this.#begin = this.#at;
  }

  #next(letter: string): void {
    const rest = this.#text.slice(this.#at, this.#at + 400);
    const end = this.#commentEnd(rest);
    if (end !== null) {
      this.#comment(end);
      return;
    }
    // A point after a name or a bracket is no number's.
    const before = this.tokens.at(-1);
    const isMember = letter === '.' && before?.end === this.#at && /[\w)\]]$/.test(before.text);
    const number = isMember ? null : literalAt(rest, this.#habits.octal);
    if (number) {
      this.#push('number', rest.slice(0, number.length), this.#at + number.length, number.literal);
      return;
    }
    if (letter === '"' || letter === '`' || (letter === "'" && !this.#habits.ticks)) {
      const close = this.#text.slice(this.#at + 1).search(new RegExp(`(?<!\\\\)${letter}|\\n`));
      const inside = close < 0 ? this.#text.slice(this.#at + 1) : this.#text.slice(this.#at + 1, this.#at + 1 + close);
      const isClosed = this.#text[this.#at + 1 + inside.length] === letter;
      this.#push('text', inside.slice(0, 200), this.#at + 1 + inside.length + (isClosed ? 1 : 0));
      return;
    }
    const word = name.exec(rest)?.[0];
    if (word) {
      this.#push('name', word, this.#at + word.length);
      return;
    }
    const sign = signs.exec(rest)?.[0] ?? letter;
    this.#push('mark', sign, this.#at + sign.length);
  }

  /** Where the remark that begins here ends; null if none does. */
  #commentEnd(rest: string): number | null {
    const { hash, semicolon, dashes } = this.#habits;
    const until = (close: string, from: number) => {
      const found = this.#text.indexOf(close, this.#at + from);
      return found < 0 ? this.#text.length : found + (close === '\n' ? 0 : close.length);
    };
    if (rest.startsWith('/*')) return until('*/', 2);
    if (rest.startsWith('--[[')) return until(']]', 4);
    if (rest.startsWith('<!--')) return until('-->', 4);
    if (rest.startsWith('{-')) return until('-}', 2);
    if (rest.startsWith('(*')) return until('*)', 2);
    if (rest.startsWith('//') && !/[:\w]/.test(this.#text[this.#at - 1] ?? ' ')) return until('\n', 2);
    if (dashes && rest.startsWith('--') && !/^---\s*$/m.test(rest.slice(0, 5))) return until('\n', 2);
    if (hash && rest.startsWith('#') && !/^#[0-9a-fA-F]{6}\b/.test(rest)) return until('\n', 1);
    // A `;` begins a remark where its line has nothing before it, or a blank.
    const isFirst = !/\S/.test(this.#text.slice(this.#begin, this.#at));
    if (semicolon && rest.startsWith(';') && (isFirst || /\s/.test(this.#text[this.#at - 1] ?? ''))) return until('\n', 1);
    return null;
  }

  #comment(end: number): void {
    const whole = this.#text.slice(this.#at, end);
    const isAlone = !/\S/.test(this.#text.slice(this.#begin, this.#at));
    const text = whole.replace(/^(?:\/\*+|--\[\[|<!--|\{-|\(\*|\/\/+|--+|#+|;+)|(?:\*+\/|\]\]|-->|-\}|\*\))$/g, '').slice(0, 300);
    this.comments.push({ at: this.#at, end, line: this.#line, text: text.trim(), isAlone });
    for (const piece of whole) if (piece === '\n') this.#line++;
    if (whole.includes('\n')) this.#begin = this.#at + whole.lastIndexOf('\n') + 1;
    this.#at = end;
  }
}
