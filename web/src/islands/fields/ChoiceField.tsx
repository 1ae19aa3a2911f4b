import { type ChoiceSpec, specOf } from '@zygopod/core';
import { useId } from 'react';
import { useChoice } from './model.ts';

/** A row with one of several options. */
export function ChoiceField({ path }: { path: string }) {
  const id = useId();
  const { value, was, set } = useChoice(path);
  const spec = specOf(path) as ChoiceSpec;
  return (
    <div className="flex min-h-6 items-baseline gap-1.5 border-t border-rule/60 py-px">
      <label htmlFor={id} title={spec.help} className="min-w-0 flex-1 truncate">
        {was !== null && (
          <span className="mr-1 font-bold text-now" aria-hidden="true">
            •
          </span>
        )}
        {spec.label}
        {was !== null && <span className="digits ml-1.5 text-[11px] text-ink-soft">was {spec.words?.[was] ?? was}</span>}
      </label>
      <select
        id={id}
        value={String(value)}
        onChange={(event) => {
          set(event.target.value);
          // The next letter drives; it does not choose another option.
          event.target.blur();
        }}
        className="digits border-b border-ink bg-transparent font-medium"
      >
        {spec.options.map((option) => (
          <option key={option} value={option}>
            {spec.words?.[option] ?? option}
          </option>
        ))}
      </select>
    </div>
  );
}

/** A row with a yes or no. */
export function FlagField({ path }: { path: string }) {
  const id = useId();
  const { value, was, set } = useChoice(path);
  const spec = specOf(path);
  return (
    <div className="flex min-h-6 items-center gap-1.5 border-t border-rule/60">
      <label htmlFor={id} title={spec.help} className="min-w-0 flex-1 truncate">
        {was !== null && (
          <span className="mr-1 font-bold text-now" aria-hidden="true">
            •
          </span>
        )}
        {spec.label}
      </label>
      <input id={id} type="checkbox" checked={value === true} onChange={(event) => set(event.target.checked)} />
    </div>
  );
}
