import { type SetSpec, specOf } from '@zygopod/core';
import { useChoice } from './model.ts';

/** A row with any of several options. */
export function SetField({ path }: { path: string }) {
  const { value, was, set } = useChoice(path);
  const spec = specOf(path) as SetSpec;
  const chosen = value as readonly string[];
  return (
    <fieldset className="flex items-baseline gap-2 border-t border-rule/60 py-[2px]" title={spec.help}>
      <legend className="float-left mr-auto pr-2">
        {was !== null && (
          <span className="mr-1 font-bold text-now" aria-hidden="true">
            •
          </span>
        )}
        {spec.label}
      </legend>
      {spec.options.map((option) => (
        <label key={option} className="digits flex items-center gap-1 text-xs">
          <input
            type="checkbox"
            className="accent-(--ink)"
            checked={chosen.includes(option)}
            onChange={(event) => set(spec.options.filter((o) => (o === option ? event.target.checked : chosen.includes(o))))}
          />
          {option}
        </label>
      ))}
    </fieldset>
  );
}
