import { handOffPathFault, readUnits, shortNumber } from '@zygopod/core';
import { useState } from 'react';
import type { StoredSource } from '../../source/kept.ts';
import { whenWords } from '../../work/when.ts';

/** The source that is kept: where it is from, how it is read, how precisely it is written, and the file that it is linked to. */
export function SourcePanel({
  stored,
  more,
  again,
  forget,
  link,
}: {
  stored: StoredSource;
  /** Digits beyond those of the source. */
  more: number;
  again(): void;
  forget(): void;
  link(path: string | null): void;
}) {
  const { source, revision, updatedAt } = stored;
  const units = readUnits(source.units);
  const rows =
    typeof units === 'string'
      ? []
      : [
          [
            'Lengths',
            units.length === 'tiles'
              ? `tiles of ${shortNumber(units.tile)} px`
              : units.length === 'm'
                ? `metres of ${shortNumber(units.metre)} px`
                : 'pixels',
          ],
          ['Times', units.time === 'frame' ? `frames at ${shortNumber(units.hz)} Hz` : 'seconds'],
          ['Angles', units.angle === 'radian' ? 'radians' : 'degrees'],
          ['Precision', more === 0 ? 'as written' : `${more} more ${more === 1 ? 'digit' : 'digits'}`],
        ];
  return (
    <aside aria-label="Source" className="flex min-h-0 flex-col gap-3 overflow-y-auto border-r border-rule bg-paper px-3.5 py-2.5">
      <section>
        <h2 className="rubric mb-1">Source</h2>
        <p className="digits truncate font-semibold" title={source.name}>
          {source.name}
        </p>
        <p className="text-xs text-ink-soft">
          kept {whenWords(updatedAt)}, rev {revision}
        </p>
        <p className="flex gap-4">
          <button type="button" className="action min-h-6" onClick={again}>
            Paste it again
          </button>
          <button type="button" className="action min-h-6" title="Keeps the tuning and removes your code from it" onClick={forget}>
            Forget
          </button>
        </p>
      </section>
      <section className="border-t border-rule pt-2">
        <h2 className="rubric mb-1">Read as</h2>
        <dl>
          {rows.map(([term, words]) => (
            <div key={term} className="flex min-h-6 items-baseline justify-between gap-2">
              <dt className="text-ink-soft">{term}</dt>
              <dd className="digits text-right text-[13px]">{words}</dd>
            </div>
          ))}
        </dl>
      </section>
      <Linked path={stored.path} link={link} />
    </aside>
  );
}

/** The file of the project's folder that the source is linked to. */
function Linked({ path, link }: { path: string | null; link(path: string | null): void }) {
  const [own, set] = useState<string | null>(null);
  const wanted = (own ?? '').trim();
  const fault = wanted === '' ? null : handOffPathFault(wanted);
  return (
    <section className="border-t border-rule pt-2" aria-label="In the folder">
      <h2 className="rubric mb-1">In the folder</h2>
      {path !== null ? (
        <>
          <p className="digits text-[13px] break-all">{path}</p>
          <p className="text-xs text-ink-soft">
            With --files, each saved revision is written there, and each edit by hand becomes a revision.
          </p>
          <button type="button" className="action min-h-6" onClick={() => link(null)}>
            Unlink
          </button>
        </>
      ) : (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            if (wanted !== '' && !fault) {
              link(wanted);
              set(null);
            }
          }}
        >
          <input
            aria-label="File to link"
            data-work=""
            className="digits mt-0.5 min-h-6 w-full border-b border-rule bg-transparent text-[13px]"
            placeholder="game/player.lua"
            maxLength={200}
            spellCheck={false}
            value={own ?? ''}
            aria-invalid={fault !== null}
            onChange={(event) => set(event.target.value)}
          />
          <p className={`text-xs ${fault ? 'text-now' : 'text-ink-soft'}`} role={fault ? 'alert' : undefined}>
            {fault ? `▲ ${fault}` : 'Below the folder that up --files mirrors.'}
          </p>
          <button type="submit" className="action min-h-6" disabled={wanted === '' || fault !== null}>
            Link
          </button>
        </form>
      )}
    </section>
  );
}
