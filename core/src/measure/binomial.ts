/** ln n! by summing: exact to rounding for the few hundred that a trial has. */
function logFactorial(n: number): number {
  let sum = 0;
  for (let i = 2; i <= n; i++) sum += Math.log(i);
  return sum;
}

/** P(X ≥ k) for X binomial with n tries of chance p; 1 for k ≤ 0. */
export function atLeast(k: number, n: number, p: number): number {
  if (k <= 0 || p >= 1) return 1;
  if (p <= 0 || k > n) return 0;
  let sum = 0;
  for (let i = k; i <= n; i++)
    sum += Math.exp(logFactorial(n) - logFactorial(i) - logFactorial(n - i) + i * Math.log(p) + (n - i) * Math.log1p(-p));
  return Math.min(1, sum);
}

/** The chance of so one-sided a vote or more if no side felt better (exact sign test, one-sided): `k` of `n` votes for the side that leads. */
export const chanceOf = (k: number, n: number): number => atLeast(k, n, 0.5);

/** Where f, which rises over 0…1, meets a level. */
function meets(f: (p: number) => number, level: number): number {
  let [low, high] = [0, 1];
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (f(middle) < level) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/**
 * The exact confidence interval of a proportion with `k` of `n` observed (Clopper and Pearson, The use of confidence or fiducial limits illustrated
 * in the case of the binomial, Biometrika 26, 1934). `confidence` is 0.95 for 95 %. Without observations: 0 to 1.
 */
export function shareInterval(k: number, n: number, confidence = 0.95): [number, number] {
  if (n === 0) return [0, 1];
  const tail = (1 - confidence) / 2;
  const low = k === 0 ? 0 : meets((p) => atLeast(k, n, p), tail);
  const high = k === n ? 1 : meets((p) => atLeast(k + 1, n, p), 1 - tail);
  return [low, high];
}
