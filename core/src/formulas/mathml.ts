import { inXml } from '../formats/escaping.ts';
import { shortNumber } from '../tuning/expression.ts';
import type { Formula } from './formulas.ts';
import { bindingOf, type Term } from './term.ts';
import type { As } from './text.ts';

const sign = (text: string) => `<mo>${text}</mo>`;
/** Brackets are as tall as a line, but round fractions. */
const bracket = (text: string, around: string) => (around.includes('<mfrac>') ? sign(text) : `<mo stretchy="false">${text}</mo>`);
const inBrackets = (inner: string) => row(bracket('(', inner), inner, bracket(')', inner));
const row = (...parts: string[]) => `<mrow>${parts.join('')}</mrow>`;
const number = (value: number) =>
  value < 0 ? `${sign('−')}<mn>${inXml(shortNumber(-value))}</mn>` : `<mn>${inXml(shortNumber(value))}</mn>`;
const measured = (value: number, unit: string) =>
  unit === '' ? number(value) : row(number(value), ...(unit === '°' ? [] : ['<mspace width="0.2em"/>']), `<mtext>${inXml(unit)}</mtext>`);

/** A term as presentation MathML (W3C MathML Core): read aloud by screen readers, drawn by every browser. */
function termMath(term: Term, as: As): string {
  const part = (one: Term, least: number) => (bindingOf(one) < least ? inBrackets(termMath(one, as)) : termMath(one, as));
  const between = (all: readonly Term[], mark: string, least: number) =>
    row(...all.flatMap((one, i) => (i === 0 ? [part(one, least)] : [sign(mark), part(one, least)])));
  switch (term.is) {
    case 'number':
      return measured(term.value, term.unit ?? '');
    case 'parameter':
      return as === 'words' ? `<mtext>${inXml(term.label)}</mtext>` : measured(term.value, term.unit);
    case 'open':
    case 'constant':
      return `<mi>${inXml(term.name)}</mi>`;
    case 'named':
      return as === 'words' ? `<mi>${inXml(term.name)}</mi>` : number(term.value);
    case 'sum':
      return between(term.terms, '+', 1);
    case 'difference':
      return term.from.is === 'number' && term.from.value === 0
        ? row(sign('−'), part(term.less, 2))
        : row(part(term.from, 1), sign('−'), part(term.less, 2));
    case 'product':
      return between(term.factors, '·', 2);
    case 'quotient':
      return `<mfrac>${row(termMath(term.over, as))}${row(termMath(term.under, as))}</mfrac>`;
    case 'power':
      return `<msup>${
        as === 'numbers' && term.base.is === 'parameter' && term.base.unit !== '' ? inBrackets(termMath(term.base, as)) : part(term.base, 4)
      }${row(termMath(term.exponent, as))}</msup>`;
    case 'root':
      return `<msqrt>${termMath(term.of, as)}</msqrt>`;
    case 'call': {
      const args = term.args.flatMap((one, i) => (i === 0 ? [termMath(one, as)] : [sign(','), termMath(one, as)]));
      if (term.name === 'floor') return row(bracket('⌊', args.join('')), ...args, bracket('⌋', args.join('')));
      return row(`<mi>${term.name}</mi>`, inBrackets(args.join('')));
    }
  }
}

/** A formula as one `math` element: its quantity, in words, with its numbers, and its value. */
export function formulaMath({ words, term, value, unit }: Formula): string {
  const [named, numbered] = [termMath(term, 'words'), termMath(term, 'numbers')];
  const result = value === null ? null : measured(value, unit);
  const steps = [named, ...(numbered === named ? [] : [numbered]), ...(result === null || result === numbered ? [] : [result])];
  return `<math xmlns="http://www.w3.org/1998/Math/MathML" display="block"><mrow><mtext>${inXml(words)}</mtext>${steps.map((step) => `${sign('=')}${step}`).join('')}</mrow></math>`;
}
