/** A number in so many significant digits, without zeros at its end; whole from 10^digits on: `22.3`, `0.0582`, `1235`. */
export function significant(value: number, digits = 3): string {
  return String(Math.abs(value) >= 10 ** digits ? Math.round(value) : Number(value.toPrecision(digits)));
}

/** Digits in which two different doubles differ at the latest. */
const MOST = 17;

/** Two numbers in so many significant digits, or in as many more as distinguish them: `0.999` and `1`. */
export function significantPair(a: number, b: number, digits = 3): [string, string] {
  for (let more = digits; ; more++) {
    const pair: [string, string] = [significant(a, more), significant(b, more)];
    if (a === b || pair[0] !== pair[1] || more === MOST) return pair;
  }
}
