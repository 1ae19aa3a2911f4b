import { beside, columns, head, type Literals, plain, type Writer, words } from '../../writing/writer.ts';

/** How constants are written in it. */
export const writer = {
  id: 'lua',
  title: 'Lua',
  extension: 'lua',
  style: 'snake_case',
  comment: '--',
  name: /^[A-Za-z_]\w*$/,
  reserved: words('and break do else elseif end false for function goto if in local nil not or repeat return then true until while'),
  write: (constants, heading) => {
    const of: Literals = {
      isTrue: 'true',
      isFalse: 'false',
      number: plain,
      list: (values) => (values.length > 0 ? `{ ${values.join(', ')} }` : '{}'),
    };
    return `-- ${head(heading)}\nreturn {\n${columns(constants, (name, value, comment) => `  ${name} = ${value},${beside('--', comment)}`, of)}}\n`;
  },
} as const satisfies Writer;
