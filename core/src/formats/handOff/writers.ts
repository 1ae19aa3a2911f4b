import { csvCell, identifierOf, inComment } from '../escaping.ts';
import type { Constant, ConstantFault, ConstantValue } from './constants.ts';

/** The case in which names are written. */
export const cases = ['SCREAMING_SNAKE', 'snake_case', 'camelCase', 'PascalCase'] as const;
export type Case = (typeof cases)[number];

export function inCase(words: readonly string[], style: Case): string {
  const capital = (word: string) => (word[0]?.toUpperCase() ?? '') + word.slice(1);
  if (style === 'SCREAMING_SNAKE') return words.join('_').toUpperCase();
  if (style === 'snake_case') return words.join('_');
  return words.map((word, i) => (style === 'camelCase' && i === 0 ? word : capital(word))).join('');
}

/** A constant as it is written: its name in the language, and what is said beside it. */
export interface WrittenConstant {
  path: string;
  name: string;
  value: ConstantValue;
  decimal?: string;
  comment: string;
  group: string;
}

/** What a file says of itself. */
interface Told {
  tuning: string;
  revision: string;
  units: string;
  /** A name for the whole: of a module, a class, a guard. */
  stem: string;
}

/** How constants are written in a language. */
export interface Writer {
  id: string;
  title: string;
  extension: string;
  style: Case;
  /** How a line that is no code begins; null: the format has no comments. */
  comment: string | null;
  /** What a name has to be like (its grammar's identifiers); null: anything. */
  name: RegExp | null;
  /** Words that cannot be names. */
  reserved: readonly string[];
  write(constants: readonly WrittenConstant[], told: Told): string;
}

const words = (text: string) => text.split(' ');

/** The values of a language: how true and false, texts, numbers and lists are written. */
interface Literals {
  isTrue: string;
  isFalse: string;
  number(decimal: string): string;
  list(values: string[], value: readonly ConstantValue[]): string;
}

function literal(value: ConstantValue, of: Literals, decimal = String(value)): string {
  if (typeof value === 'boolean') return value ? of.isTrue : of.isFalse;
  if (typeof value === 'number') return of.number(decimal);
  if (typeof value === 'string') return JSON.stringify(value);
  return of.list(
    value.map((one) => literal(one, of)),
    value,
  );
}

/** A number with a point in it, so that no language takes it for a whole one. */
const pointed = (decimal: string) => (/[.e]/.test(decimal) ? decimal : `${decimal}.0`);
const plain = (decimal: string) => decimal;

/** Lines `name value comment`, names and values in columns of their own, a gap between groups. */
function columns(
  constants: readonly WrittenConstant[],
  line: (name: string, value: string, comment: string) => string,
  of: Literals,
): string {
  const rows = constants.map(({ name, value, decimal, comment, group }) => ({ name, value: literal(value, of, decimal), comment, group }));
  const wide = Math.max(0, ...rows.map(({ name }) => name.length));
  const deep = Math.min(14, Math.max(0, ...rows.map(({ value }) => value.length)));
  let group = rows[0]?.group;
  return rows
    .map((row) => {
      const gap = row.group === group ? '' : '\n';
      group = row.group;
      return `${gap}${line(row.name.padEnd(wide), row.value.padStart(deep), row.comment)}\n`;
    })
    .join('');
}

const head = ({ tuning, revision, units }: Told) => inComment(`${tuning}, ${revision}. Units: ${units}.`);
const beside = (mark: string, comment: string, end = '') => (comment ? `  ${mark} ${inComment(comment)}${end}` : '');

const typescript: Writer = {
  id: 'ts',
  title: 'TypeScript',
  extension: 'ts',
  style: 'camelCase',
  comment: '//',
  name: /^[\p{ID_Start}$_][\p{ID_Continue}$]*$/u,
  reserved: words(
    'break case catch class const continue debugger default delete do else enum export extends false finally for function if import in instanceof let new null return static super switch this throw true try typeof var void while with yield await async of implements interface package private protected public eval arguments undefined NaN Infinity globalThis',
  ),
  write: (constants, told) => {
    const of: Literals = { isTrue: 'true', isFalse: 'false', number: plain, list: (values) => `[${values.join(', ')}]` };
    return `// ${head(told)}\n\n${columns(constants, (name, value, comment) => `export const ${name} = ${value.trim()};${beside('//', comment)}`, of)}`;
  },
};

