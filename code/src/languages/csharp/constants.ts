import { type ConstantValue, identifierOf } from '@zygopod/core';
import { beside, columns, head, type Literals, pointed, type Writer, words } from '../../writing/writer.ts';

/** How constants are written in it. */
export const writer = {
  id: 'csharp',
  title: 'C#',
  extension: 'cs',
  style: 'PascalCase',
  comment: '//',
  name: /^[\p{L}\p{Nl}_][\p{L}\p{Nl}\p{Nd}\p{Mn}\p{Mc}\p{Pc}]*$/u,
  reserved: words(
    'abstract as base bool break byte case catch char checked class const continue decimal default delegate do double else enum event explicit extern false finally fixed float for foreach goto if implicit in int interface internal is lock long namespace new null object operator out override params private protected public readonly ref return sbyte sealed short sizeof stackalloc static string struct switch this throw true try typeof uint ulong unchecked unsafe ushort using virtual void volatile while',
  ),
  write: (constants, heading) => {
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
    const stem = identifierOf(heading.stem).replace(/(^|_+)([^_]?)/g, (_, _gap, letter: string) => letter.toUpperCase());
    // A member cannot have its class's name.
    const name = constants.some((one) => one.name === stem) ? `${stem}Numbers` : stem;
    return `// ${head(heading)}\npublic static class ${name}\n{\n${columns(
      constants,
      (name, value, comment) => `    public ${typeOf(value.trim())} ${name} = ${value.trim()};${beside('//', comment)}`,
      of,
    )}}\n`;
  },
} as const satisfies Writer;
