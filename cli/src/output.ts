import { once } from 'node:events';
import { createWriteStream, type WriteStream } from 'node:fs';
import { Misuse } from './misuse.ts';

/** Characters that are gathered before they are written. */
const GATHERED = 65_536;

/** The destination of data: a file, or stdout for none or `-`. A failure to write is reported in one line. */
export class Output {
  readonly #name: string;
  readonly #stream: WriteStream | NodeJS.WriteStream;
  readonly #isFile: boolean;
  #gathered = '';
  #fault: NodeJS.ErrnoException | null = null;

  constructor(path: string | undefined) {
    this.#isFile = path !== undefined && path !== '-';
    this.#name = this.#isFile ? (path as string) : 'stdout';
    this.#stream = this.#isFile ? createWriteStream(path as string) : process.stdout;
    this.#stream.on('error', (error: NodeJS.ErrnoException) => {
      this.#fault ??= error;
    });
  }

  /** Takes text; waits while the reader is slower. */
  async write(text: string): Promise<void> {
    this.#gathered += text;
    if (this.#gathered.length >= GATHERED) await this.#flush();
  }

  /** True if the reader has closed its end: nobody wants more. */
  get isClosed(): boolean {
    return this.#fault?.code === 'EPIPE';
  }

  async end(): Promise<void> {
    await this.#flush();
    if (this.#isFile && !this.#fault) {
      this.#stream.end();
      await Promise.race([once(this.#stream, 'close'), once(this.#stream, 'error')]).catch(() => undefined);
    }
    this.#check();
  }

  async #flush(): Promise<void> {
    const text = this.#gathered;
    this.#gathered = '';
    this.#check();
    if (this.isClosed || text === '') return;
    // The callback reports the end of this write, good or bad.
    await new Promise<void>((over) => {
      this.#stream.write(text, () => over());
    });
    this.#check();
  }

  #check(): void {
    if (this.#fault && !this.isClosed) throw new Misuse(`${this.#name}: cannot be written (${this.#fault.code ?? 'unknown'})`);
  }
}