const c: Writer = {
  id: 'c',
  title: 'C',
  extension: 'h',
  style: 'SCREAMING_SNAKE',
  comment: '//',
  name: /^[A-Za-z_]\w*$/,
  reserved: words(
    'auto break case char const continue default do double else enum extern float for goto if inline int long register restrict return short signed sizeof static struct switch typedef union unsigned void volatile while _Alignas _Alignof _Atomic _Bool _Complex _Generic _Imaginary _Noreturn _Static_assert _Thread_local alignas alignof bool constexpr false nullptr static_assert thread_local true typeof typeof_unqual asm NULL EOF errno assert main stdin stdout stderr signbit isnan isinf INFINITY NAN defined',
  ),
  write: (constants, told) => {
    const guard = `${identifierOf(told.stem).toUpperCase()}_H`;
    const of: Literals = {
      isTrue: '1',
      isFalse: '0',
      number: pointed,
      list: (values) => (values.length > 0 ? `{ ${values.join(', ')} }` : '{}'),
    };
    const body = columns(constants, (name, value, comment) => `#define ${name} ${value}${beside('/*', comment, ' */')}`, of);
    return `/* ${head(told)} */\n#ifndef ${guard}\n#define ${guard}\n\n${body}\n#endif\n`;
  },
};

const csharp: Writer = {
  id: 'csharp',
  title: 'C#',
  extension: 'cs',
  style: 'PascalCase',
  comment: '//',
  name: /^[\p{L}\p{Nl}_][\p{L}\p{Nl}\p{Nd}\p{Mn}\p{Mc}\p{Pc}]*$/u,
  reserved: words(
    'abstract as base bool break byte case catch char checked class const continue decimal default delegate do double else enum event explicit extern false finally fixed float for foreach goto if implicit in int interface internal is lock long namespace new null object operator out override params private protected public readonly ref return sbyte sealed short sizeof stackalloc static string struct switch this throw true try typeof uint ulong unchecked unsafe ushort using virtual void volatile while',
  ),
  write: (constants, told) => {
    const isFlat = (value: readonly ConstantValue[]) => !value.some(Array.isArray);
    const of: Literals = {
      isTrue: 'true',
      isFalse: 'false',
      number: pointed,
      list: (values, value) =>
        `new ${isFlat(value) ? (value.length === 0 || typeof value[0] === 'string' ? 'string[]' : 'double[]') : 'double[][]'} { ${values.join(', ')} }`,
    };
    const typeOf = (value: string) =>
      /^(true|false)$/.test(value)
        ? 'const bool'
        : value.startsWith('"')
          ? 'const string'
          : value.startsWith('new')
            ? `static readonly ${value.split(' ')[1]}`
            : 'const double';
    const stem = identifierOf(told.stem).replace(/(^|_+)([^_]?)/g, (_, _gap, letter: string) => letter.toUpperCase());
    // A member cannot have its class's name.
    const name = constants.some((one) => one.name === stem) ? `${stem}Numbers` : stem;
    return `// ${head(told)}\npublic static class ${name}\n{\n${columns(
      constants,
      (name, value, comment) => `    public ${typeOf(value.trim())} ${name} = ${value.trim()};${beside('//', comment)}`,
      of,
    )}}\n`;
  },
};

const python: Writer = {
  id: 'python',
  title: 'Python',
  extension: 'py',
  style: 'SCREAMING_SNAKE',
  comment: '#',
  name: /^[\p{ID_Start}_][\p{ID_Continue}]*$/u,
  reserved: words(
    'False None True and as assert async await break class continue def del elif else except finally for from global if import in is lambda nonlocal not or pass raise return try while with yield',
  ),
  write: (constants, told) => {
    const of: Literals = {
      isTrue: 'True',
      isFalse: 'False',
      number: pointed,
      list: (values) => `(${values.join(', ')}${values.length === 1 ? ',' : ''})`,
    };
    return `# ${head(told)}\n\n${columns(constants, (name, value, comment) => `${name.trimEnd()} = ${value.trim()}${beside('#', comment)}`, of)}`;
  },
};

const lua: Writer = {
  id: 'lua',
  title: 'Lua',
  extension: 'lua',
  style: 'snake_case',
  comment: '--',
  name: /^[A-Za-z_]\w*$/,
  reserved: words('and break do else elseif end false for function goto if in local nil not or repeat return then true until while'),
  write: (constants, told) => {
    const of: Literals = {
      isTrue: 'true',
      isFalse: 'false',
      number: plain,
      list: (values) => (values.length > 0 ? `{ ${values.join(', ')} }` : '{}'),
    };
    return `-- ${head(told)}\nreturn {\n${columns(constants, (name, value, comment) => `  ${name} = ${value},${beside('--', comment)}`, of)}}\n`;
  },
};

