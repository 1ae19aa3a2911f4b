import { useStore } from '@nanostores/react';
import { whenWords } from '../work/when.ts';
import { type ShelfItem, useShelf } from './shelfWork.ts';

const WIDTH = 340;
const STEP = 27;
/** Revisions that fit on the line. */
const MOST = 12;
/** Of them, older ones that have names. */
const MOST_OLDER = 4;

/** The revisions that stand on the line, newest first: the newest, and of the older ones those that have names. */
export function onTheLine<R extends { name: string }>(revisions: readonly R[]): R[] {
  const older = revisions.slice(MOST).filter(({ name }) => name);
  const kept = older.slice(0, MOST_OLDER);
  return [...revisions.slice(0, MOST - kept.length), ...kept];
}

/** The revisions of a document along a line, the newest at its right, named ones with their names; each can be selected. */
export function Soundings({ item }: { item: ShelfItem }) {
  const shelf = useShelf();
  const picked = useStore(shelf.$picked);
  const revision = useStore(shelf.$revision);
  const isPicked = picked === item.id;
  const shown = onTheLine(item.revisions);
  const at = isPicked && revision !== null ? revision : item.head;
  const selected = shown.find(({ number }) => number === at);
  const x = (i: number) => WIDTH - 10 - i * STEP;
  return (
    <div className="relative h-full" style={{ width: WIDTH }} data-testid="soundings">
      <span aria-hidden="true" className="absolute right-2.5 left-0 top-[33px] h-px bg-rule" />
      {shown.map(({ number, name, note }, i) => {
        const isHead = i === 0;
        const isSelected = number === at && isPicked;
        return (
          <button
            key={number}
            type="button"
            aria-label={`Revision ${number}${name ? `, ${name}` : ''}`}
            aria-pressed={isSelected}
            title={[`rev ${number}`, name, note].filter(Boolean).join(', ')}
            className="absolute top-[21px] size-6 -translate-x-1/2"
            style={{ left: x(i) }}
            onClick={(event) => {
              event.stopPropagation();
              shelf.pick(item.id, isHead ? null : number);
            }}
          >
            <svg aria-hidden="true" viewBox="0 0 24 24" className="size-6">
              <circle
                cx="12"
                cy="12"
                r={isHead ? 5.5 : 4}
                className={isHead ? 'fill-now stroke-now' : 'fill-sheet stroke-ink'}
                strokeWidth="1.8"
              />
              {isSelected && <circle cx="12" cy="12" r="9" className="fill-none stroke-now" strokeWidth="1.2" />}
            </svg>
          </button>
        );
      })}
      {shown.map(({ number, name }, i) =>
        name ? (
          <span
            key={number}
            className="absolute top-0 max-w-[80px] -translate-x-1/2 truncate text-xs text-route"
            style={{ left: Math.min(WIDTH - 34, x(i)) }}
          >
            {name}
          </span>
        ) : null,
      )}
      <p className="absolute right-0 left-0 top-[50px] flex items-baseline justify-between gap-3">
        <span className="min-w-0 truncate text-ink-soft">{selected?.note ? `“${selected.note}”` : ''}</span>
        <span className="digits shrink-0 text-xs">rev {at}</span>
      </p>
      <p className="digits absolute right-0 top-[68px] text-xs text-ink-soft">{selected && whenWords(selected.createdAt)}</p>
    </div>
  );
}
