import { sequence } from './sequence.ts';

/** Pieces that mean something to a language, a format, a spreadsheet or a terminal. Test data. */
const pieces = [
  '*/',
  '/*',
  '**//',
  '/*/',
  '// ',
  '# ',
  '--[[',
  ']]',
  '"""',
  "'''",
  '\\',
  '\\n',
  '\n',
  '\r',
  '\u2028',
  '\u2029',
  '\u0085',
  '\u000b',
  '\u202e',
  '\u2066',
  '\u0000',
  '\u001b[31m',
  '??/',
  'coding: utf-7',
  'coding=latin-1',
  '+AAo-import os',
  'int pwned(void){return 7;}',
  'export const pwned = 1;',
  'import os',
  'os.exit(1)',
  '#endif',
  '#define pwned 1',
  '<script>alert(1)</script>',
  '&amp;',
  ']]>',
  '<!--',
  '-->',
  '=1+1',
  '+1',
  '-1',
  '@SUM(1)',
  '\t=1',
  "'=1",
  "''",
  '"',
  ',',
  ';',
  '|',
  '`code`',
  '[a](http://here)',
  '![x](y)',
  '# head',
  '> quote',
  '%{1}',
  '%s',
  '{{x}}',
  '../..',
  'con',
  'é',
  '漢',
  '😀',
  'Boots',
  ' ',
  '7',
];

/** A name of up to 120 characters that is as bad as names can be, another one for each seed. */
function nastyName(seed: number): string {
  const next = sequence(seed);
  const length = 1 + Math.floor(next() * 6);
  const name = Array.from({ length }, () => pieces[Math.floor(next() * pieces.length)]).join(next() < 0.5 ? '' : ' ');
  return name.slice(0, 120).replace(/\p{Cs}/gu, '?');
}

/** Every piece by itself, between words and at both ends, then `count` random names. */
export const nastyNames = (count: number): string[] => [
  ...pieces.flatMap((piece) => [piece, `Boots ${piece} boots`, `${piece}Boots`, `Boots${piece}`]),
  ...Array.from({ length: count }, (_, seed) => nastyName(seed + 1)),
];
