import { useEffect, useState } from 'react';
import { Overlay } from '../controls/Overlay.tsx';
import type { Collection } from './listing.ts';

interface Revision {
  number: number;
  note: string;
  createdAt: string;
}

/** The revisions of a document, newest first, with their notes; one of them can be taken for what `verb` says. */
export function RevisionList({
  title,
  collection,
  id,
  verb,
  take,
  close,
}: {
  title: string;
  collection: Collection;
  id: string;
  verb: string;
  /** Takes a revision by its number; says why not. */
  take(number: number): Promise<string | null>;
  close(): void;
}) {
  const [revisions, setRevisions] = useState<readonly Revision[] | null>(null);
  const [next, setNext] = useState<number | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const more = async (before: number | null) => {
    try {
      const response = await fetch(`/api/v1/${collection}/${id}/revisions${before ? `?before=${before}` : ''}`);
      if (!response.ok) throw new Error(`The server said ${response.status}.`);
      const page = (await response.json()) as { items: Revision[]; next: number | null };
      setRevisions((known) => (before ? [...(known ?? []), ...page.items] : page.items));
      setNext(page.next);
    } catch (error) {
      setWhy(error instanceof Error ? error.message : String(error));
    }
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: fetched once for the document
  useEffect(() => void more(null), [id]);
  return (
    <Overlay title={title} close={close}>
      {why && (
        <p role="alert" className="text-now">
          ▲ {why}
        </p>
      )}
      {!revisions && !why && <p className="text-ink-soft">Fetching …</p>}
      <ul>
        {revisions?.map(({ number, note, createdAt }) => (
          <li key={number} className="flex items-baseline gap-3 border-b border-rule/60 py-1">
            <span className="digits w-14 text-xs">rev {number}</span>
            <span className="min-w-0 flex-1 truncate">{note || <span className="text-ink-soft">no note</span>}</span>
            <time className="digits text-xs text-ink-soft" dateTime={createdAt}>
              {new Date(createdAt).toLocaleString()}
            </time>
            <button
              type="button"
              className="deed text-xs"
              onClick={() => void take(number).then((fault) => (fault ? setWhy(fault) : undefined))}
            >
              {verb}
            </button>
          </li>
        ))}
      </ul>
      {next && (
        <button type="button" className="deed mt-2 text-xs" onClick={() => void more(next)}>
          Older ones
        </button>
      )}
    </Overlay>
  );
}
