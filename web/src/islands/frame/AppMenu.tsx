import { useCallback, useRef, useState } from 'react';
import { useDismiss } from '../controls/useDismiss.ts';

interface Entry {
  label: string;
  key?: string;
  run(): void;
}

/** What concerns the application and not what is open: one small menu at the right end of the header. */
export function AppMenu({ entries }: { entries: readonly Entry[] }) {
  const [isOpen, setOpen] = useState(false);
  const menu = useRef<HTMLDivElement>(null);
  const close = useCallback(() => setOpen(false), []);
  useDismiss(menu, isOpen, close);
  return (
    <div ref={menu} className="relative">
      <button
        type="button"
        aria-label="Application menu"
        aria-expanded={isOpen}
        title="Appearance, keys, API, about"
        className="grid size-6 place-items-center border border-transparent text-ink-soft hover:border-rule hover:text-ink aria-expanded:border-ink aria-expanded:text-ink"
        onClick={() => setOpen(!isOpen)}
      >
        <svg width="16" height="4" viewBox="0 0 16 4" aria-hidden="true" className="fill-current">
          <path d="M0 0h4v4H0zM6 0h4v4H6zM12 0h4v4h-4z" />
        </svg>
      </button>
      {isOpen && (
        <ul className="absolute top-full right-0 z-40 mt-1 w-52 border border-ink bg-sheet py-1">
          {entries.map(({ label, key, run }) => (
            <li key={label}>
              <button
                type="button"
                className="flex min-h-7 w-full items-center justify-between px-3 text-left hover:bg-paper"
                onClick={() => {
                  close();
                  run();
                }}
              >
                {label}
                {key && <kbd className="keycap">{key}</kbd>}
              </button>
            </li>
          ))}
          <li>
            <a href="/api" className="flex min-h-7 items-center px-3 hover:bg-paper">
              API reference
            </a>
          </li>
        </ul>
      )}
    </div>
  );
}
