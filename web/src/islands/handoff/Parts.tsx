import { type Part, parts } from './handOffs.ts';

/** The parts of a hand-off: the numbers, the motion itself, its formulas, or checks for a build server. */
export function Parts({ part, choose }: { part: Part | null; choose(part: Part): void }) {
  return (
    <fieldset className="flex gap-4 border-b border-rule px-3.5">
      <legend className="sr-only">What is handed over</legend>
      {(Object.keys(parts) as Part[]).map((id) => (
        <label
          key={id}
          className="relative flex min-h-8 cursor-pointer items-center border-b-2 border-transparent text-ink-soft has-checked:border-ink has-checked:font-semibold has-checked:text-ink has-focus-visible:outline-2"
        >
          <input
            type="radio"
            name="part"
            className="absolute inset-0 size-full cursor-pointer opacity-0"
            checked={part === id}
            onChange={() => choose(id)}
          />
          {parts[id]}
        </label>
      ))}
    </fieldset>
  );
}
