import { beside, columns, head, type Literals, plain, type Writer, words } from '../../writing/writer.ts';

/** How constants are written in it. */
export const writer = {
  id: 'ts',
  title: 'TypeScript',
  extension: 'ts',
  style: 'camelCase',
  comment: '//',
  name: /^[\p{ID_Start}$_][\p{ID_Continue}$]*$/u,
  reserved: words(
    'break case catch class const continue debugger default delete do else enum export extends false finally for function if import in instanceof let new null return static super switch this throw true try typeof var void while with yield await async of implements interface package private protected public eval arguments undefined NaN Infinity globalThis',
  ),
  write: (constants, heading) => {
    const of: Literals = { isTrue: 'true', isFalse: 'false', number: plain, list: (values) => `[${values.join(', ')}]` };
    return `// ${head(heading)}\n\n${columns(constants, (name, value, comment) => `export const ${name} = ${value.trim()};${beside('//', comment)}`, of)}`;
  },
} as const satisfies Writer;
