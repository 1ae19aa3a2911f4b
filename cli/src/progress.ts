/** Milliseconds after which a bar is shown, and between two drawings of it. */
const LATER = 1000;
const EVERY = 100;
const WIDTH = 40;

/** A bar on the terminal for what takes over a second; nothing where stderr is no terminal. */
export class Progress {
  readonly #total: number;
  readonly #begun = performance.now();
  #drawn = 0;

  constructor(total: number) {
    this.#total = total;
  }

  at(done: number): void {
    const now = performance.now();
    if (!process.stderr.isTTY || now - this.#begun < LATER || now - this.#drawn < EVERY) return;
    this.#drawn = now;
    process.stderr.write(`\r${bar(done / this.#total)}`);
  }

  end(): void {
    if (this.#drawn > 0) process.stderr.write(`\r${' '.repeat(WIDTH + 8)}\r`);
  }
}

/** `██████░░░░  60 %` */
export function bar(share: number): string {
  const full = Math.round(Math.max(0, Math.min(1, share)) * WIDTH);
  return `${'█'.repeat(full)}${'░'.repeat(WIDTH - full)} ${String(Math.floor(Math.max(0, Math.min(1, share)) * 100)).padStart(3)} %`;
}
