const STORE = 'zygopod-shelf-1';

/** The address under which something is kept; nothing is ever fetched from it. */
const addressOf = (key: string) => `/kept/${encodeURIComponent(key)}`;

/**
 * Something that is made once and kept in this browser by a key that names all that it was made from. Where the browser keeps nothing
 * (a page that is no secure context) it is made each time.
 */
export async function keptOr(key: string, make: () => Promise<Blob>): Promise<Blob> {
  const store = typeof caches === 'undefined' ? null : await caches.open(STORE).catch(() => null);
  const known = await store?.match(addressOf(key)).catch(() => undefined);
  if (known) return known.blob();
  const made = await make();
  // Shown before it is kept; a full store keeps nothing more, and the next page makes it again.
  void store?.put(addressOf(key), new Response(made)).catch(() => undefined);
  return made;
}
