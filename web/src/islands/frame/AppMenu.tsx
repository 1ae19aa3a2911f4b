import { Menu } from '../controls/Menu.tsx';
import type { Command } from '../work/commands.ts';

/** Menu of the application itself, at the right end of the header. */
export function AppMenu({ commands }: { commands: readonly Command[] }) {
  return (
    <Menu
      label={
        <svg width="16" height="4" viewBox="0 0 16 4" aria-hidden="true" className="fill-current">
          <path d="M0 0h4v4H0zM6 0h4v4H6zM12 0h4v4h-4z" />
        </svg>
      }
      name="Application menu"
      title="Appearance, keys, API, about"
      side="under"
      edge="right"
      className="grid size-6 place-items-center border border-transparent text-ink-soft hover:border-rule hover:text-ink aria-expanded:border-ink aria-expanded:text-ink"
    >
      {(close) => (
        <ul className="w-48">
          {commands.map(({ id, label, key, run }) => (
            <li key={id}>
              <button
                type="button"
                className="flex min-h-7 w-full items-center justify-between text-left hover:text-now"
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
            <a href="/api" className="flex min-h-7 items-center hover:text-now">
              API reference
            </a>
          </li>
        </ul>
      )}
    </Menu>
  );
}
