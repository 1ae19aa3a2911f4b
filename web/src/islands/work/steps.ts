import { atom, type WritableAtom } from 'nanostores';

/** One undo step: the files before and after, and its description. */
interface Step<F> {
  before: F;
  after: F;
  what: string;
}

const DEPTH = 500;

/** A file under work with undo and redo. While a drag lasts, its changes are one step. */
export class Steps<F> {
  readonly $now: WritableAtom<F>;
  /** The file of the last saved revision. */
  readonly $before: WritableAtom<F>;
  /** Descriptions of the steps that undo and redo would apply. */
  readonly $history = atom<{ undo: string | null; redo: string | null }>({ undo: null, redo: null });
  #done: Step<F>[] = [];
  #undone: Step<F>[] = [];
  #gesture: { before: F; what: string } | null = null;
  /** The result of a trial run, see `would`. */
  #trying: { file: F | null } | null = null;

  constructor(now: F, before: F = now) {
    this.$now = atom(now) as WritableAtom<F>;
    this.$before = atom(before) as WritableAtom<F>;
  }

  /** Puts a whole file in place of the present one, as one step. */
  replace(file: F, what: string): void {
    if (this.#trying) {
      this.#trying.file = file;
      return;
    }
    const before = this.$now.get();
    if (before === file || JSON.stringify(before) === JSON.stringify(file)) return;
    this.$now.set(file);
    if (!this.#gesture) this.#push({ before, after: file, what });
  }

  /** True during a trial run, see `would`. */
  protected get isTrying(): boolean {
    return this.#trying !== null;
  }

  /** Runs `work` without applying it, and returns the file that it would produce; null if it changes nothing. */
  would(work: () => unknown): F | null {
    const trying = { file: null as F | null };
    this.#trying = trying;
    try {
      work();
    } finally {
      this.#trying = null;
    }
    return trying.file;
  }

  /** All changes until `endGesture` are one step. */
  beginGesture(what: string): void {
    this.endGesture();
    this.#gesture = { before: this.$now.get(), what };
  }

  endGesture(): void {
    const gesture = this.#gesture;
    this.#gesture = null;
    if (gesture && gesture.before !== this.$now.get()) this.#push({ ...gesture, after: this.$now.get() });
  }

  /** Restores the file from the start of the gesture. */
  cancelGesture(): void {
    if (this.#gesture) this.$now.set(this.#gesture.before);
    this.#gesture = null;
  }

  undo(): void {
    this.endGesture();
    const step = this.#done.pop();
    if (!step) return;
    this.#undone.push(step);
    this.#go(step.before);
  }

  redo(): void {
    const step = this.#undone.pop();
    if (!step) return;
    this.#done.push(step);
    this.#go(step.after);
  }

  #push(step: Step<F>): void {
    this.#done.push(step);
    if (this.#done.length > DEPTH) this.#done.shift();
    this.#undone = [];
    this.#emit();
  }

  #go(file: F): void {
    this.$now.set(file);
    this.#emit();
  }

  #emit(): void {
    this.$history.set({ undo: this.#done.at(-1)?.what ?? null, redo: this.#undone.at(-1)?.what ?? null });
  }
}
