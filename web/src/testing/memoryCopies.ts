import type { Copies, Copy } from '../islands/work/saving/copies.ts';

/** Copies in memory, for tests; `isFull` refuses further ones, as a browser without room does. */
export class MemoryCopies implements Copies {
  readonly kept = new Map<string, Copy>();
  isFull = false;

  async put(copy: Copy): Promise<boolean> {
    await null;
    return this.putNow(copy);
  }

  putNow(copy: Copy): boolean {
    const key = `${copy.id} ${copy.page}`;
    if (this.isFull) return false;
    if ((this.kept.get(key)?.turn ?? -1) < copy.turn) this.kept.set(key, structuredClone(copy));
    return true;
  }

  async of(id: string): Promise<Copy[]> {
    return [...this.kept.values()].filter((copy) => copy.id === id).sort((a, b) => a.at - b.at);
  }

  async drop(id: string, page: string): Promise<void> {
    this.kept.delete(`${id} ${page}`);
  }
}
