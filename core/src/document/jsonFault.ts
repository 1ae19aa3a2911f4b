/** Finds the first fault of a JSON text, and its place. */
export interface JsonFault {
  line: number;
  column: number;
  found: string;
}

// biome-ignore lint/suspicious/noControlCharactersInRegex: JSON has none of them within a text
const PLAIN = /[^"\\\u0000-\u001f]*/y;
const ESCAPE = /\\(?:["\\/bfnrt]|u[0-9a-fA-F]{4})/y;
const SCALAR = /(?:true|false|null|-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?)(?![\w.+-])/y;

/** Maximum nesting; deeper content is reported as the fault. */
const DEEPEST = 100_000;

/** Where a text that `JSON.parse` refuses stops being JSON (RFC 8259): read without recursion, so that no nesting is too deep. */
export function jsonFault(text: string): JsonFault {
  let at = 0;
  const take = (pattern: RegExp): boolean => {
    pattern.lastIndex = at;
    if (!pattern.test(text)) return false;
    at = pattern.lastIndex;
    return true;
  };
  const space = (): void => {
    for (let code = text.charCodeAt(at); code === 32 || code === 10 || code === 13 || code === 9; code = text.charCodeAt(at)) at++;
  };
  const skip = (mark: string): boolean => {
    space();
    if (text[at] !== mark) return false;
    at++;
    return true;
  };
  /** A text in quotes; one that is broken is not gone into. */
  const string = (): boolean => {
    const begin = at;
    if (text[at] !== '"') return false;
    at++;
    do take(PLAIN);
    while (take(ESCAPE));
    if (text[at] === '"') return at++ >= 0;
    at = begin;
    return false;
  };
  /** The open brackets, by their closing ones. */
  const open: string[] = [];
  const value = (): boolean => {
    space();
    for (; (text[at] === '[' || text[at] === '{') && open.length < DEEPEST; space()) {
      const close = text[at++] === '[' ? ']' : '}';
      if (skip(close)) return true;
      open.push(close);
      if (close === '}' && !key()) return false;
    }
    return string() || take(SCALAR);
  };
  const key = (): boolean => {
    space();
    return string() && skip(':');
  };
  const document = (): boolean => {
    if (!value()) return false;
    while (open.length > 0) {
      if (skip(open.at(-1) as string)) open.pop();
      else if (!skip(',') || (open.at(-1) === '}' && !key()) || !value()) return false;
    }
    space();
    return at === text.length;
  };
  document();
  space();
  const before = text.slice(0, at);
  const line = before.split('\n').length;
  const found = at >= text.length ? 'the end of the file' : JSON.stringify(text.slice(at, at + 12).split(/\s/)[0] || text[at]);
  return { line, column: at - before.lastIndexOf('\n'), found };
}
