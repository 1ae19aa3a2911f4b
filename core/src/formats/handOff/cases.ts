/** The case in which names are written. */
export const cases = ['SCREAMING_SNAKE', 'snake_case', 'camelCase', 'PascalCase'] as const;
export type Case = (typeof cases)[number];

export function inCase(words: readonly string[], style: Case): string {
  const capital = (word: string) => (word[0]?.toUpperCase() ?? '') + word.slice(1);
  if (style === 'SCREAMING_SNAKE') return words.join('_').toUpperCase();
  if (style === 'snake_case') return words.join('_');
  return words.map((word, i) => (style === 'camelCase' && i === 0 ? word : capital(word))).join('');
}
