import { useState } from 'react';
import type { Command } from './commands.ts';
import { DocumentFinder } from './DocumentFinder.tsx';
import type { Collection } from './listing.ts';

/** The name of what is open, which opens another in its place. Work is kept as a draft before the page is left. */
export function Picker({
  label,
  name,
  collection,
  deeds = [],
  go,
}: {
  label: string;
  name: string;
  collection: Collection;
  /** What can be done with the one that is open. */
  deeds?: readonly Command[];
  go(id: string): void;
}) {
  const [isOpen, open] = useState(false);
  return (
    <>
      <button
        type="button"
        aria-label={`${label}: ${name}`}
        aria-haspopup="dialog"
        title={`Open another ${label.toLowerCase()}`}
        className="mr-1.5 ml-0.5 inline-flex min-h-6 max-w-48 items-baseline border-b border-rule font-semibold text-ink"
        onClick={() => open(true)}
      >
        <span className="truncate">{name}</span>
        <span aria-hidden="true" className="ml-1 text-ink-soft">
          ▾
        </span>
      </button>
      {isOpen && <DocumentFinder title={label} collection={collection} deeds={deeds} go={go} close={() => open(false)} />}
    </>
  );
}
