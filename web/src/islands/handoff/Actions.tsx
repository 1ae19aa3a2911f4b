import { download } from '../controls/download.ts';
import { useCopy } from '../controls/useCopy.ts';

/** Saves or copies a text that is at hand; what was done is said beside it. */
export function Actions({
  name,
  text,
  type = 'text/plain',
  copied,
}: {
  name: string;
  text: (() => string) | null;
  type?: string;
  copied?: string;
}) {
  const { said, copy } = useCopy(copied);
  return (
    <span className="ml-auto flex items-baseline gap-4">
      <span role="status" className="text-ink-soft">
        {said}
      </span>
      <button type="button" className="action min-h-6" disabled={!text} onClick={() => text && download(name, text(), type)}>
        Save
      </button>
      <button type="button" className="action min-h-6 font-semibold" disabled={!text} onClick={() => text && copy(text())}>
        Copy
      </button>
    </span>
  );
}
