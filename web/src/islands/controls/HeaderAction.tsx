/** A word in a header that does something; a `spare` one, which has a key, makes room on a narrow page. */
export function HeaderAction({
  label,
  title,
  off = false,
  spare = false,
  run,
}: {
  label: string;
  title: string;
  off?: boolean;
  spare?: boolean;
  run(): void;
}) {
  return (
    <button
      type="button"
      title={title}
      disabled={off}
      className={`text-ink-soft hover:text-ink disabled:opacity-45 ${spare ? 'max-[1140px]:hidden' : ''}`}
      onClick={run}
    >
      {label}
    </button>
  );
}
