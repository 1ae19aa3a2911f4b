import type { KeyboardEvent } from 'react';
import { Mark } from '../controls/Mark.tsx';
import { addressOf, type Place, type ScreenName } from '../work/place.ts';

interface Props {
  screens: readonly ScreenName[];
  /** The open screen; null on a page that is none. */
  here: ScreenName | null;
  place: Place;
}

/** The thumb index at the left edge: a link to every screen, the open one on the sheet's colour. Needs no script. */
export function ScreenIndex({ screens, here, place }: Props) {
  return (
    <nav aria-label="Screens" className="hidden w-[30px] shrink-0 flex-col border-r border-ink bg-paper min-[900px]:flex">
      <a href="/" className="grid h-10 shrink-0 place-items-center border-b border-ink" aria-label="Zygopod: open the bench">
        <Mark />
      </a>
      {screens.map((screen) => (
        <a
          key={screen.id}
          href={addressOf(screen, place)}
          aria-current={screen.id === here?.id ? 'page' : undefined}
          className="group relative grid min-h-16 flex-1 place-items-center border-b border-rule text-ink-soft last:border-b-0 hover:text-ink aria-[current=page]:bg-sheet aria-[current=page]:font-semibold aria-[current=page]:text-ink"
        >
          <span aria-hidden="true" className="absolute inset-y-0 left-0 w-[3px] bg-transparent group-aria-[current=page]:bg-now" />
          <span className="rotate-180 whitespace-nowrap [writing-mode:vertical-rl]">{screen.title}</span>
        </a>
      ))}
    </nav>
  );
}

/** The same index as a menu, in a narrow window or at 200 % zoom. */
export function ScreenMenu({ screens, here, place }: Props) {
  const closeOnEscape = (event: KeyboardEvent<HTMLDetailsElement>) => {
    if (event.key === 'Escape') event.currentTarget.open = false;
  };
  return (
    <details className="relative min-[900px]:hidden" onKeyDown={closeOnEscape}>
      <summary className="flex min-h-8 cursor-pointer list-none items-center gap-2 font-semibold" aria-label="Screens">
        <Mark />
        {here?.title ?? 'Screens'}
        <span aria-hidden="true" className="text-ink-soft">
          ▾
        </span>
      </summary>
      <nav aria-label="Screens" className="absolute top-full left-0 z-40 w-44 border border-ink bg-sheet py-1">
        {screens.map((screen) => (
          <a
            key={screen.id}
            href={addressOf(screen, place)}
            aria-current={screen.id === here?.id ? 'page' : undefined}
            className="flex min-h-8 items-center border-l-3 border-transparent px-3 hover:bg-paper aria-[current=page]:border-now aria-[current=page]:font-semibold"
          >
            {screen.title}
          </a>
        ))}
      </nav>
    </details>
  );
}
