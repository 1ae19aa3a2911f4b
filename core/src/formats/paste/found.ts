import { numberAt, plainWords } from './numberAt.ts';
import { type Found, tableOf } from './table.ts';
import { type Token, tokensOf } from './tokens.ts';

export type { Found } from './table.ts';

/** Numbers that are found at the most. */
const MOST = 5000;
/** Names within names that are told at the most. */
const DEEPEST = 6;

/** Types of numbers, as they stand between a name and its value. */
const types = /^(?:float|double|u?int|f|i|u)(?:8|16|32|64|128)?$/i;

const isSetting = ({ kind, text }: Token) => kind === 'mark' && ['=', ':=', ':', '=>', '<-', '??='].includes(text);

/** The numbers of code in any language, or of a JSON, YAML, INI, TOML, XML or CSV fragment, with their names. */
export function findNumbers(code: string): Found[] {
  const { tokens, comments } = tokensOf(code);
  const hints = new Map<number, string>();
  for (const { line, text } of comments) hints.set(line, `${hints.get(line) ?? ''} ${text}`.trim());
  const lines: Token[][] = [[]];
  for (const token of tokens) {
    if (token.kind === 'end') lines.push([]);
    else lines.at(-1)?.push(token);
  }
  const table = tableOf(lines);
  const found: Found[] = [...table.values()].flat();
  const scopes = new Scopes();
  for (const line of lines) if (line.length > 0 && !table.has(line[0]?.line ?? 0)) readLine(line, scopes, found, hints);
  return found.sort((a, b) => a.line - b.line).slice(0, MOST);
}

/** What names stand in: braces, sections, and lines that are indented under another (YAML). */
class Scopes {
  #braces: string[] = [];
  #indents: { indent: number; name: string }[] = [];
  section = '';
  /** The name that a `name: "…"` beside a `value` has told. */
  told = '';

  open(name: string): void {
    this.#braces.push(name);
  }

  close(): void {
    this.#braces.pop();
    this.told = '';
  }

