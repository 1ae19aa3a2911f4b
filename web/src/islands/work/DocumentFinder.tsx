import type { Collection } from '@zygopod/core';
import { type KeyboardEvent, type ReactNode, useState } from 'react';
import { Overlay } from '../controls/Overlay.tsx';
import type { Command } from './commands.ts';
import { useListing } from './listing.ts';
import { whenWords } from './when.ts';

interface Props {
  title: string;
  collection: Collection;
  actions: readonly Command[];
  /** A small picture of a document by its id, and a remark on it. Documents with a remark are greyed. */
  picture?(id: string, remark: (words: string | null) => void): ReactNode;
  go(id: string): void;
  close(): void;
}

/** Finds a document by a part of its name and opens it. */
export function DocumentFinder({ title, collection, actions, picture, go, close }: Props) {
  const [wanted, setWanted] = useState('');
  const [picked, pick] = useState(0);
  const [remarks, remark] = useState<Readonly<Record<string, string | null>>>({});
  const { items, isBusy, why, more } = useListing(collection, wanted);
  const onKeyDown = (event: KeyboardEvent) => {
    const one = items[picked];
    if (event.key === 'ArrowDown') pick(Math.min(items.length - 1, picked + 1));
    else if (event.key === 'ArrowUp') pick(Math.max(0, picked - 1));
    else if (event.key === 'Enter' && one) go(one.id);
    else return;
    event.preventDefault();
  };
  return (
    <Overlay title={title} close={close}>
      <input
        autoFocus
        role="combobox"
        aria-label={`Find a ${title.toLowerCase()}`}
        aria-expanded="true"
        aria-controls="document-list"
        aria-activedescendant={items[picked] ? `document-${items[picked].id}` : undefined}
        placeholder="Filter by name"
        maxLength={200}
        className="w-full border-b border-ink bg-transparent py-1"
        value={wanted}
        onChange={(event) => {
          setWanted(event.target.value);
          pick(0);
        }}
        onKeyDown={onKeyDown}
      />
      {why && (
        <p role="alert" className="mt-2 text-now">
          ▲ {why}
        </p>
      )}
      <ul id="document-list" role="listbox" aria-label={title} aria-busy={isBusy} className="mt-2 max-h-[50vh] overflow-y-auto">
        {items.map(({ id, name, head, updatedAt }, i) => (
          <li
            key={id}
            id={`document-${id}`}
            role="option"
            aria-selected={i === picked}
            className={`flex cursor-pointer items-center gap-3 px-2 py-1 aria-selected:bg-paper ${remarks[id] ? 'text-ink-soft' : ''}`}
            onPointerEnter={() => pick(i)}
            onClick={() => go(id)}
          >
            {picture?.(id, (words) => remark((before) => ({ ...before, [id]: words })))}
            <span className="min-w-0 flex-1">
              <b className="block truncate font-semibold">{name}</b>
              {remarks[id] && <small className="block text-xs whitespace-normal">{remarks[id]}</small>}
            </span>
            <span className="digits text-xs text-ink-soft">rev {head}</span>
            <time className="digits text-xs text-ink-soft" dateTime={updatedAt}>
              {whenWords(updatedAt)}
            </time>
          </li>
        ))}
      </ul>
      {items.length === 0 && !why && <p className="px-2 py-1 text-ink-soft">{isBusy ? 'Looking …' : 'Nothing is called that.'}</p>}
      {more && (
        <button type="button" className="action mt-2 text-xs" onClick={more}>
          Show older
        </button>
      )}
      {actions.length > 0 && (
        <p className="mt-3 flex flex-wrap gap-x-4 border-t border-rule pt-2">
          {actions.map(({ id, label, run }) => (
            <button
              key={id}
              type="button"
              className="action min-h-6 text-xs"
              onClick={() => {
                close();
                run();
              }}
            >
              {label}
            </button>
          ))}
        </p>
      )}
    </Overlay>
  );
}
