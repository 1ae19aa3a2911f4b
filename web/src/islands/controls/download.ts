/** Gives a text to be kept as a file. */
export function download(name: string, text: string, type = 'application/json'): void {
  const address = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  // The browser has taken the text over by the next turn.
  setTimeout(() => URL.revokeObjectURL(address), 0);
}

/** `carrier-day-boots`: a name as the stem of a file's; letters and digits of any script stay. */
export const fileStem = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 80) || 'tape';
