/** Runs a search to its end and returns its result; `report` is called with each step on the way. */
export function ended<P, T>(search: Generator<P, T>, report: (progress: P) => void = () => undefined): T {
  for (;;) {
    const step = search.next();
    if (step.done) return step.value;
    report(step.value);
  }
}
