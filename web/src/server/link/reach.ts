import type { LinkHub } from './hub.ts';
import type { LinkStore } from './store.ts';

/** The links of this server. The front makes them; the application, which is bundled apart from it, reaches them here. */
export interface Links {
  hub: LinkHub;
  store: LinkStore;
}

const KEY = Symbol.for('zygopod.links');
type Shared = typeof globalThis & { [KEY]?: Links };

export function shareLinks(links: Links): void {
  (globalThis as Shared)[KEY] = links;
}

/** The links of this server; null in a process without a front. */
export const sharedLinks = (): Links | null => (globalThis as Shared)[KEY] ?? null;
