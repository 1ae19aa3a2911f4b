import { type FSWatcher, watch } from 'node:fs';
import { setTimeout as pause } from 'node:timers/promises';
import type { Application } from './application.ts';
import type { Folder } from './folder.ts';
import { type Mirror, QUIET } from './mirror.ts';

/** Milliseconds without a change before both sides are read: an editor writes a file in several steps. */
const REST = 40;
/** Milliseconds after which they are read in any case, and after which a failure is retried. */
const ANYWAY = 5000;
const AGAIN = 1000;

/** Keeps a folder and a project in sync until it is stopped: runs a pass whenever one of them reports a change. */
export class Live {
  readonly #over = new AbortController();
  #wake: (() => void) | null = null;
  #isDue = true;
  #done: Promise<unknown> = Promise.resolve();
  #watcher: FSWatcher | null = null;
  #lastWhy = '';

  start(mirror: Mirror, folder: Folder, app: Application, say: (line: string) => void): void {
    this.#done = Promise.all([this.#looks(mirror, folder, say), this.#listens(app)]);
  }

  async stop(): Promise<void> {
    this.#over.abort();
    this.#due();
    this.#watcher?.close();
    await this.#done.catch(() => undefined);
  }

  #due(): void {
    this.#isDue = true;
    this.#wake?.();
  }

  async #looks(mirror: Mirror, folder: Folder, say: (line: string) => void): Promise<void> {
    while (!this.#over.signal.aborted) {
      this.#isDue = false;
      let wait = ANYWAY;
      try {
        const { lines, isWaiting } = await mirror.look();
        for (const line of lines) say(`files: ${line}`);
        if (isWaiting) wait = QUIET + REST;
        this.#lastWhy = '';
        this.#watch(folder);
      } catch (error) {
        const why = error instanceof Error ? error.message : String(error);
        // Reported once, though it is retried again and again.
        if (why !== this.#lastWhy) say(`files: ${why}`);
        this.#lastWhy = why;
        this.#watcher?.close();
        this.#watcher = null;
        wait = AGAIN;
      }
      if (!this.#isDue)
        await new Promise<void>((next) => {
          const timer = setTimeout(next, wait);
          this.#wake = () => {
            clearTimeout(timer);
            next();
          };
        });
      this.#wake = null;
      if (this.#isDue && !this.#over.signal.aborted) await pause(REST);
    }
  }

  /** Watches the folder, once it is there. */
  #watch(folder: Folder): void {
    if (this.#watcher || this.#over.signal.aborted) return;
    try {
      this.#watcher = watch(folder.root, { recursive: true }, () => this.#due());
      this.#watcher.on('error', () => {
        this.#watcher?.close();
        this.#watcher = null;
      });
    } catch {
      // Looked at anyway, every few seconds.
    }
  }

  async #listens(app: Application): Promise<void> {
    while (!this.#over.signal.aborted) {
      try {
        await app.listen(() => this.#due(), this.#over.signal);
      } catch {
        // The server is being started again.
      }
      await pause(AGAIN, undefined, { signal: this.#over.signal }).catch(() => undefined);
    }
  }
}
