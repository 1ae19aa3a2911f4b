import type { Collection } from '@zygopod/core';
import { useEffect, useRef, useState } from 'react';
import { inProject } from './project.ts';
import { askServer, whyOf } from './server.ts';

/** A document in a list. */
interface Listed {
  id: string;
  name: string;
  head: number;
  updatedAt: string;
}

interface Listing {
  items: readonly Listed[];
  isBusy: boolean;
  /** Why there is no list, in words. */
  why: string | null;
  /** Fetches the next page; null on the last one. */
  more: (() => void) | null;
}

/** Milliseconds of typing no more before a search is sent. */
const PAUSE = 120;

/** Lists the documents of a collection whose names contain a text, newest first, by pages. Results of an older search are dropped. */
export function useListing(collection: Collection, wanted: string): Listing {
  const [items, setItems] = useState<readonly Listed[]>([]);
  const [next, setNext] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(true);
  const [why, setWhy] = useState<string | null>(null);
  const underWay = useRef<AbortController | null>(null);

  const fetchPage = async (after: string | null) => {
    underWay.current?.abort();
    const own = new AbortController();
    underWay.current = own;
    setBusy(true);
    const query = new URLSearchParams({
      limit: '50',
      ...inProject(),
      ...(wanted.trim() ? { q: wanted.trim() } : {}),
      ...(after ? { after } : {}),
    });
    const page = await askServer<{ items: Listed[]; next: string | null }>('GET', `/api/v1/${collection}?${query}`, { signal: own.signal });
    if (own.signal.aborted) return;
    setWhy(whyOf(page));
    if (page.is === 'ok') {
      setItems((before) => (after ? [...before, ...page.body.items] : page.body.items));
      setNext(page.body.next);
    }
    setBusy(false);
  };

  // biome-ignore lint/correctness/useExhaustiveDependencies: a page is fetched again for another search, not for another function
  useEffect(() => {
    const timer = setTimeout(() => void fetchPage(null), wanted ? PAUSE : 0);
    return () => {
      clearTimeout(timer);
      underWay.current?.abort();
    };
  }, [collection, wanted]);

  return { items, isBusy, why, more: next && !isBusy ? () => void fetchPage(next) : null };
}
