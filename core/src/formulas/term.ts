/** A formula as a tree: what is drawn, read aloud, written as text and computed is one and the same. */
export type Term =
  | { is: 'number'; value: number; unit?: string }
  /** A parameter of the tuning: by its label, or as its number. */
  | { is: 'parameter'; path: string; label: string; value: number; unit: string }
  | { is: 'constant'; name: string; value: number }
  /** The name of another line's quantity, with that line's value. */
  | { is: 'named'; name: string; value: number }
  /** A free variable of a formula: the stick's travel, the remaining path. */
  | { is: 'open'; name: string }
  | { is: 'sum'; terms: Term[] }
  | { is: 'difference'; from: Term; less: Term }
  | { is: 'product'; factors: Term[] }
  | { is: 'quotient'; over: Term; under: Term }
  | { is: 'power'; base: Term; exponent: Term }
  | { is: 'root'; of: Term }
  | { is: 'call'; name: CallName; args: Term[] };

/** Functions in formulas, with what works them out. */
const calls = {
  max: (...all: number[]) => Math.max(...all),
  min: (...all: number[]) => Math.min(...all),
  floor: (value: number) => Math.floor(value + 1e-9),
  ln: (value: number) => Math.log(value),
  log2: (value: number) => Math.log2(value),
  cos: (degrees: number) => Math.cos((degrees * Math.PI) / 180),
  sin: (degrees: number) => Math.sin((degrees * Math.PI) / 180),
} as const;
export type CallName = keyof typeof calls;

const termOf = (one: Term | number): Term => (typeof one === 'number' ? { is: 'number', value: one } : one);

export const pi: Term = { is: 'constant', name: 'π', value: Math.PI };
export const named = (name: string, of: Term): Term => ({ is: 'named', name, value: comesTo(of) });
export const open = (name: string): Term => ({ is: 'open', name });
export const plus = (...terms: (Term | number)[]): Term => ({ is: 'sum', terms: terms.map(termOf) });
export const minus = (from: Term | number, less: Term | number): Term => ({ is: 'difference', from: termOf(from), less: termOf(less) });
export const times = (...factors: (Term | number)[]): Term => ({ is: 'product', factors: factors.map(termOf) });
export const over = (top: Term | number, under: Term | number): Term => ({ is: 'quotient', over: termOf(top), under: termOf(under) });
export const power = (base: Term | number, exponent: Term | number): Term => ({
  is: 'power',
  base: termOf(base),
  exponent: termOf(exponent),
});
export const squared = (base: Term): Term => power(base, 2);
export const root = (of: Term): Term => ({ is: 'root', of });
export const call = (name: CallName, ...args: (Term | number)[]): Term => ({ is: 'call', name, args: args.map(termOf) });
export const degrees = (value: number): Term => ({ is: 'number', value, unit: '°' });

/** The value of a term; NaN if it has free variables. */
export function comesTo(term: Term): number {
  switch (term.is) {
    case 'number':
    case 'parameter':
    case 'constant':
    case 'named':
      return term.value;
    case 'open':
      return Number.NaN;
    case 'sum':
      return term.terms.reduce((sum, one) => sum + comesTo(one), 0);
    case 'difference':
      return comesTo(term.from) - comesTo(term.less);
    case 'product':
      return term.factors.reduce((product, one) => product * comesTo(one), 1);
    case 'quotient':
      return comesTo(term.over) / comesTo(term.under);
    case 'power':
      return comesTo(term.base) ** comesTo(term.exponent);
    case 'root':
      return Math.sqrt(comesTo(term.of));
    case 'call':
      return (calls[term.name] as (...all: number[]) => number)(...term.args.map(comesTo));
  }
}

/** How closely a term binds: what is looser than its place is put in brackets. */
export function bindingOf(term: Term): number {
  switch (term.is) {
    case 'sum':
    case 'difference':
      return 1;
    case 'product':
    case 'quotient':
      return 2;
    case 'power':
      return 3;
    case 'number':
      return term.value < 0 ? 1 : 4;
    default:
      return 4;
  }
}
