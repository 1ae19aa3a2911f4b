import type { Collection } from '@zygopod/core';
import { useEffect, useState } from 'react';
import { Overlay } from '../controls/Overlay.tsx';
import { askServer, whyOf } from './server.ts';
import { whenWords } from './when.ts';

interface Revision {
  number: number;
  name: string;
  note: string;
  createdAt: string;
}

/** Lists the revisions of a document with their notes, newest first; `verb` labels the action for one of them. */
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
    const path = `/api/v1/${collection}/${id}/revisions${before ? `?before=${before}` : ''}`;
    const answer = await askServer<{ items: Revision[]; next: number | null }>('GET', path);
    setWhy(whyOf(answer));
    if ('why' in answer) return;
    const { items, next } = answer.body;
    setRevisions((known) => (before ? [...(known ?? []), ...items] : items));
    setNext(next);
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
      {!revisions && !why && <p className="text-ink-soft">Loading …</p>}
      <ul>
        {revisions?.map(({ number, name, note, createdAt }) => (
          <li key={number} className="flex items-baseline gap-3 border-b border-rule/60 py-1">
            <span className="digits w-14 text-xs">rev {number}</span>
            {name && <span className="max-w-32 shrink-0 truncate text-route">{name}</span>}
            <span className="min-w-0 flex-1 truncate">{note || <span className="text-ink-soft">no note</span>}</span>
            <time className="digits text-xs text-ink-soft" dateTime={createdAt}>
              {whenWords(createdAt, { exact: true })}
            </time>
            <button
              type="button"
              className="action text-xs"
              onClick={() => void take(number).then((fault) => (fault ? setWhy(fault) : undefined))}
            >
              {verb}
            </button>
          </li>
        ))}
      </ul>
      {next && (
        <button type="button" className="action mt-2 text-xs" onClick={() => void more(next)}>
          Show older
        </button>
      )}
    </Overlay>
  );
}
