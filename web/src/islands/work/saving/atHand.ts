import { type KeptWork, keptWork } from './adopting.ts';
import { BrowserCopies } from './copies.ts';

/** Where the pages of this browser keep their work. */
export const browserCopies = new BrowserCopies();

const atHand = new Map<string, KeptWork>();

/** Finds stored copies of a document that is about to be opened. */
export async function fetchKept(id: string): Promise<void> {
  atHand.set(id, await keptWork(browserCopies, id));
}

/** Returns the stored copies of a document, once. */
export function takeKept(id: string): KeptWork {
  const found = atHand.get(id) ?? { left: [], others: [] };
  atHand.delete(id);
  return found;
}
