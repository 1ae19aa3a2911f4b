import { doubled } from './doubled.ts';

const ROOM = 256;

/**
 * A binary heap of numbers with keys, the least key first. An item may be in it several times. A new item is held aside until a smaller one is added
 * or an item is removed; then it is returned if it is the least, or fills the place of the removed one. A search that goes straight on therefore
 * hardly moves anything.
 */
export class MinHeap {
  #items = new Int32Array(ROOM);
  #keys = new Float64Array(ROOM);
  #count = 0;
  /** The item held aside; −1 for none. */
  #aside = -1;
  #asideKey = Infinity;

  clear(): void {
    this.#count = 0;
    this.#aside = -1;
    this.#asideKey = Infinity;
  }

  /** The least key of all items; infinite if there is none. */
  get least(): number {
    const first = this.#count === 0 ? Infinity : (this.#keys[0] as number);
    return first < this.#asideKey ? first : this.#asideKey;
  }

  push(item: number, key: number): void {
    if (key >= this.#asideKey) {
      this.#insert(item, key);
      return;
    }
    if (this.#aside !== -1) this.#insert(this.#aside, this.#asideKey);
    this.#aside = item;
    this.#asideKey = key;
  }

  /** Removes and returns the item with the least key; −1 if there is none. */
  pop(): number {
    const aside = this.#aside;
    if (this.#count === 0 || (aside !== -1 && this.#asideKey <= (this.#keys[0] as number))) {
      this.#aside = -1;
      this.#asideKey = Infinity;
      return aside;
    }
    const first = this.#items[0] as number;
    if (aside !== -1) {
      this.#sink(aside, this.#asideKey);
      this.#aside = -1;
      this.#asideKey = Infinity;
    } else {
      this.#count--;
      this.#sink(this.#items[this.#count] as number, this.#keys[this.#count] as number);
    }
    return first;
  }

  #insert(item: number, key: number): void {
    if (this.#count === this.#items.length) {
      this.#items = doubled(this.#items);
      this.#keys = doubled(this.#keys);
    }
    const items = this.#items;
    const keys = this.#keys;
    let at = this.#count++;
    while (at > 0) {
      const up = (at - 1) >> 1;
      const above = keys[up] as number;
      if (above <= key) break;
      keys[at] = above;
      items[at] = items[up] as number;
      at = up;
    }
    keys[at] = key;
    items[at] = item;
  }

  /** Puts an item in the first one's place, and down from there. */
  #sink(item: number, key: number): void {
    const items = this.#items;
    const keys = this.#keys;
    const count = this.#count;
    let at = 0;
    for (let child = 1; child < count; child = 2 * at + 1) {
      if (child + 1 < count && (keys[child + 1] as number) < (keys[child] as number)) child++;
      const least = keys[child] as number;
      if (least >= key) break;
      keys[at] = least;
      items[at] = items[child] as number;
      at = child;
    }
    keys[at] = key;
    items[at] = item;
  }
}
