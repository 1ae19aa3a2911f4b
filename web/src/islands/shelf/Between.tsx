import { useStore } from '@nanostores/react';
import { collectionOf, differences, readTuning, specOf, type Tuning, unitOf, valueWords } from '@zygopod/core';
import { useEffect, useState } from 'react';
import { Naming } from '../work/Naming.tsx';
import { RevisionList } from '../work/RevisionList.tsx';
import { askServer, whyOf } from '../work/server.ts';
import { fileOf, goBack } from './actions.ts';
import { type ShelfItem, useShelf } from './shelfWork.ts';

/** A number that two revisions do not share. */
interface Changed {
  key: string;
  label: string;
  from: string;
  to: string;
}

/** Maximum number of changes shown; the rest is counted. */
const SHOWN = 8;

/** Describes what differs between two tunings. */
function changedBetween(a: Tuning, b: Tuning): Changed[] {
  return differences(a, b)
    .filter(({ isWritten }) => isWritten)
    .map(({ path, a: from, b: to, writtenA, writtenB }) => {
      const spec = specOf(path);
      const unit = spec.kind === 'number' ? unitOf(spec.quantity, b.file.unit ?? 'px') : '';
      return { key: path, label: spec.label, from: valueWords(from, writtenA), to: `${valueWords(to, writtenB)} ${unit}`.trim() };
    });
}

/** Describes what differs between two files of another kind: the unequal parts. */
function partsBetween(a: Record<string, unknown>, b: Record<string, unknown>): Changed[] {
  const keys = [...new Set([...Object.keys(a), ...Object.keys(b)])];
  const words = (value: unknown) =>
    Array.isArray(value) ? `${value.length}` : typeof value === 'object' && value ? 'changed' : String(value ?? 'none');
  return keys
    .filter((key) => JSON.stringify(a[key]) !== JSON.stringify(b[key]))
    .map((key) => ({ key, label: key, from: words(a[key]), to: words(b[key]) }));
}

/** Shows the selected revision against the one before it, with its actions. */
export function Between({ item, setProblem }: { item: ShelfItem; setProblem(why: string | null): void }) {
  const shelf = useShelf();
  const revision = useStore(shelf.$revision) ?? item.head;
  const [changed, setChanged] = useState<readonly Changed[] | null>(null);
  const [naming, name] = useState(false);
  const [listing, list] = useState(false);
  const shown = item.revisions.find(({ number }) => number === revision);
  const former = revision > 1 ? revision - 1 : null;
  // As one board follows the other, its rows are still those of the one before.
  const isAway = useStore(shelf.$query).board === 'away' || Boolean(item.putAwayAt);
  // biome-ignore lint/correctness/useExhaustiveDependencies: fetched for the revision of a document
  useEffect(() => {
    let current = true;
    setChanged(null);
    if (former === null || isAway) return;
    void Promise.all([fileOf(item, former), fileOf(item, revision)]).then(([a, b]) => {
      if (!current || 'why' in a || 'why' in b) return;
      const [from, to] = item.kind === 'tuning' ? [readTuning(a), readTuning(b)] : [null, null];
      setChanged(from?.ok && to?.ok ? changedBetween(from.value, to.value) : partsBetween(a, b));
    });
    return () => {
      current = false;
    };
  }, [item.id, revision, isAway]);
  if (isAway) return null;
  return (
    <section aria-label="Between revisions" className="min-h-[94px] shrink-0 border-t border-ink px-4 py-2.5">
      <h2 className="font-semibold">
        {former === null ? `Rev 1 of ${item.name} is its first` : `Between rev ${former} and rev ${revision} of ${item.name}`}
        {shown?.name && <span className="ml-2 font-normal text-route">{shown.name}</span>}
      </h2>
      <p className="mt-1 flex flex-wrap gap-x-8 text-ink-soft">
        {former !== null && changed === null && <span>Loading …</span>}
        {changed?.length === 0 && <span>No value differs.</span>}
        {changed?.slice(0, SHOWN).map(({ key, label, from, to }) => (
          <span key={key} title={key}>
            <span className="text-ink">{label}</span>{' '}
            <span className="digits">
              {from} → {to}
            </span>
          </span>
        ))}
        {changed && changed.length > SHOWN && <span>and {changed.length - SHOWN} more</span>}
      </p>
      <p className="mt-1 flex gap-5">
        {revision !== item.head && (
          <button type="button" className="action min-h-6" onClick={() => void goBack(shelf, item, revision).then(setProblem)}>
            Go back to rev {revision}
          </button>
        )}
        {former !== null && revision === item.head && (
          <button type="button" className="action min-h-6" onClick={() => void goBack(shelf, item, former).then(setProblem)}>
            Go back to rev {former}
          </button>
        )}
        {item.kind === 'tuning' && former !== null && (
          <a
            className="action inline-flex min-h-6 items-center"
            href={`/compare/${item.id}?side=${item.id}.${former}&side=${item.id}.${revision}`}
          >
            Compare the two
          </a>
        )}
        <button type="button" className="action min-h-6" onClick={() => name(true)}>
          Name this revision
        </button>
        {former !== null && (
          <button type="button" className="action min-h-6" onClick={() => list(true)}>
            All revisions
          </button>
        )}
      </p>
      {listing && (
        <RevisionList
          title={`Revisions of ${item.name}`}
          collection={collectionOf(item.kind)}
          id={item.id}
          verb="Look at"
          take={async (number) => {
            shelf.pick(item.id, number);
            list(false);
            return null;
          }}
          close={() => list(false)}
        />
      )}
      {naming && (
        <Naming
          title={`Name rev ${revision} of ${item.name}`}
          verb="Name"
          name={shown?.name ?? ''}
          most={60}
          take={async (wanted) => {
            const path = `/api/v1/${collectionOf(item.kind)}/${item.id}/revisions/${revision}/name`;
            const why = whyOf(await askServer('PUT', path, { body: { name: wanted } }));
            if (!why) await shelf.load();
            return why;
          }}
          close={() => name(false)}
        />
      )}
    </section>
  );
}