const rust: Writer = {
  id: 'rust',
  title: 'Rust',
  extension: 'rs',
  style: 'SCREAMING_SNAKE',
  comment: '//',
  name: /^(?:[\p{XID_Start}]|_(?=[\p{XID_Continue}]))[\p{XID_Continue}]*$/u,
  reserved: words(
    'as async await break const continue crate dyn else enum extern false fn for if impl in let loop match mod move mut pub ref return self Self static struct super trait true type unsafe use where while abstract become box do final macro override priv try typeof unsized virtual yield',
  ),
  write: (constants, told) => {
    const of: Literals = { isTrue: 'true', isFalse: 'false', number: pointed, list: (values) => `&[${values.join(', ')}]` };
    const typeOf = (value: ConstantValue): string => {
      if (typeof value === 'boolean') return 'bool';
      if (typeof value === 'number') return 'f64';
      if (typeof value === 'string') return '&str';
      return `&[${value.length === 0 ? '&str' : typeOf(value[0] as ConstantValue)}]`;
    };
    const types = new Map(constants.map(({ name, value }) => [name, typeOf(value)]));
    return `// ${head(told)}\n\n${columns(
      constants,
      (name, value, comment) => `pub const ${name.trimEnd()}: ${types.get(name.trimEnd())} = ${value.trim()};${beside('//', comment)}`,
      of,
    )}`;
  },
};

const json: Writer = {
  id: 'json',
  title: 'JSON',
  extension: 'json',
  style: 'snake_case',
  comment: null,
  name: null,
  reserved: [],
  write: (constants, { units }) => {
    const members = constants.map(({ name, value, decimal }) => `  ${JSON.stringify(name)}: ${decimal ?? JSON.stringify(value)}`);
    return `{\n${[`  "_units": "${units.replaceAll(', ', ',')}"`, ...members].join(',\n')}\n}\n`;
  },
};

const csv: Writer = {
  id: 'csv',
  title: 'Table',
  extension: 'csv',
  style: 'snake_case',
  comment: null,
  name: null,
  reserved: [],
  write: (constants, { units }) => {
    // A number stays one, whatever its sign.
    const cell = (value: ConstantValue) => csvCell(typeof value === 'string' ? value : JSON.stringify(value));
    const rows = constants.map(
      ({ name, value, decimal, comment, path }) => `${csvCell(name)},${decimal ?? cell(value)},${csvCell(comment)},${csvCell(path)}\r\n`,
    );
    return `name,value,comment,path\r\n_units,"${units.replaceAll(', ', ',')}",,\r\n${rows.join('')}`;
  },
};

/** The languages and formats in which constants are handed over. */
export const writers: readonly Writer[] = [typescript, c, csharp, python, lua, rust, json, csv];

/** Why a text can be no name in a language; null where it can. Names have to be in the normal form in which a language compares them (NFC; Python: NFKC). */
function nameFault(name: string, { name: pattern, reserved, title, id }: Writer): string | null {
  if (pattern && (!pattern.test(name) || name.normalize(id === 'python' ? 'NFKC' : 'NFC') !== name))
    return `“${name}” can be no name in ${title}`;
  // The compiler's own names begin so.
  const isOurs = reserved.includes(name) || (id === 'c' && /^_[_A-Z]/.test(name));
  return isOurs ? `${name} is a word of ${title} itself` : null;
}

/** Constants with their names in a language; what cannot be a name, or is one twice, is told before anything is written. */
export function nameConstants(
  constants: readonly Constant[],
  writer: Writer,
  style: Case = writer.style,
): { written: WrittenConstant[]; faults: ConstantFault[] } {
  const faults: ConstantFault[] = [];
  const taken = new Map<string, string>();
  const written = constants.map(({ path, words, own, value, decimal, unit, outcome, group }): WrittenConstant => {
    const name = own ?? inCase(words, style);
    const why = nameFault(name, writer);
    if (why) faults.push({ path, why });
    else if (taken.has(name)) faults.push({ path, why: `${name} is the name of ${taken.get(name)}, too` });
    taken.set(name, path);
    return { path, name, value, ...(decimal === undefined ? {} : { decimal }), group, comment: [unit, outcome].filter(Boolean).join(', ') };
  });
  return { written, faults };
}
