/** Writes to the page frame by frame. Unchanged values are skipped, since a page lays out and paints whatever is set. */

/** Sets the text of an element. A text node is kept: a new one would be laid out from scratch. */
export function write(element: Element | null | undefined, text: string): void {
  if (!element || element.textContent === text) return;
  const [only] = element.childNodes;
  if (element.childNodes.length === 1 && only instanceof Text) only.data = text;
  else element.textContent = text;
}

/** Attributes of an element, numbers as they are. */
export function place(element: Element | null, attributes: Readonly<Record<string, number | string>>): void {
  if (!element) return;
  for (const [name, value] of Object.entries(attributes)) {
    const text = String(value);
    if (element.getAttribute(name) !== text) element.setAttribute(name, text);
  }
}
