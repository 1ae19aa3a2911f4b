import {
  type FileValue,
  type GameUnits,
  gameUnitWords,
  inGameUnits,
  isLink,
  type Missing,
  numberAt,
  significant,
  specOf,
  specs,
  type Tuning,
} from '@zygopod/core';

/** A value of a tuning in words, in the game's units. */
function valueWords(path: string, value: FileValue, { file, parameters }: Tuning, units: GameUnits): string {
  const spec = specOf(path);
  const own = isLink(value) ? numberAt(parameters, path) : value;
  if (typeof own === 'string') return own;
  if (typeof own === 'boolean') return own ? 'on' : 'off';
  if (typeof own !== 'number' || spec.kind !== 'number') return JSON.stringify(own);
  const number = significant(inGameUnits(own, spec.quantity, file.unit ?? 'px', units), 3);
  return `${number} ${gameUnitWords(spec.quantity, units).replace('^2', '²')}`.trim();
}

/** Numbers that were tuned and have no place in the source: each with the line that it could have. */
export function MissingNumbers({
  missing,
  skipped,
  tuning,
  units,
  add,
  skip,
}: {
  missing: readonly Missing[];
  skipped: readonly string[];
  tuning: Tuning;
  units: GameUnits;
  add(path: string, isAdded: boolean): void;
  skip(path: string, isSkipped: boolean): void;
}) {
  if (missing.length === 0 && skipped.length === 0) return null;
  return (
    <section aria-label="Not in your code, but tuned" className="mt-3 max-h-52 shrink-0 overflow-y-auto">
      <h2 className="font-semibold">Not in your code, but tuned</h2>
      {missing.length > 0 && <p className="text-ink-soft">Your code has no number for these: the game stays as it is.</p>}
      <ul className="mt-1">
        {missing.map(({ path, value, line, isAdded }) => (
          <li
            key={path}
            data-missing={path}
            className="grid min-h-7 grid-cols-[150px_110px_minmax(0,1fr)_auto_auto] items-baseline gap-4 border-b border-rule/60"
          >
            <span className="truncate" title={path}>
              {specOf(path).label}
            </span>
            <span className="digits text-right text-[13px]">{valueWords(path, value, tuning, units)}</span>
            <span className="digits truncate text-[13px] text-ink-soft" title={line?.text.trim()}>
              {line ? line.text.trim() : 'no line there to write it like'}
            </span>
            {line ? (
              <button type="button" className="action min-h-6" onClick={() => add(path, !isAdded)}>
                {isAdded ? 'Leave this line out' : 'Add this line'}
              </button>
            ) : (
              <span />
            )}
            <button type="button" className="min-h-6 text-ink-soft underline" onClick={() => skip(path, true)}>
              Not in my game
            </button>
          </li>
        ))}
      </ul>
      {skipped.length > 0 && (
        <p className="mt-1 text-xs text-ink-soft">
          Not in your game:{' '}
          {skipped.map((path) => (
            <button key={path} type="button" className="mr-2 min-h-6 underline" title="Show it again" onClick={() => skip(path, false)}>
              {specs.get(path)?.label ?? path}
            </button>
          ))}
        </p>
      )}
    </section>
  );
}
