import { act, type ReactElement } from 'react';
import { createRoot } from 'react-dom/client';

/** A component on a page of its own, as a test works it. */
export interface Mounted {
  element: HTMLElement;
  /** The first element of a role (`button`) or a tag with this name: its label, its text, or its `aria-label`. Throws if there is none. */
  find(tag: string, name: string | RegExp): HTMLElement;
  /** True if a text is on the page. */
  says(text: string | RegExp): boolean;
  click(tag: string, name: string | RegExp): Promise<void>;
  /** Types into a field in place of what is in it. */
  type(name: string | RegExp, text: string): Promise<void>;
  press(name: string | RegExp, key: string, more?: KeyboardEventInit): Promise<void>;
  unmount(): Promise<void>;
}

const matches = (text: string, wanted: string | RegExp) => (typeof wanted === 'string' ? text === wanted : wanted.test(text));

/** The accessible name of an element: from its own label, from one for it or around it, or from its text. */
function nameOf(element: Element): string {
  const own = element.getAttribute('aria-label');
  if (own !== null) return own;
  const label = element instanceof HTMLInputElement || element instanceof HTMLSelectElement ? element.labels?.[0] : undefined;
  return (label ?? element).textContent?.replace(/\s+/g, ' ').trim() ?? '';
}

/** Mounts a component; a test's environment is a document (`@vitest-environment jsdom`). */
export async function mount(component: ReactElement): Promise<Mounted> {
  Object.assign(globalThis, { IS_REACT_ACT_ENVIRONMENT: true });
  // This document has dialogs, but cannot show them.
  HTMLDialogElement.prototype.showModal ??= function showModal(this: HTMLDialogElement) {
    this.open = true;
  };
  const element = document.createElement('div');
  document.body.append(element);
  const root = createRoot(element);
  await act(async () => root.render(component));
  const find = (tag: string, name: string | RegExp): HTMLElement => {
    const found = [...document.body.querySelectorAll<HTMLElement>(tag)].find((one) => matches(nameOf(one), name));
    if (!found) throw new Error(`no ${tag} is called ${name}: ${element.textContent}`);
    return found;
  };
  return {
    element,
    find,
    says: (text) => (typeof text === 'string' ? element.textContent?.includes(text) : text.test(element.textContent ?? '')) === true,
    click: (tag, name) => act(async () => find(tag, name).click()),
    type: (name, text) =>
      act(async () => {
        const field = find('input', name) as HTMLInputElement;
        field.focus();
        // React listens for changes that it did not make itself.
        Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set?.call(field, text);
        field.dispatchEvent(new Event('input', { bubbles: true }));
      }),
    press: (name, key, more = {}) =>
      act(async () => {
        find('input', name).dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));
      }),
    unmount: async () => {
      await act(async () => root.unmount());
      element.remove();
    },
  };
}
