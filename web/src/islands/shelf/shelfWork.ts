import { type Collection, type DocumentKind, documentKinds } from '@zygopod/core';
import { atom } from 'nanostores';
import { createContext, useContext } from 'react';
import type { ShelfOpening } from '../../server/data/openings.ts';
import type { ShelfItem as ServerItem, Sounding as ServerSounding } from '../../server/data/shelf.ts';
import { askServer, whyOf } from '../work/server.ts';

/** A revision of a document on the shelf, as the server returns it. */
type Sounding = Omit<ServerSounding, 'createdAt'> & { createdAt: string };

/** A document on the shelf. */
export type ShelfItem = Omit<ServerItem, 'createdAt' | 'updatedAt' | 'putAwayAt' | 'revisions'> & {
  updatedAt: string;
  putAwayAt?: string | null;
  revisions: Sounding[];
};

/** One tab of the shelf: a kind of document, or everything archived. */
export type Board = Collection | 'away';
export const boards: readonly (readonly [Board, string])[] = [
  ...Object.values(documentKinds).map(({ collection, plural }) => [collection, plural] as const),
  ['away', 'Archived'],
];
export const sorts = [
  ['changed', 'Last changed'],
  ['made', 'Newest'],
  ['name', 'By name'],
] as const;
type Sort = (typeof sorts)[number][0];

export type Counts = Record<DocumentKind | 'away', number>;

/** The shelf's query; it is part of the address. */
export interface ShelfQuery {
  board: Board;
  q: string;
  sort: Sort;
}

/** Reads the query from an address. */
export function readQuery(search: string): ShelfQuery {
  const query = new URLSearchParams(search);
  const board = boards.find(([one]) => one === query.get('show'))?.[0] ?? 'tunings';
  const sort = sorts.find(([one]) => one === query.get('sort'))?.[0] ?? 'changed';
  return { board, q: query.get('q') ?? '', sort };
}

/** Writes a query for the address; defaults are left out. */
export function writeQuery({ board, q, sort }: ShelfQuery): string {
  const query = new URLSearchParams();
  if (board !== 'tunings') query.set('show', board);
  if (q) query.set('q', q);
  if (sort !== 'changed') query.set('sort', sort);
  const text = query.toString();
  return text ? `?${text}` : '';
}

/** Milliseconds of typing no more before a search is sent. */
const PAUSE = 120;

/** The shelf of a project: query, documents, and the selected one. */
export class ShelfWork {
  readonly project: ShelfOpening['project'];
  readonly $query = atom<ShelfQuery>(readQuery(window.location.search));
  readonly $items = atom<readonly ShelfItem[] | null>(null);
  readonly $counts = atom<Counts | null>(null);
  /** Cursor of the next page; null on the last one. */
  readonly $more = atom<string | null>(null);
  readonly $why = atom<string | null>(null);
  readonly $picked = atom<string | null>(null);
  /** The selected revision of the selected document; null: its newest. */
  readonly $revision = atom<number | null>(null);
  #underWay: AbortController | null = null;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #looking: ReturnType<typeof setTimeout> | undefined;

  constructor(opening: ShelfOpening) {
    this.project = opening.project;
  }

  /** Asks for something else, at once or once nobody types any more. */
  ask(change: Partial<ShelfQuery>, isTyping = false): void {
    const query = { ...this.$query.get(), ...change };
    this.$query.set(query);
    window.history.replaceState(null, '', `${window.location.pathname}${writeQuery(query)}`);
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.load(), isTyping ? PAUSE : 0);
  }

  /** Reloads after a change, once no further change follows. */
  look(): void {
    clearTimeout(this.#looking);
    this.#looking = setTimeout(() => void this.load(), PAUSE);
  }

  pick(id: string | null, revision: number | null = null): void {
    this.$picked.set(id);
    this.$revision.set(revision);
  }

  /** True while the page is being left: nothing is requested any more, since its project may be gone. */
  isLeft = false;

  /** Fetches the first page, and how many documents there are. */
  async load(): Promise<void> {
    if (this.isLeft) return;
    await Promise.all([this.#page(null), this.#count()]);
  }

  more = (): Promise<void> => this.#page(this.$more.get());

  async #count(): Promise<void> {
    const answer = await askServer<{ counts: Counts }>('GET', `/api/v1/projects/${this.project.id}`);
    if ('body' in answer) this.$counts.set(answer.body.counts);
  }

  async #page(after: string | null): Promise<void> {
    this.#underWay?.abort();
    const own = new AbortController();
    this.#underWay = own;
    const { board, q, sort } = this.$query.get();
    const query = new URLSearchParams({ sort, ...(q.trim() ? { q: q.trim().slice(0, 200) } : {}), ...(after ? { after } : {}) });
    if (board === 'away') query.set('away', 'true');
    else query.set('kind', board);
    const path = `/api/v1/projects/${this.project.id}/shelf?${query}`;
    const page = await askServer<{ items: ShelfItem[]; next?: string | null }>('GET', path, { signal: own.signal });
    if (own.signal.aborted) return;
    this.$why.set(whyOf(page));
    if (page.is !== 'ok') return;
    const { items, next } = page.body;
    this.$items.set(after ? [...(this.$items.get() ?? []), ...items] : items);
    this.$more.set(next ?? null);
    const picked = this.$picked.get();
    if (!after && !items.some(({ id }) => id === picked)) this.pick(items[0]?.id ?? null);
  }
}

export const ShelfContext = createContext<ShelfWork | null>(null);

export function useShelf(): ShelfWork {
  const shelf = useContext(ShelfContext);
  if (!shelf) throw new Error('there is no shelf here');
  return shelf;
}
