import { type ConstantValue, csvCell } from '@zygopod/core';
import type { Writer } from '../writing/writer.ts';

export const json: Writer = {
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

export const csv: Writer = {
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
