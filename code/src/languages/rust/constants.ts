import type { ConstantValue } from '@zygopod/core';
import { beside, columns, head, type Literals, pointed, type Writer, words } from '../../writing/writer.ts';

/** How constants are written in it. */
export const writer = {
  id: 'rust',
  title: 'Rust',
  extension: 'rs',
  style: 'SCREAMING_SNAKE',
  comment: '//',
  name: /^(?:[\p{XID_Start}]|_(?=[\p{XID_Continue}]))[\p{XID_Continue}]*$/u,
  reserved: words(
    'as async await break const continue crate dyn else enum extern false fn for if impl in let loop match mod move mut pub ref return self Self static struct super trait true type unsafe use where while abstract become box do final macro override priv try typeof unsized virtual yield',
  ),
  write: (constants, heading) => {
    const of: Literals = { isTrue: 'true', isFalse: 'false', number: pointed, list: (values) => `&[${values.join(', ')}]` };
    const typeOf = (value: ConstantValue): string => {
      if (typeof value === 'boolean') return 'bool';
      if (typeof value === 'number') return 'f64';
      if (typeof value === 'string') return '&str';
      return `&[${value.length === 0 ? '&str' : typeOf(value[0] as ConstantValue)}]`;
    };
    const types = new Map(constants.map(({ name, value }) => [name, typeOf(value)]));
    return `// ${head(heading)}\n\n${columns(
      constants,
      (name, value, comment) => `pub const ${name.trimEnd()}: ${types.get(name.trimEnd())} = ${value.trim()};${beside('//', comment)}`,
      of,
    )}`;
  },
} as const satisfies Writer;
