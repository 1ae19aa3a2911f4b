import { type Snag, snagWords } from '@zygopod/core';
import { useState } from 'react';
import { type SnagActions, SnagDetails } from './SnagRow.tsx';
import { severityMarks } from './severityMarks.ts';
import type { SnagGroup } from './snagGroups.ts';

/** One kind of snag in a line; opened, each of its snags with its numbers, its mend, and a link to its place. */
export function SnagGroupRow({ group, actions, keyOf }: { group: SnagGroup; actions: SnagActions; keyOf(snag: Snag): string }) {
  const { id, severity, title, snags } = group;
  const [isOpen, open] = useState(false);
  const { mark, text, words } = severityMarks[severity];
  return (
    <li className="border-b border-rule/60" data-snag={id} data-count={snags.length}>
      <button
        type="button"
        aria-expanded={isOpen}
        title={snagWords[id][1]}
        className={`flex min-h-6 w-full items-baseline gap-1.5 py-0.5 text-left font-semibold ${text}`}
        onClick={() => open(!isOpen)}
      >
        <span aria-hidden="true">{mark}</span>
        <span className="sr-only">{words}: </span>
        <span className="flex-1">{title}</span>
        <span aria-hidden="true" className="text-ink-soft">
          {isOpen ? '▾' : '▸'}
        </span>
      </button>
      {isOpen && (
        <ul className="pb-1">
          {snags.map((snag) => (
            <li key={keyOf(snag)} className="pl-4">
              <SnagDetails snag={snag} actions={actions} />
            </li>
          ))}
        </ul>
      )}
    </li>
  );
}
