import { inMarkdown } from '../formats/escaping.ts';
import { shortNumber } from '../tuning/expression.ts';
import type { Formula } from './formulas.ts';
import { bindingOf, type Term } from './term.ts';

/** Parameters are written by their labels (true) or their numbers. */
export type As = 'words' | 'numbers';

const number = (value: number) => shortNumber(value).replace('-', '−');

/** A number with its unit: degrees stand at their number. */
const withUnit = (text: string, unit: string) => `${text}${unit === '' || unit === '°' ? unit : ` ${unit}`}`;

/** A term as plain text: `0.99 · walk / accelerate`. */
export function termText(term: Term, as: As): string {
  const part = (one: Term, least: number) => (bindingOf(one) < least ? `(${termText(one, as)})` : termText(one, as));
  switch (term.is) {
    case 'number':
      return `${number(term.value)}${term.unit ?? ''}`;
    case 'parameter':
      return as === 'words' ? term.label : withUnit(number(term.value), term.unit);
    case 'open':
    case 'constant':
      return term.name;
    case 'named':
      return as === 'words' ? term.name : number(term.value);
    case 'sum':
      return term.terms.map((one) => part(one, 1)).join(' + ');
    case 'difference':
      return term.from.is === 'number' && term.from.value === 0
        ? `−${part(term.less, 2)}`
        : `${part(term.from, 1)} − ${part(term.less, 2)}`;
    case 'product':
      return term.factors.map((one) => part(one, 2)).join(' · ');
    case 'quotient':
      return `${part(term.over, 2)} / ${part(term.under, 3)}`;
    case 'power': {
      // The square of 140 px/s is not 140 px/s².
      const base =
        as === 'numbers' && term.base.is === 'parameter' && term.base.unit !== '' ? `(${termText(term.base, as)})` : part(term.base, 4);
      return term.exponent.is === 'number' && term.exponent.value === 2 ? `${base}²` : `${base}^${part(term.exponent, 4)}`;
    }
    case 'root':
      return `√(${termText(term.of, as)})`;
    case 'call':
      return term.name === 'floor'
        ? `⌊${termText(term.args[0] as Term, as)}⌋`
        : `${term.name}(${term.args.map((one) => termText(one, as)).join(', ')})`;
  }
}

/** A formula's value: `0.154 s`. */
export const resultText = ({ value, unit }: Formula): string | null => (value === null ? null : withUnit(number(value), unit));

/** Formulas as Markdown, group by group: quantity, in words, with its numbers, and value. */
export function formulasMarkdown(formulas: readonly Formula[], title: string): string {
  const lines = [`# ${inMarkdown(title)}`];
  let group = '';
  for (const formula of formulas) {
    if (formula.group !== group) {
      group = formula.group;
      lines.push('', `## ${group}`, '');
    }
    const result = resultText(formula);
    const [words, numbers] = [termText(formula.term, 'words'), termText(formula.term, 'numbers')];
    const steps = [words, ...(numbers === words ? [] : [numbers]), ...(result === null || result === numbers ? [] : [`**${result}**`])];
    lines.push(`- ${formula.words} = ${steps.join(' = ')}${formula.note ? ` (${formula.note})` : ''}`);
  }
  return `${lines.join('\n')}\n`;
}
