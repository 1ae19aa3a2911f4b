/** Remembers a choice in this browser; one without room, or without a store, forgets it and goes on: what is typed is kept elsewhere (work/saving). */
export function remember(key: string, text: string): void {
  try {
    localStorage.setItem(key, text);
  } catch {
    // It is a matter of comfort.
  }
}

/** Returns the remembered text; null if there is none, or no store. */
export function remembered(key: string): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}

/** Returns the remembered JSON value; null if there is none that can be read. */
export function rememberedJson(key: string): unknown {
  try {
    return JSON.parse(remembered(key) ?? 'null');
  } catch {
    return null;
  }
}

/** Forgets a choice. */
export function forget(key: string): void {
  try {
    localStorage.removeItem(key);
  } catch {
    // There is no store, and so nothing to forget.
  }
}