  /** A line begins: what it is not indented under is over. */
  line(indent: number): void {
    while ((this.#indents.at(-1)?.indent ?? -1) >= indent) this.#indents.pop();
  }

  under(indent: number, name: string): void {
    this.#indents.push({ indent, name });
  }

  named(name: string): string {
    const outer = [this.section, ...this.#braces, ...this.#indents.map((one) => one.name)].filter(Boolean);
    return [...new Set([...outer.slice(-DEEPEST), name])].join('.');
  }
}

/** Words before numbers that name nothing. */
const statements = new Set([
  'if',
  'for',
  'while',
  'case',
  'return',
  'else',
  'elif',
  'in',
  'range',
  'import',
  'from',
  'using',
  'include',
  'version',
  'format',
]);

/** Words that stand for the name, and for the value, of a thing that is told in two attributes. */
const nameKeys = new Set(['name', 'key', 'id', 'field', 'label']);
const valueKeys = new Set(['value', 'val', 'default', 'amount', 'v']);

function readLine(line: readonly Token[], scopes: Scopes, found: Found[], hints: ReadonlyMap<number, string>): void {
  const first = line[0] as Token;
  const last = line.at(-1) as Token;
  scopes.line(first.indent);
  const word = ({ kind, text }: Token | { kind: string; text: string }) => (kind === 'name' || kind === 'text' ? text : '');
  // `[player]` is a section; `[[player]]`, too.
  if (
    first.text === '[' &&
    last.text === ']' &&
    line.every(({ kind, text }) => kind === 'name' || kind === 'text' || text === '[' || text === ']')
  ) {
    scopes.section = line.map(word).join('');
    return;
  }
  const hint = hints.get(first.line) ?? '';
  let name = '';
  let isTyped = false;
  const keep = (named: string, number: NonNullable<ReturnType<typeof numberAt>>, beside: string) => {
    const own = valueKeys.has(named.toLowerCase()) && scopes.told ? scopes.told : named;
    const { value, of } = number;
    found.push({
      name: scopes.named(own),
      value,
      ...(of === null ? {} : { times: { of, factor: value } }),
      line: first.line,
      hint: [beside, hint].filter(Boolean).join(' '),
    });
  };
  for (let i = 0; i < line.length; i++) {
    const token = line[i] as Token;
    const next = line[i + 1];
    if (token.kind === 'mark') {
      if (token.text === '{' || (token.text === '(' && name === '')) scopes.open(token.text === '{' ? name : '');
      else if (token.text === '}') scopes.close();
      if (token.text === '{' || token.text === ',' || token.text === ';' || token.text === '}') {
        name = '';
        isTyped = false;
      }
    }
    if (token.kind === 'name' || token.kind === 'text') {
      if (name && isTyped) continue;
      // Go: `Radius float64 = 4`.
      if (name && token.kind === 'name' && types.test(token.text) && next && isSetting(next)) continue;
      // C#: `Delay { get; set; } = 0.8f`.
      if (next?.text === '{' && ['get', 'set', 'init'].includes(line[i + 2]?.text ?? '')) {
        const end = line.findIndex(({ text }, j) => j > i && text === '}');
        if (end > 0) {
          name = token.text;
          i = end;
          continue;
        }
      }
      if (token.kind === 'name' && plainWords.has(token.text.toLowerCase()) && next && (next.kind === 'name' || next.text === '<'))
        continue;
      name = token.text;
      if (nameKeys.has(name.toLowerCase()) && next && isSetting(next) && line[i + 2]?.kind === 'text') {
        scopes.told = line[i + 2]?.text ?? '';
        i += 2;
        name = '';
        continue;
      }
    }
    if (!name || statements.has(name.toLowerCase())) continue;
    // `walk: f32 = 3.5`: what follows a colon is the type, where something is set after it.
    if (token.text === ':' && next?.kind === 'name' && line.slice(i + 1, i + 6).some(({ text }) => text === '=')) {
      isTyped = true;
      continue;
    }
    const sets = isSetting(token) || (token.text === '>' && line[i - 2]?.text === '<');
    const directly = token.kind === 'name' || token.kind === 'text';
    // C++: `walk{140}`; PHP: `define('WALK', 140)`.
    const isBraced = directly && next?.text === '{' && line[i + 2]?.kind === 'number' && line[i + 3]?.text === '}';
    const isSecond = token.kind === 'text' && line[i - 1]?.text === '(' && next?.text === ',' && line[i + 2]?.kind === 'number';
    // Lisp: `*run-speed* 245`.
    const isMuffed = directly && next?.text === '*' && line[i - 1]?.text === '*' && line[i + 2]?.kind === 'number';
    const begins =
      sets ||
      isMuffed ||
      isBraced ||
      isSecond ||
      (directly && (next?.kind === 'number' || next?.text === '(' || (next?.text === ',' && line.length <= 5 && i === 0)));
    if (!begins) continue;
    let at = i + 1;
    if (isMuffed) at++;
    else if (directly && next && next.kind !== 'number') at++;
    // Lists of two are a width and a height: `size = [24, 32]`, `Vector2(24, 32)`.
    const list = sets ? listAt(line, at) : null;
    if (list) {
      for (const [j, one] of list.numbers.entries()) keep(`${name}.${'xyzw'[j] ?? j}`, one, '');
      i = list.end - 1;
      name = '';
      isTyped = false;
      continue;
    }
    const number = numberAt(line, at);
    if (!number) continue;
    keep(name, number, unitAfter(line, number.end));
    i = number.end - 1;
    name = '';
    isTyped = false;
  }
  // A name with nothing after its colon has what is indented under it.
  if (last.text === ':' && line.length >= 2) scopes.under(first.indent, word(line[line.length - 2] as Token));
}

/** The unit after a number: `px / s`, `°`, `%`; empty where what follows is a name of its own. */
function unitAfter(line: readonly Token[], at: number): string {
  let unit = '';
  for (let i = at; i < Math.min(line.length, at + 5); i++) {
    const { kind, text } = line[i] as Token;
    if (kind === 'name' && isSetting(line[i + 1] ?? { kind: 'end', text: '', value: 0, line: 0, indent: 0 })) return '';
    if (kind === 'name' || (kind === 'mark' && ['/', '%', '°', '^', '²'].includes(text))) unit += text === '%' ? 'percent' : text;
    else break;
  }
  return unit;
}

/** Two to four numbers in brackets, perhaps after the name of a type. */
function listAt(line: readonly Token[], at: number): { numbers: NonNullable<ReturnType<typeof numberAt>>[]; end: number } | null {
  let index = at;
  while (line[index]?.kind === 'name') index++;
  if (!['[', '{', '('].includes(line[index]?.text ?? '')) return null;
  index++;
  const numbers: NonNullable<ReturnType<typeof numberAt>>[] = [];
  for (;;) {
    const number = numberAt(line, index);
    if (!number) return null;
    numbers.push(number);
    index = number.end;
    const mark = line[index++]?.text ?? '';
    if ([']', '}', ')'].includes(mark)) return numbers.length >= 2 && numbers.length <= 4 ? { numbers, end: index } : null;
    if (mark !== ',') return null;
  }
}
