import { type ComponentType, lazy, type ReactNode, Suspense } from 'react';
import { type AnyOpening, screens } from './screens.ts';
import { ScreensContext } from './work/place.ts';
import { $project } from './work/project.ts';

const islands = new Map(
  screens.map(({ id, island }) => [id, lazy(async () => ({ default: (await island()) as ComponentType<{ opening: AnyOpening }> }))]),
);

/** The one island of a page: shows the screen that the address names. */
export function Screen({ id, opening, waiting }: { id: string; opening: AnyOpening; waiting?: ReactNode }) {
  const here = screens.find((screen) => screen.id === id);
  const Island = islands.get(id);
  if (!here || !Island) throw new Error(`no screen is called ${id}`);
  $project.set(opening.project);
  return (
    <ScreensContext value={{ screens, here }}>
      <Suspense fallback={waiting}>
        <Island opening={opening} />
      </Suspense>
    </ScreensContext>
  );
}
