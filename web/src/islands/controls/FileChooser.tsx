import type { RefObject } from 'react';

/** The browser's own choice of files, of JSON without other kinds, opened by `chooser.current.click()`; the same file can be chosen again. */
export function FileChooser({
  chooser,
  label,
  many = false,
  accept = '.json',
  choose,
}: {
  chooser: RefObject<HTMLInputElement | null>;
  label: string;
  many?: boolean;
  accept?: string;
  choose(files: readonly File[]): void;
}) {
  return (
    <input
      ref={chooser}
      type="file"
      multiple={many}
      hidden
      accept={accept}
      aria-label={label}
      onChange={(event) => {
        const files = [...(event.target.files ?? [])];
        event.target.value = '';
        if (files.length > 0) choose(files);
      }}
    />
  );
}
