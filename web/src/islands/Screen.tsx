import { lazy, type ReactNode, Suspense } from 'react';
import type { Opening } from '../server/data/openings.ts';
import { screens } from './screens.ts';
import { ScreensContext } from './work/place.ts';

const islands = new Map(screens.map(({ id, island }) => [id, lazy(async () => ({ default: await island() }))]));

/** The one island of a page: shows the screen that the address names. */
export function Screen({ id, opening, waiting }: { id: string; opening: Opening; waiting?: ReactNode }) {
  const here = screens.find((screen) => screen.id === id);
  const Island = islands.get(id);
  if (!here || !Island) throw new Error(`no screen is called ${id}`);
  return (
    <ScreensContext value={{ screens, here }}>
      <Suspense fallback={waiting}>
        <Island opening={opening} />
      </Suspense>
    </ScreensContext>
  );
}
