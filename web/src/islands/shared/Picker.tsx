import type { Named } from '../../server/data/openings.ts';

/** A name that opens another tuning or ground. Work is kept as a draft before the page is left. */
export function Picker({ label, here, options, go }: { label: string; here: string; options: readonly Named[]; go(id: string): void }) {
  return (
    <select
      aria-label={label}
      className="field-sizing-content max-w-48 border-b border-rule bg-transparent font-semibold text-ink"
      value={here}
      onChange={(event) => go(event.target.value)}
    >
      {options.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  );
}
