/** A store as a browser's: its texts are its own keys. */
export function newStore(room = Infinity): Storage {
  const store: Record<string, string> = {};
  const size = () => Object.values(store).reduce((sum, text) => sum + text.length, 0);
  return Object.defineProperties(store, {
    getItem: { value: (key: string) => store[key] ?? null },
    setItem: {
      value: (key: string, text: string) => {
        if (size() + text.length > room) throw new Error('full');
        store[key] = text;
      },
    },
    removeItem: { value: (key: string) => delete store[key] },
  }) as unknown as Storage;
}
