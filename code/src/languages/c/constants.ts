import { identifierOf } from '@zygopod/core';
import { beside, columns, head, type Literals, pointed, type Writer, words } from '../../writing/writer.ts';

/** How constants are written in it. */
export const writer = {
  id: 'c',
  title: 'C',
  extension: 'h',
  style: 'SCREAMING_SNAKE',
  comment: '//',
  name: /^[A-Za-z_]\w*$/,
  // The compiler's own names begin so.
  taken: /^_[_A-Z]/,
  reserved: words(
    'auto break case char const continue default do double else enum extern float for goto if inline int long register restrict return short signed sizeof static struct switch typedef union unsigned void volatile while _Alignas _Alignof _Atomic _Bool _Complex _Generic _Imaginary _Noreturn _Static_assert _Thread_local alignas alignof bool constexpr false nullptr static_assert thread_local true typeof typeof_unqual asm NULL EOF errno assert main stdin stdout stderr signbit isnan isinf INFINITY NAN defined',
  ),
  write: (constants, heading) => {
    const guard = `${identifierOf(heading.stem).toUpperCase()}_H`;
    const of: Literals = {
      isTrue: '1',
      isFalse: '0',
      number: pointed,
      list: (values) => (values.length > 0 ? `{ ${values.join(', ')} }` : '{}'),
    };
    const body = columns(constants, (name, value, comment) => `#define ${name} ${value}${beside('/*', comment, ' */')}`, of);
    return `/* ${head(heading)} */\n#ifndef ${guard}\n#define ${guard}\n\n${body}\n#endif\n`;
  },
} as const satisfies Writer;
