import Decimal from 'decimal.js';

/** Decimals of 60 digits: exact for what a chain of units makes of a number. */
export const Exact = Decimal.clone({ precision: 60, toExpNeg: -30, toExpPos: 40 });
export type Exact = Decimal;

/** π to 60 digits. */
export const EXACT_PI: Exact = Exact.acos(-1);

/** Digits beyond which doubles cannot distinguish two decimals. */
const MOST_DIGITS = 40;

/** The shortest decimal near a value for which `is` holds, and the value itself where it holds for none. */
export function shortestDecimal(value: Exact, is: (decimal: Exact) => boolean): string {
  for (let digits = 1; digits < MOST_DIGITS; digits++) {
    const rounded = value.toSignificantDigits(digits);
    if (is(rounded)) return rounded.toString();
  }
  return value.toString();
}
