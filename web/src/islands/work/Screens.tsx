import { addressOf, type Place, useScreens } from './place.ts';

/** The screens there are, the present one underlined. Drafts are kept before a page is left. */
export function Screens({ place }: { place: Place }) {
  const { screens, here } = useScreens();
  return (
    <nav aria-label="Screens" className="flex h-full shrink-0 items-stretch gap-1">
      {screens.map((screen) => (
        <a
          key={screen.id}
          href={addressOf(screen, place)}
          aria-current={screen.id === here.id ? 'page' : undefined}
          className="flex items-center border-b-3 border-transparent px-2 text-ink-soft hover:text-ink aria-[current=page]:border-now aria-[current=page]:font-semibold aria-[current=page]:text-ink"
        >
          {screen.title}
        </a>
      ))}
    </nav>
  );
}
