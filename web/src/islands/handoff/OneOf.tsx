/** One of a few that stand under each other; `beside` is small print at the end of a line. */
export function OneOf({
  title,
  name,
  all,
  chosen,
  choose,
}: {
  title: string;
  name: string;
  all: readonly { id: string; title: string; beside?: string; disabled?: boolean }[];
  chosen: string;
  choose(id: string): void;
}) {
  return (
    <fieldset>
      <legend className="rubric">{title}</legend>
      {all.map(({ id, title, beside, disabled = false }) => (
        <label
          key={id}
          className="relative -mx-2 flex min-h-6 cursor-pointer items-center justify-between px-2 has-checked:bg-ink has-checked:text-sheet has-disabled:cursor-default has-disabled:text-ink-soft has-focus-visible:outline-2"
        >
          <input
            type="radio"
            name={name}
            className="absolute inset-0 size-full cursor-pointer opacity-0 disabled:cursor-default"
            checked={chosen === id}
            disabled={disabled}
            onChange={() => choose(id)}
          />
          {title}
          {beside && (
            <span aria-hidden="true" className="digits text-xs">
              {beside}
            </span>
          )}
        </label>
      ))}
    </fieldset>
  );
}
