/** Remembers a choice in this browser; one without room forgets it, and goes on. */
export function remember(key: string, text: string): void {
  try {
    localStorage.setItem(key, text);
  } catch {
    // It is a matter of comfort: what is typed is kept elsewhere (work/saving).
  }
}
