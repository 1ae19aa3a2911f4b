const nameOf = (page: string) => `zygopod-page-${page}`;

/** An id for this page, another one at each load. (`crypto.randomUUID` is missing on plain HTTP from another machine.) */
export const newPageId = (): string => [...crypto.getRandomValues(new Uint32Array(3))].map((word) => word.toString(36)).join('');

/** Holds a lock for as long as this page is there (Web Locks), so that others know which copies are of pages that are gone. */
export function holdPage(page: string): () => void {
  let release = (): void => undefined;
  const hold = () => {
    void navigator.locks?.request(
      nameOf(page),
      () =>
        new Promise<void>((over) => {
          release = over;
        }),
    );
  };
  // A page in the browser's back cache counts as closed until it is shown again.
  const hide = () => release();
  const show = ({ persisted }: PageTransitionEvent) => {
    if (persisted) hold();
  };
  hold();
  window.addEventListener('pagehide', hide);
  window.addEventListener('pageshow', show);
  return () => {
    window.removeEventListener('pagehide', hide);
    window.removeEventListener('pageshow', show);
    release();
  };
}

/** Settles when a page is gone: at once where nobody can know. */
export async function gone(page: string): Promise<void> {
  await navigator.locks?.request(nameOf(page), { mode: 'shared' }, () => undefined);
}
