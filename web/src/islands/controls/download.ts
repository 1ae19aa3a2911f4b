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
