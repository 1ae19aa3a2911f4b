import { type ChildProcessWithoutNullStreams, execFileSync, spawn } from 'node:child_process';
import { createInterface } from 'node:readline';

/** True if a command succeeds: where it doesn't, a test of what needs it is left out. */
export function succeeds([command, ...args]: readonly string[]): boolean {
  try {
    execFileSync(command as string, args, { stdio: 'pipe' });
    return true;
  } catch {
    return false;
  }
}

/** A program in another language that plays a game as a test asks, a line each. Test data. */
export class GameProgram {
  readonly #process: ChildProcessWithoutNullStreams;
  readonly #lines: AsyncIterator<string>;
  #errors = '';

  constructor(run: readonly string[], folder: string, args: readonly string[]) {
    const [command, ...own] = run as [string, ...string[]];
    this.#process = spawn(command, [...own, ...args], { cwd: folder });
    this.#process.stderr.on('data', (data) => {
      this.#errors += data;
    });
    this.#lines = createInterface(this.#process.stdout)[Symbol.asyncIterator]();
  }

  async line(): Promise<string> {
    const { value, done } = await this.#lines.next();
    if (done) throw new Error(`the program has ended: ${this.#errors}`);
    return value;
  }

  ask(line: string): Promise<string> {
    this.#process.stdin.write(`${line}\n`);
    return this.line();
  }

  /** Ends it; returns the milliseconds of half of its calls, of 99 of 100, and of the slowest. */
  async end(): Promise<number[]> {
    this.#process.stdin.end();
    return (await this.line()).split(/\s+/).slice(1).map(Number);
  }

  kill(): void {
    this.#process.kill('SIGKILL');
  }
}
