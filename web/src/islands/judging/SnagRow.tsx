import { type Snag, snagWords } from '@zygopod/core';
import { severityMarks } from './severityMarks.ts';

/** Actions of a list of snags on each one. */
export interface SnagActions {
  /** Goes to the parameter. */
  row?(path: string): void;
  /** Goes to the moment or the place. */
  look?(snag: Snag): void;
  /** Tries the mend while it is pointed at; null ends that. */
  preview?(snag: Snag | null): void;
  mend?(snag: Snag): void;
}

/** A snag: what is wrong, by which numbers, why it matters, and what cures it. */
export function SnagRow({ snag, actions }: { snag: Snag; actions: SnagActions }) {
  const { id, severity } = snag;
  const [name, why] = snagWords[id];
  const { mark, text, words } = severityMarks[severity];
  return (
    <li className="border-b border-rule/60 py-1.5" data-snag={id}>
      <p className={`flex items-baseline gap-1.5 font-semibold ${text}`}>
        <span aria-hidden="true">{mark}</span>
        <span className="sr-only">{words}: </span>
        <span title={why}>{name}</span>
      </p>
      <SnagDetails snag={snag} actions={actions} />
    </li>
  );
}

/** The numbers that show a snag, and what can be done about it. */
export function SnagDetails({ snag, actions }: { snag: Snag; actions: SnagActions }) {
  const { path, evidence, mend, time, place, drill } = snag;
  const canLook = actions.look && (time !== undefined || place !== undefined);
  return (
    <>
      <p className="text-xs text-ink-soft">
        {evidence}
        {drill && `, in the drill ${drill.replaceAll('-', ' ')}`}
      </p>
      <p className="flex flex-wrap gap-x-3">
        {mend && actions.mend && (
          <button
            type="button"
            className="action min-h-6 text-left text-xs"
            title="Point at it to try it; click to apply it"
            data-mend=""
            onPointerEnter={() => actions.preview?.(snag)}
            onPointerLeave={() => actions.preview?.(null)}
            onFocus={() => actions.preview?.(snag)}
            onBlur={() => actions.preview?.(null)}
            onClick={() => actions.mend?.(snag)}
          >
            {mend.words}
          </button>
        )}
        {path && actions.row && (
          <button type="button" className="action min-h-6 text-xs" title={path} onClick={() => actions.row?.(path)}>
            Show its row
          </button>
        )}
        {canLook && (
          <button type="button" className="action min-h-6 text-xs" onClick={() => actions.look?.(snag)}>
            {time === undefined ? 'Show where' : `At ${time.toFixed(2)} s`}
          </button>
        )}
      </p>
    </>
  );
}
