/** Gives a text to be kept as a file. */
export const download = (name: string, text: string, type = 'application/json'): void => save(name, new Blob([text], { type }));

/** Gives bytes to be kept as a file. */
export const downloadBytes = (name: string, bytes: Uint8Array<ArrayBuffer>, type: string): void => save(name, new Blob([bytes], { type }));

function save(name: string, content: Blob): void {
  const address = URL.createObjectURL(content);
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  // The browser has copied the text by the next turn of the event loop.
  setTimeout(() => URL.revokeObjectURL(address), 0);
}
