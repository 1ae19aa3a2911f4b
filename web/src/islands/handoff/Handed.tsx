import { type HandOffChange, writers } from '@zygopod/code/constants';
import { type ConstantValue, shortNumber } from '@zygopod/core';
import { useState } from 'react';
import type { KeptHandOff } from './handOffs.ts';

const when = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
const words = (value: ConstantValue | null) =>
  value === null ? 'none' : typeof value === 'number' ? shortNumber(value, 6) : JSON.stringify(value);

/** Shows what differs from the last hand-off, and lists all hand-offs, to find what a build has. */
export function Handed({
  kept,
  last,
  changes,
}: {
  kept: readonly KeptHandOff[];
  last: KeptHandOff | undefined;
  changes: readonly HandOffChange[];
}) {
  return (
    <aside
      aria-label="What was handed over"
      className="flex min-h-0 flex-col gap-3 overflow-y-auto border-l border-rule bg-paper px-3.5 py-2.5"
    >
      {last && (
        <section aria-label="Since the last hand-off">
          <h2 className="rubric">Since the last hand-off</h2>
          {changes.length === 0 && <p className="text-ink-soft">Nothing has changed.</p>}
          <ul>
            {changes.map(({ name, from, to }) => (
              <li key={name} className="border-b border-rule/60 py-0.5" data-changed={name}>
                <span className="digits block truncate text-[13px]">{name}</span>
                <span className="digits text-xs text-ink-soft">
                  {words(from)} → <span className="text-ink">{words(to)}</span>
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <HandedList kept={kept} />
    </aside>
  );
}

/** All that was handed over, newest first, with the values of each. */
export function HandedList({ kept }: { kept: readonly KeptHandOff[] }) {
  const [open, show] = useState<string | null>(null);
  return (
    <section aria-label="Hand-offs">
      <h2 className="rubric">Handed over</h2>
      {kept.length === 0 && (
        <p className="text-ink-soft">Nothing yet. Save or Copy records the hand-off here, with its revision, units and names.</p>
      )}
      <ul>
        {kept.map(({ id, createdAt, tuning, changedSince, to, units, label, values }) => (
          <li key={id} className="border-b border-rule/60 py-0.5">
            <button
              type="button"
              aria-expanded={open === id}
              className="min-h-6 w-full text-left hover:underline"
              onClick={() => show(open === id ? null : id)}
            >
              <span className="flex justify-between gap-2">
                <b className="truncate font-semibold">{label || `rev ${tuning.revision}`}</b>
                <span className="shrink-0 text-xs text-ink-soft">{when.format(new Date(createdAt))}</span>
              </span>
              <span className="block text-xs text-ink-soft">
                rev {tuning.revision}
                {changedSince && '+'}, {to === 'source' ? 'your code' : writers.find((writer) => writer.id === to)?.title}, {units}
              </span>
            </button>
            {open === id && (
              <dl className="digits max-h-48 overflow-y-auto text-xs">
                {Object.entries(values).map(([name, value]) => (
                  <div key={name} className="flex justify-between gap-2">
                    <dt className="truncate">{name}</dt>
                    <dd>{words(value)}</dd>
                  </div>
                ))}
              </dl>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
