import { beside, columns, head, type Literals, pointed, type Writer, words } from '../../writing/writer.ts';

/** How constants are written in it. */
export const writer = {
  id: 'python',
  title: 'Python',
  extension: 'py',
  style: 'SCREAMING_SNAKE',
  comment: '#',
  name: /^[\p{ID_Start}_][\p{ID_Continue}]*$/u,
  normalForm: 'NFKC',
  reserved: words(
    'False None True and as assert async await break class continue def del elif else except finally for from global if import in is lambda nonlocal not or pass raise return try while with yield',
  ),
  write: (constants, heading) => {
    const of: Literals = {
      isTrue: 'True',
      isFalse: 'False',
      number: pointed,
      list: (values) => `(${values.join(', ')}${values.length === 1 ? ',' : ''})`,
    };
    return `# ${head(heading)}\n\n${columns(constants, (name, value, comment) => `${name.trimEnd()} = ${value.trim()}${beside('#', comment)}`, of)}`;
  },
} as const satisfies Writer;
