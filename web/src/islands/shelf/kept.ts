const STORE = 'zygopod-shelf-1';

/** The address under which something is kept; nothing is ever fetched from it. */
const addressOf = (key: string) => `/kept/${encodeURIComponent(key)}`;

/** Pending results by key. */
const pending = new Map<string, Promise<Blob>>();

/**
 * Returns what is kept in this browser under a key that names all that it is made from; makes it and keeps it where there is nothing yet.
 * Callers at the same time share one making: a list that is fetched again is of the same documents. Where the browser keeps nothing (a page
 * that is no secure context) it is made each time.
 */
export function keptOr(key: string, draw: () => Promise<Blob>): Promise<Blob> {
  const known = pending.get(key);
  if (known) return known;
  const found = keptOrDrawn(key, draw).finally(() => pending.delete(key));
  pending.set(key, found);
  return found;
}

async function keptOrDrawn(key: string, draw: () => Promise<Blob>): Promise<Blob> {
  const store = typeof caches === 'undefined' ? null : await caches.open(STORE).catch(() => null);
  const known = await store?.match(addressOf(key)).catch(() => undefined);
  if (known) return known.blob();
  const drawn = await draw();
  // Shown before it is kept; a full store keeps nothing more, and the next page makes it again.
  void store?.put(addressOf(key), new Response(drawn)).catch(() => undefined);
  return drawn;
}
