import { type Collection, collectionOf } from '@zygopod/core';
import { useState } from 'react';
import type { Opening, Subject } from '../../server/data/openings.ts';
import type { Command } from '../work/commands.ts';
import { DocumentFinder } from '../work/DocumentFinder.tsx';
import { addressOf, placeOf, useScreens } from '../work/place.ts';

/** Characters of a name that always fit; the focused button shows all of a longer one. */
const WHOLE = 24;

/** Shows the name of the open document and opens another in its place. Work is saved as a draft before the page is left. */
export function Picker({
  label,
  name,
  collection,
  actions = [],
  go,
}: {
  label: string;
  name: string;
  collection: Collection;
  /** Actions on the open document. */
  actions?: readonly Command[];
  go(id: string): void;
}) {
  const [isOpen, open] = useState(false);
  return (
    <>
      <button
        type="button"
        aria-label={`${label}: ${name}`}
        aria-haspopup="dialog"
        title={`${name}: open another ${label.toLowerCase()}`}
        className="group relative inline-flex max-w-full items-baseline border-b pt-[3px] pb-[3px] border-rule text-[13px] font-semibold text-ink"
        onClick={() => open(true)}
      >
        <span className="max-w-[26ch] truncate">{name}</span>
        <span aria-hidden="true" className="ml-1 text-ink-soft">
          ▾
        </span>
        {name.length > WHOLE && (
          <span
            aria-hidden="true"
            className="absolute top-full left-0 z-40 mt-1 hidden border border-ink bg-sheet px-2 py-1 whitespace-nowrap group-focus-visible:block"
          >
            {name}
          </span>
        )}
      </button>
      {isOpen && <DocumentFinder title={label} collection={collection} actions={actions} go={go} close={() => open(false)} />}
    </>
  );
}

/** The tuning or the ground of the page; another one is opened on the same screen, beside what else is open. */
export function DocumentPicker({
  subject,
  label = subject === 'tuning' ? 'Tuning' : 'Ground',
  name,
  opening,
  actions = [],
}: {
  subject: Subject;
  label?: string;
  name: string;
  opening: Opening;
  actions?: readonly Command[];
}) {
  const { here } = useScreens();
  const go = (id: string) => window.location.assign(addressOf(here, { ...placeOf(opening), [subject]: id }));
  return <Picker label={label} name={name} collection={collectionOf(subject)} actions={actions} go={go} />;
}
