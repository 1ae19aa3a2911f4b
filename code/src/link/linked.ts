import { readFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { numberSpec } from '@zygopod/core';
import { snake } from '../casing/casing.ts';
import type { LanguageId } from '../languages/list.ts';
import type { LiveNumber } from '../live.ts';

/** A file that is handed over beside the motion. */
export interface LinkedFile {
  name: string;
  text: string;
}

/** How the file that links the motion is made in a language: its template, its name, and how a live number is written. */
interface Linking {
  client: string;
  template: string;
  name: string;
  /** Text of the template in place of which the live numbers stand, and each number with its least and largest value. */
  place: string;
  all(numbers: readonly string[]): string;
  each(path: string, field: string, least: string, most: string): string;
  /** The name of the motion's file in the template, and in its place. */
  from: string;
  named(stem: string, file: string): string;
}

const list = (open: string, close: string) => (numbers: readonly string[]) => `${open}\n${numbers.join('\n')}\n${close}`;
const float = (value: string) => (/[.e]/.test(value) ? value : `${value}.0`);

const linkings: Readonly<Record<LanguageId, Linking>> = {
  ts: {
    client: 'typescript/zygopodLink.ts',
    template: 'typescript/motionLink.template',
    name: 'motionLink.ts',
    place: 'number])[] = [];',
    all: list('number])[] = [', '];'),
    each: (path, field, least, most) => `  ['${path}', '${field}', ${least}, ${most}],`,
    from: "'./motion.ts'",
    named: (_, file) => `'./${file}'`,
  },
  c: {
    client: 'c/zygopod_link.h',
    template: 'c/motion_link.h',
    name: 'motion_link.h',
    place: '  /* live */',
    all: (numbers) => numbers.join('\n'),
    each: (path, field, least, most) =>
      `  zygopod_watch(&m->link, "${path}", "${path}", &b->${snake(field)}, ${float(least)}, ${float(most)});`,
    from: '#include "motion.h"',
    named: (_, file) => `#include "${file}"`,
  },
  csharp: {
    client: 'csharp/ZygopodLink.cs',
    template: 'csharp/MotionLink.cs',
    name: 'MotionLink.cs',
    place: '        // live',
    all: (numbers) => numbers.join('\n'),
    each: (path, field, least, most) => `        Live("${path}", () => Body.${field}, value => Body.${field} = value, ${least}, ${most});`,
    from: 'Links Motion.cs',
    named: (_, file) => `Links ${file}`,
  },
  python: {
    client: 'python/zygopod_link.py',
    template: 'python/motion_link.py',
    name: 'motion_link.py',
    place: 'LIVE = ()',
    all: list('LIVE = (', ')'),
    each: (path, field, least, most) => `    ("${path}", "${snake(field)}", ${least}, ${most}),`,
    from: 'import motion\n',
    named: (stem) => (stem === 'motion' ? 'import motion\n' : `import ${stem} as motion\n`),
  },
  lua: {
    client: 'lua/zygopod_link.lua',
    template: 'lua/motion_link.lua',
    name: 'motion_link.lua',
    place: 'local LIVE = {}',
    all: list('local LIVE = {', '}'),
    each: (path, field, least, most) => `  { "${path}", "${snake(field)}", ${least}, ${most} },`,
    from: 'require("motion")',
    named: (stem) => `require("${stem}")`,
  },
  rust: {
    client: 'rust/zygopod_link.rs',
    template: 'rust/motion_link.rs',
    name: 'motion_link.rs',
    place: '&[Live] = &[];',
    all: list('&[Live] = &[', '];'),
    each: (path, field, least, most) => `    ("${path}", |state| &mut state.body.${snake(field)}, ${float(least)}, ${float(most)}),`,
    from: 'crate::motion::',
    named: (stem) => `crate::${stem}::`,
  },
};

/** The files that link a motion to Zygopod, for a file of it with this name: the client, and what registers the live numbers and reports the state. */
export function linkedFiles(language: LanguageId, live: readonly LiveNumber[], file: string): LinkedFile[] {
  const { client, template, name, place, all, each, from, named } = linkings[language];
  const here = import.meta.dirname;
  const numbers = live.map(({ path, field }) => {
    const { min, max } = numberSpec(path);
    return each(path, field, String(min), String(max));
  });
  const stem = basename(file).replace(/\.[^.]*$/, '');
  const text = readFileSync(join(here, template), 'utf8');
  for (const part of [place, from]) if (!text.includes(part)) throw new Error(`${template} has no ${part}`);
  return [
    { name: basename(client), text: readFileSync(join(here, client), 'utf8') },
    { name, text: (numbers.length === 0 ? text : text.replace(place, all(numbers))).replace(from, named(stem, basename(file))) },
  ];
}
